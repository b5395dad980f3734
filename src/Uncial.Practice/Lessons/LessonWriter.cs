using System.Text;
using System.Text.Json;
using Uncial.Core.Parts;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Lessons;

/// <summary>Writes a lesson as the file that <see cref="LessonFile"/> reads.</summary>
public static class LessonWriter
{
    private static readonly JsonWriterOptions Options = new()
    {
        Indented = true,
        // Texts are for people: letters stay letters.
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    private static readonly LessonWear Usual = new() { Left = default };

    /// <summary>The file of a lesson.</summary>
    public static string Write(Lesson lesson)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, Options))
            Whole(json, lesson);
        return Encoding.UTF8.GetString(stream.ToArray()) + "\n";
    }

    private static void Whole(Utf8JsonWriter json, Lesson lesson)
    {
        json.WriteStartObject();
        json.WriteString("format", LessonFile.Format);
        json.WriteNumber("version", 1);
        json.WriteString("id", lesson.Id);
        json.WriteString("title", lesson.Title);
        json.WriteString("about", lesson.About);
        json.WriteNumber("grade", lesson.Grade);
        json.WriteNumber("minutes", lesson.Minutes);
        json.WriteString("mistake", Name(lesson.Mistake));
        json.WriteStartObject("part");
        json.WriteString("kind", Name(lesson.Part.Kind));
        Sizes(json, lesson.Part);
        json.WriteNumber("holeMm", lesson.Part.HoleMm);
        json.WriteNumber("faceMm", lesson.Part.FaceMm);
        json.WriteNumber("webMm", lesson.Part.WebMm);
        json.WriteEndObject();
        Wear(json, lesson.Wear);
        if (lesson.Hat is { } hat)
        {
            json.WriteStartObject("hat");
            Sizes(json, hat.Part);
            Wear(json, hat.Wear);
            json.WriteString("decision", Name(hat.Decision));
            json.WriteEndObject();
        }
        json.WriteStartArray("gauges");
        foreach (var gauge in lesson.Gauges)
        {
            json.WriteStartObject();
            json.WriteString("kind", NameOf(gauge.Design));
            Range(json, "biasMm", gauge.BiasMm, default);
            Range(json, "shiftedMm", gauge.ShiftedMm, default);
            json.WriteEndObject();
        }
        json.WriteEndArray();
        json.WriteStartObject("lathe");
        json.WriteNumber("divisionMm", lesson.Lathe.DivisionMm);
        json.WriteBoolean("countsDiameter", lesson.Lathe.CountsDiameter);
        json.WriteNumber("playMm", lesson.Lathe.PlayMm);
        json.WriteNumber("edgeWorn", lesson.Lathe.EdgeWorn);
        json.WriteNumber("reachMm", lesson.Lathe.ReachMm);
        json.WriteBoolean("dirty", lesson.Lathe.IsDirty);
        json.WriteEndObject();
        json.WriteStartArray("marked");
        foreach (var skill in lesson.Marked)
            json.WriteStringValue(Name(skill));
        json.WriteEndArray();
        json.WriteString("decision", Name(lesson.Decision));
        json.WriteEndObject();
    }

    private static void Sizes(Utf8JsonWriter json, LessonPart part)
    {
        json.WriteNumber("nominalMm", part.NominalMm);
        json.WriteNumber("machineToMm", part.MachineToMm);
        json.WriteNumber("discardMm", part.DiscardMm);
        if (part.Kind == PartKind.Rotor)
            json.WriteNumber("edgeMm", part.EdgeMm);
        json.WriteStartArray("cast");
        foreach (var line in part.Cast)
            json.WriteStringValue(line);
        json.WriteEndArray();
    }

    private static void Wear(Utf8JsonWriter json, LessonWear wear)
    {
        json.WriteStartObject("wear");
        Range(json, "leftMm", wear.Left, null);
        Range(json, "runoutMm", wear.Runout, Usual.Runout);
        Range(json, "variationMm", wear.Variation, Usual.Variation);
        Range(json, "ovalMm", wear.Oval, Usual.Oval);
        Range(json, "atDegrees", wear.At, Usual.At);
        Range(json, "eccentricityMm", wear.Eccentricity, Usual.Eccentricity);
        Range(json, "taperMm", wear.Taper, Usual.Taper);
        if (wear.Grooves.Count > 0)
        {
            json.WriteStartArray("groovesMm");
            foreach (var groove in wear.Grooves)
                Value(json, groove);
            json.WriteEndArray();
        }
        Range(json, "lowLandMm", wear.LowLand, Usual.LowLand);
        Range(json, "ridgeMm", wear.Ridge, Usual.Ridge);
        Range(json, "rustMm", wear.Rust, Usual.Rust);
        Range(json, "hardSpotMm", wear.HardSpot, Usual.HardSpot);
        if (wear.HasCrack)
            json.WriteBoolean("crack", true);
        json.WriteEndObject();
    }

    /// <summary>A figure or a pair; nothing where it is what it is without being written.</summary>
    private static void Range(Utf8JsonWriter json, string name, Range range, Range? usual)
    {
        if (range == usual)
            return;
        json.WritePropertyName(name);
        Value(json, range);
    }

    private static void Value(Utf8JsonWriter json, Range range)
    {
        if (range.Low == range.High)
        {
            json.WriteNumberValue(range.Low);
            return;
        }
        json.WriteStartArray();
        json.WriteNumberValue(range.Low);
        json.WriteNumberValue(range.High);
        json.WriteEndArray();
    }

    /// <summary>The name of a gauge in files.</summary>
    public static string NameOf(GaugeDesign design) => LessonFile.Gauges.First(g => g.Value == design).Key;

    private static string Name<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
}
