using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Uncial.Core.Parts;
using Uncial.Practice.Drills;
using Uncial.Practice.Lessons;

namespace Uncial.Web.Pages;

/// <summary>How a field of a lesson is typed.</summary>
public enum LessonFieldKind
{
    /// <summary>A line of text.</summary>
    Text,

    /// <summary>Several lines of one text.</summary>
    Paragraph,

    /// <summary>Texts, one a line.</summary>
    Lines,

    /// <summary>A number.</summary>
    Number,

    /// <summary>A number, or two between which the part is drawn: <c>1.2 to 1.6</c>.</summary>
    Range,

    /// <summary>Several of them, parted by semicolons.</summary>
    Ranges,

    /// <summary>Yes or no.</summary>
    Flag,

    /// <summary>One of a set of words.</summary>
    Word,
}

/// <summary>A field of a lesson's form; it is called by its path in the file.</summary>
/// <param name="Path">Its path.</param>
/// <param name="Kind">How it is typed.</param>
/// <param name="Words">The words that it takes; null where it is none.</param>
public sealed record LessonField(string Path, LessonFieldKind Kind, IReadOnlyList<string>? Words = null)
{
    /// <summary>The text that it is called by: fields of the hat and of each gauge are called alike.</summary>
    public string Label => LessonForm.Index.Replace(Path.StartsWith("hat.", StringComparison.Ordinal) ? Path[4..] : Path, "");
}

/// <summary>A lesson as a form: what is typed in its fields, as a file and from one.</summary>
public sealed partial class LessonForm
{
    /// <summary>Gauges that the form has rows for.</summary>
    public const int MostGauges = 5;

    private static readonly string[] PartSizes = ["nominalMm", "machineToMm", "discardMm"];

    private static readonly string[] WearRanges =
    [
        "leftMm",
        "variationMm",
        "runoutMm",
        "ovalMm",
        "eccentricityMm",
        "atDegrees",
        "taperMm",
        "lowLandMm",
        "ridgeMm",
        "rustMm",
        "hardSpotMm",
    ];

    /// <summary>The fields, group by group.</summary>
    public static IReadOnlyList<(string Group, IReadOnlyList<LessonField> Fields)> Groups { get; } =
    [
        (
            "lesson",
            [
                new("id", LessonFieldKind.Text),
                new("title", LessonFieldKind.Text),
                new("grade", LessonFieldKind.Number),
                new("minutes", LessonFieldKind.Number),
                new("mistake", LessonFieldKind.Word, Names<LessonMistake>()),
                new("decision", LessonFieldKind.Word, Names<Decision>()),
                new("about", LessonFieldKind.Paragraph),
            ]
        ),
        (
            "part",
            [
                new("part.kind", LessonFieldKind.Word, Names<PartKind>()),
                .. PartSizes.Append("edgeMm").Select(s => new LessonField("part." + s, LessonFieldKind.Number)),
                new("part.holeMm", LessonFieldKind.Number),
                new("part.faceMm", LessonFieldKind.Number),
                new("part.webMm", LessonFieldKind.Number),
                new("part.cast", LessonFieldKind.Lines),
            ]
        ),
        ("wear", Wear("wear")),
        (
            "hat",
            [
                .. PartSizes.Select(s => new LessonField("hat." + s, LessonFieldKind.Number)),
                new("hat.decision", LessonFieldKind.Word, ["", .. Names<Decision>()]),
                new("hat.cast", LessonFieldKind.Lines),
                .. Wear("hat.wear"),
            ]
        ),
        (
            "gauges",
            [
                .. Enumerable
                    .Range(0, MostGauges)
                    .SelectMany(i =>
                        new LessonField[]
                        {
                            new($"gauges[{i}].kind", LessonFieldKind.Word, ["", .. LessonFile.Gauges.Keys]),
                            new($"gauges[{i}].biasMm", LessonFieldKind.Range),
                            new($"gauges[{i}].shiftedMm", LessonFieldKind.Range),
                        }
                    ),
            ]
        ),
        (
            "lathe",
            [
                .. new[] { "divisionMm", "playMm", "edgeWorn", "reachMm" }.Select(n => new LessonField(
                    "lathe." + n,
                    LessonFieldKind.Number
                )),
                new("lathe.countsDiameter", LessonFieldKind.Flag),
                new("lathe.dirty", LessonFieldKind.Flag),
            ]
        ),
    ];

    private static readonly List<LessonField> All = [.. Groups.SelectMany(g => g.Fields)];

    private readonly Dictionary<string, string> values = new(StringComparer.Ordinal);

    /// <summary>Skills that are marked, by their names in files.</summary>
    public IReadOnlyCollection<string> Marked { get; private set; } = [];

    /// <summary>Names of what can be marked.</summary>
    public static IReadOnlyList<string> Skills { get; } = Names<Skill>();

    /// <summary>What stands in a field.</summary>
    public string this[string path] => values.GetValueOrDefault(path, "");

    [GeneratedRegex(@"\[\d+\]", RegexOptions.None, 200)]
    internal static partial Regex Index { get; }

    [GeneratedRegex(@"\s*(?:\bto\b|–|\.\.)\s*", RegexOptions.None, 200)]
    private static partial Regex Between { get; }

    /// <summary>As it was sent.</summary>
    public static LessonForm Of(IFormCollection sent)
    {
        ArgumentNullException.ThrowIfNull(sent);
        LessonForm form = new() { Marked = [.. sent["marked"].OfType<string>()] };
        foreach (var field in All)
            form.values[field.Path] = sent[field.Path].ToString();
        return form;
    }

