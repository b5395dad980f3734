using System.Globalization;
using System.Text.Json;
using Uncial.Core.Lengths;

namespace Uncial.Data.Exchange;

internal static class JsonVersion
{
    public static bool TryGetVersion(this JsonElement element, out int version)
    {
        version = 0;
        return element.ValueKind == JsonValueKind.Number && element.TryGetInt32(out version);
    }
}

/// <summary>Looks at the shape of a job file: what must be there, what may not, and of which kind every value is.</summary>
internal sealed class JobShape
{
    private enum Kind
    {
        Text,
        Whole,
        Number,
        Flag,
        Time,
        Numbers,
        Limits,
        Readings,
        Passes,
        Confirmations,
        Surfaces,
        Outcomes,
        Parts,
    }

    private static readonly Dictionary<Kind, (string Name, Kind Of, bool Needed)[]> Shapes = new()
    {
        [Kind.Parts] =
        [
            ("tag", Kind.Text, true),
            ("visit", Kind.Whole, false),
            ("corner", Kind.Text, true),
            ("mark", Kind.Text, false),
            ("kmSinceNew", Kind.Whole, false),
            ("surfaces", Kind.Surfaces, true),
            ("outcomes", Kind.Outcomes, false),
        ],
        [Kind.Surfaces] =
        [
            ("kind", Kind.Text, true),
            ("inHat", Kind.Flag, false),
            ("diameterMm", Kind.Number, true),
            ("bandMm", Kind.Number, true),
            ("places", Kind.Whole, true),
            ("depthsMm", Kind.Numbers, false),
            ("maxRunoutMm", Kind.Number, false),
            ("maxVariationMm", Kind.Number, false),
            ("limits", Kind.Limits, false),
            ("readings", Kind.Readings, false),
            ("passes", Kind.Passes, false),
            ("confirmations", Kind.Confirmations, false),
        ],
        [Kind.Limits] =
        [
            ("kind", Kind.Text, true),
            ("typed", Kind.Text, true),
            ("unit", Kind.Text, true),
            ("mm", Kind.Number, true),
            ("source", Kind.Text, true),
            ("at", Kind.Time, true),
            ("by", Kind.Text, false),
        ],
        [Kind.Readings] =
        [
            ("of", Kind.Text, true),
            ("degrees", Kind.Number, false),
            ("stationMm", Kind.Number, false),
            ("typed", Kind.Text, true),
            ("unit", Kind.Text, true),
            ("mm", Kind.Number, true),
            ("correctionMm", Kind.Number, false),
            ("resolutionMm", Kind.Number, true),
            ("uncertaintyMm", Kind.Number, true),
            ("cuts", Kind.Whole, true),
            ("gauge", Kind.Text, false),
            ("note", Kind.Text, false),
            ("withdrawn", Kind.Text, false),
            ("at", Kind.Time, true),
            ("by", Kind.Text, false),
        ],
        [Kind.Passes] =
        [
            ("cut", Kind.Whole, true),
            ("depthsMm", Kind.Numbers, true),
            ("kind", Kind.Text, true),
            ("lathe", Kind.Text, false),
            ("at", Kind.Time, true),
            ("by", Kind.Text, false),
        ],
        [Kind.Confirmations] =
        [
            ("cuts", Kind.Whole, true),
            ("worstMm", Kind.Number, true),
            ("uncertaintyMm", Kind.Number, true),
            ("allowanceMm", Kind.Number, false),
            ("discardMm", Kind.Number, true),
            ("machineToMm", Kind.Number, true),
            ("decision", Kind.Text, true),
            ("reason", Kind.Text, false),
            ("at", Kind.Time, true),
            ("by", Kind.Text, false),
        ],
        [Kind.Outcomes] =
        [
            ("kind", Kind.Text, true),
            ("reason", Kind.Text, false),
            ("cause", Kind.Text, false),
            ("place", Kind.Text, false),
            ("preservative", Kind.Text, false),
            ("doNotMachineAgain", Kind.Flag, true),
            ("at", Kind.Time, true),
            ("by", Kind.Text, false),
            ("withdrawn", Kind.Text, false),
        ],
    };

    private static readonly (string, Kind, bool)[] Root =
    [
        ("format", Kind.Text, true),
        ("version", Kind.Whole, true),
        ("shop", Kind.Text, false),
        ("number", Kind.Whole, true),
        ("vehicle", Kind.Text, true),
        ("customer", Kind.Text, false),
        ("odometerKm", Kind.Whole, false),
        ("receivedAt", Kind.Time, true),
        ("parts", Kind.Parts, true),
    ];

    public List<FileFault> Faults { get; } = [];

    public void Check(JsonElement root) => Members(root, "", Root);

    private void Members(JsonElement element, string path, (string Name, Kind Of, bool Needed)[] shape)
    {
        var before = path.Length == 0 ? "" : path + ".";
        foreach (var member in element.EnumerateObject())
            if (!Array.Exists(shape, s => s.Name == member.Name))
                Faults.Add(new(before + member.Name, "No such field in this format."));
        foreach (var (name, of, needed) in shape)
        {
            if (!element.TryGetProperty(name, out var value) || value.ValueKind == JsonValueKind.Null)
            {
                if (needed)
                    Faults.Add(new(before + name, "Missing."));
            }
            else
                Value(value, before + name, of);
        }
    }

    private void Value(JsonElement value, string path, Kind of)
    {
        string? wrong = of switch
        {
            Kind.Text => value.ValueKind == JsonValueKind.String ? null : "A text.",
            Kind.Whole => value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out _) ? null : "A whole number.",
            Kind.Number => value.ValueKind == JsonValueKind.Number && value.TryGetDecimal(out _) ? null : "A number.",
            Kind.Flag => value.ValueKind is JsonValueKind.True or JsonValueKind.False ? null : "true or false.",
            Kind.Time => value.ValueKind == JsonValueKind.String && value.TryGetDateTimeOffset(out _)
                ? null
                : "A time as 2026-11-24T09:30:00Z.",
            _ => value.ValueKind == JsonValueKind.Array ? null : "A list.",
        };
        if (wrong is not null)
        {
            Faults.Add(new(path, wrong));
            return;
        }
        if (value.ValueKind != JsonValueKind.Array)
            return;
        var i = 0;
        foreach (var item in value.EnumerateArray())
        {
            var at = string.Create(CultureInfo.InvariantCulture, $"{path}[{i++}]");
            if (of == Kind.Numbers)
                Value(item, at, Kind.Number);
            else if (item.ValueKind != JsonValueKind.Object)
                Faults.Add(new(at, "An object."));
            else
                Members(item, at, Shapes[of]);
        }
    }
}