    /// <summary>The fields of a lesson's file.</summary>
    public static LessonForm Of(string text)
    {
        var file = JsonNode.Parse(text)!;
        LessonForm form = new() { Marked = [.. file["marked"]!.AsArray().Select(m => m!.GetValue<string>())] };
        foreach (var field in All)
            form.values[field.Path] = Typed(field, At(file, field.Path));
        return form;
    }

    /// <summary>The field at which a fault of a file is told; null where it belongs to none.</summary>
    public static string? FieldOf(string path)
    {
        while (true)
        {
            if (All.Exists(f => f.Path == path))
                return path;
            if (!path.EndsWith(']'))
                return null;
            path = path[..path.LastIndexOf('[')];
        }
    }

    /// <summary>The lesson's file as it would be; what cannot be read stands in it as it was typed, for the reader to name.</summary>
    public string ToFile()
    {
        JsonObject file = new() { ["format"] = LessonFile.Format, ["version"] = 1 };
        var hasHat = PartSizes.Any(s => this["hat." + s].Trim().Length > 0);
        foreach (var field in All.Where(f => !f.Path.StartsWith("gauges[", StringComparison.Ordinal)))
            if ((hasHat || !field.Path.StartsWith("hat.", StringComparison.Ordinal)) && Node(field, this[field.Path]) is { } node)
                Put(file, field.Path, node);
        JsonArray gauges = [];
        for (var i = 0; i < MostGauges; i++)
        {
            JsonObject gauge = [];
            foreach (var field in All.Where(f => f.Path.StartsWith($"gauges[{i}].", StringComparison.Ordinal)))
                if (Node(field, this[field.Path]) is { } node)
                    gauge[field.Path[(field.Path.IndexOf('.', StringComparison.Ordinal) + 1)..]] = node;
            if (gauge.Count > 0)
                gauges.Add(gauge);
        }
        file["gauges"] = gauges;
        file["marked"] = new JsonArray([.. Marked.Select(m => (JsonNode)m)]);
        return file.ToJsonString();
    }

    private static IReadOnlyList<LessonField> Wear(string path) =>
        [
            .. WearRanges.Select(n => new LessonField($"{path}.{n}", LessonFieldKind.Range)),
            new($"{path}.groovesMm", LessonFieldKind.Ranges),
            new($"{path}.crack", LessonFieldKind.Flag),
        ];

    private static JsonNode? At(JsonNode file, string path)
    {
        JsonNode? node = file;
        foreach (var name in path.Split('.'))
        {
            var (key, index) = name.IndexOf('[', StringComparison.Ordinal) is > 0 and var at
                ? (name[..at], int.Parse(name.AsSpan(at + 1, name.Length - at - 2), CultureInfo.InvariantCulture))
                : (name, -1);
            node = (node as JsonObject)?[key];
            if (index >= 0)
                node = node is JsonArray list && index < list.Count ? list[index] : null;
        }
        return node;
    }

    private static void Put(JsonObject file, string path, JsonNode node)
    {
        var names = path.Split('.');
        foreach (var name in names.SkipLast(1))
            file = (JsonObject)(file[name] ??= new JsonObject());
        file[names[^1]] = node;
    }

    private static string Typed(LessonField field, JsonNode? node) =>
        node is null
            ? ""
            : field.Kind switch
            {
                LessonFieldKind.Range => Range(node),
                LessonFieldKind.Ranges => string.Join("; ", node.AsArray().Select(n => Range(n!))),
                LessonFieldKind.Lines => string.Join('\n', node.AsArray().Select(n => n!.GetValue<string>())),
                LessonFieldKind.Number => Figure(node),
                LessonFieldKind.Flag => node.GetValue<bool>() ? "true" : "",
                _ => node.GetValue<string>(),
            };

    private static string Range(JsonNode node) => node is JsonArray ends ? $"{Figure(ends[0]!)} to {Figure(ends[1]!)}" : Figure(node);

    private static string Figure(JsonNode node) => node.GetValue<double>().ToString(CultureInfo.InvariantCulture);

    private static JsonNode? Node(LessonField field, string typed)
    {
        typed = typed.Trim();
        if (typed.Length == 0)
            return null;
        return field.Kind switch
        {
            LessonFieldKind.Number => Number(typed),
            LessonFieldKind.Range => RangeOf(typed),
            LessonFieldKind.Ranges => new JsonArray([
                .. typed.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(RangeOf),
            ]),
            LessonFieldKind.Lines => new JsonArray([
                .. typed.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Select(l => (JsonNode)l),
            ]),
            LessonFieldKind.Flag => true,
            _ => typed,
        };
    }

    private static JsonNode RangeOf(string typed) =>
        Between.Split(typed) is [var low, var high] ? new JsonArray(Number(low), Number(high)) : Number(typed);

    /// <summary>A number; what is none stays as it was typed, and the reader of the file says so.</summary>
    private static JsonNode Number(string typed) =>
        double.TryParse(typed.Trim().Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
        && double.IsFinite(number)
            ? number
            : typed;

    private static IReadOnlyList<string> Names<T>()
        where T : struct, Enum => [.. Enum.GetValues<T>().Select(v => JsonNamingPolicy.CamelCase.ConvertName(v.ToString()))];
}
