using System.Text.Json;
using Uncial.Core.Parts;
using Uncial.Practice.Drills;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Lessons;

/// <summary>What is wrong at a place of a lesson file.</summary>
public enum LessonFault
{
    /// <summary>It is no JSON.</summary>
    NotJson,

    /// <summary>It is no lesson, or of a version that is not known.</summary>
    NotALesson,

    /// <summary>It is missing.</summary>
    Missing,

    /// <summary>It is not of this format.</summary>
    Unknown,

    /// <summary>A text is wanted.</summary>
    NotText,

    /// <summary>A number is wanted.</summary>
    NotNumber,

    /// <summary>A list is wanted.</summary>
    NotList,

    /// <summary>A group of fields is wanted.</summary>
    NotGroup,

    /// <summary>True or false is wanted.</summary>
    NotFlag,

    /// <summary>It is none of the words that may stand there.</summary>
    NotAWord,

    /// <summary>It is less or more than can be.</summary>
    OutOfRange,

    /// <summary>The least of a range is greater than its greatest.</summary>
    RangeReversed,

    /// <summary>It is too long.</summary>
    TooLong,

    /// <summary>There are too few or too many of them.</summary>
    WrongCount,

    /// <summary>Limits are on the wrong side of one another.</summary>
    LimitsReversed,

    /// <summary>No gauge of the lesson measures its part.</summary>
    NoGaugeForPart,

    /// <summary>What is right in the end is not right for the part as it is worn.</summary>
    DecisionNotTrue,
}

/// <summary>A fault with its place, such as <c>wear.leftMm[0]</c>; empty for the file as a whole.</summary>
/// <param name="Path">The place.</param>
/// <param name="Fault">What is wrong there.</param>
public readonly record struct FaultAt(string Path, LessonFault Fault);

/// <summary>
/// Lessons as files (docs/formats/lesson.md). Every fault is named by its place; a lesson comes out only where there is none.
/// </summary>
public static class LessonFile
{
    /// <summary>Longest file that is read, in characters.</summary>
    public const int LongestText = 60_000;

    /// <summary>What stands in <c>format</c>.</summary>
    public const string Format = "uncial-lesson";

    /// <summary>Gauges by their names in files.</summary>
    public static IReadOnlyDictionary<string, GaugeDesign> Gauges { get; } =
        new Dictionary<string, GaugeDesign>(StringComparer.Ordinal)
        {
            ["micrometer"] = GaugeDesign.Micrometer(0, vernier: false),
            ["micrometer25"] = GaugeDesign.Micrometer(25, vernier: false),
            ["micrometerVernier"] = GaugeDesign.Micrometer(0, vernier: true),
            ["micrometerVernier25"] = GaugeDesign.Micrometer(25, vernier: true),
            ["micrometerInch"] = GaugeDesign.InchMicrometer(0, vernier: false),
            ["micrometerInchVernier"] = GaugeDesign.InchMicrometer(0, vernier: true),
            ["caliper"] = GaugeDesign.VernierCaliper,
            ["dialCaliper"] = GaugeDesign.DialCaliper,
            ["barEighths"] = GaugeDesign.BarEighths,
            ["barStarts"] = GaugeDesign.BarStarts,
            ["barStartsInch"] = GaugeDesign.InchBarStarts,
            ["indicator"] = GaugeDesign.Indicator,
            ["indicatorInch"] = GaugeDesign.InchIndicator,
            ["depth"] = GaugeDesign.DepthMicrometer,
        };

    /// <summary>Small letters and digits, in words parted by one hyphen.</summary>
    private static bool IsName(string id) =>
        id.Split('-').All(word => word.Length > 0 && word.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c)));

    /// <summary>Reads a lesson.</summary>
    /// <param name="text">The file.</param>
    /// <returns>The lesson, or every fault of the file.</returns>
    public static (Lesson? Lesson, IReadOnlyList<FaultAt> Faults) Read(string? text) => Read(text, drawsParts: true);

    /// <summary>Reads a lesson that was read and found good before; null where it is none.</summary>
    /// <param name="text">The file.</param>
    public static Lesson? ReadTrusted(string? text) => Read(text, drawsParts: false).Lesson;

    private static (Lesson? Lesson, IReadOnlyList<FaultAt> Faults) Read(string? text, bool drawsParts)
    {
        if (text is null || text.Length > LongestText)
            return (null, [new("", text is null ? LessonFault.NotJson : LessonFault.TooLong)]);
        JsonDocument document;
        try
        {
            document = JsonDocument.Parse(text, new() { MaxDepth = 8, AllowDuplicateProperties = false });
        }
        catch (JsonException e)
        {
            return (null, [new(e.LineNumber is { } line ? $"line {line + 1}" : "", LessonFault.NotJson)]);
        }
        using (document)
        {
            var file = new LessonReader(document.RootElement, "", []);
            if (!file.IsGroup || file.Text("format", 40) != Format || file.Number("version", 1, 1) is null)
                return (null, [new("", LessonFault.NotALesson)]);
            var lesson = Whole(file);
            file.NothingElse();
            if (file.Faults.Count > 0)
                return (null, file.Faults);
            return drawsParts && LessonSense.Of(lesson!) is { Count: > 0 } faults ? (null, faults) : (lesson, []);
        }
    }

    private static Lesson? Whole(LessonReader file)
    {
        var id = file.Text("id", 60);
        if (id is not null && !IsName(id))
            file.Say("id", LessonFault.NotAWord);
        var (title, about) = (file.Text("title", 80), file.Text("about", 600));
        var (grade, minutes) = (file.Number("grade", 1, 5), file.Number("minutes", 1, 120));
        var (mistake, decision) = (file.Word<LessonMistake>("mistake"), file.Word<Decision>("decision"));
        var part = file.Group("part") is { } p ? PartOf(p) : null;
        var wear = file.Group("wear") is { } w ? WearOf(w) : null;
        var hat = file.GroupOr("hat") is { } h ? HatOf(h, part) : null;
        // A drum has no hat.
        if (hat is not null && part is { Kind: not PartKind.Rotor })
            file.Say("hat", LessonFault.Unknown);
        var gauges = file.List("gauges", 1, 8).Select(GaugeOf).ToList();
        var lathe = file.Group("lathe") is { } l ? LatheOf(l) : null;
        var marked = file.Words<Skill>("marked", 1, 5);
        return file.Faults.Count > 0
            ? null
            : new()
            {
                Id = id!,
                Title = title!,
                About = about!,
                Grade = (int)grade!.Value,
                Minutes = (int)minutes!.Value,
                Mistake = mistake!.Value,
                Decision = decision!.Value,
                Part = part!,
                Wear = wear!,
                Hat = hat,
                Gauges = [.. gauges.Select(g => g!)],
                Lathe = lathe!,
                Marked = marked,
            };
    }

    private static LessonHat? HatOf(LessonReader hat, LessonPart? rotor)
    {
        var decision = hat.Word<Decision>("decision");
        var wear = hat.Group("wear") is { } w ? WearOf(w) : null;
        var part = SizesOf(hat, PartKind.Drum);
        hat.NothingElse();
        return hat.Faults.Count > 0 || rotor is null
            ? null
            : new(part! with { HoleMm = rotor.HoleMm, FaceMm = rotor.FaceMm, WebMm = rotor.WebMm }, wear!, decision!.Value);
    }

    private static LessonPart? PartOf(LessonReader part)
    {
        var kind = part.Word<PartKind>("kind");
        var read = SizesOf(part, kind ?? PartKind.Drum);
        var (hole, face, web) = (part.NumberOr("holeMm", 40, 90), part.NumberOr("faceMm", 90, 200), part.NumberOr("webMm", 2, 30));
        part.NothingElse();
        return part.Faults.Count > 0
            ? null
            : read! with
            {
                HoleMm = hole ?? read.HoleMm,
                FaceMm = face ?? read.FaceMm,
                WebMm = web ?? read.WebMm,
            };
    }

    /// <summary>Limits, edge and casting of a work surface.</summary>
    private static LessonPart? SizesOf(LessonReader part, PartKind kind)
    {
        var rotor = kind == PartKind.Rotor;
        // What no brake of a road vehicle is outside of.
        var (least, most) = rotor ? (4.0, 60.0) : (100.0, 500.0);
        var (nominal, machineTo, discard) = (
            part.Number("nominalMm", least, most),
            part.Number("machineToMm", least, most),
            part.Number("discardMm", least, most)
        );
        var edge = rotor ? part.Number("edgeMm", 70, 250) : 0;
        List<string> cast = [.. part.List("cast", 0, 3).Select(l => l.Own(40) ?? "")];
        if (nominal is { } n && machineTo is { } m && discard is { } d && (rotor ? !(n >= m && m >= d) : !(n <= m && m <= d)))
            part.Say("machineToMm", LessonFault.LimitsReversed);
        return part.Faults.Count > 0 ? null : new LessonPart(kind, nominal!.Value, machineTo!.Value, discard!.Value, edge!.Value, cast);
    }

    private static LessonWear? WearOf(LessonReader wear)
    {
        Range Of(string name, double least, double most) => wear.Range(name, least, most) ?? default;
        var read = new LessonWear
        {
            Left = wear.Range("leftMm", -2, 3, isNeeded: true) ?? default,
            Runout = Of("runoutMm", 0, 0.5),
            Variation = Of("variationMm", 0, 0.3),
            Oval = Of("ovalMm", 0, 1),
            At = Of("atDegrees", 0, 360),
            Eccentricity = Of("eccentricityMm", 0, 0.5),
            Taper = Of("taperMm", 0, 0.6),
            Grooves = [.. wear.List("groovesMm", 0, 3).Select(g => g.OwnRange(0, 1) ?? default)],
            LowLand = Of("lowLandMm", 0, 0.4),
            Ridge = wear.Range("ridgeMm", 0, 2) ?? new(0.3, 0.3),
            Rust = Of("rustMm", 0, 0.5),
            HardSpot = Of("hardSpotMm", 0, 0.1),
            HasCrack = wear.Flag("crack"),
        };
        wear.NothingElse();
        return wear.Faults.Count > 0 ? null : read;
    }

    private static LessonGauge? GaugeOf(LessonReader gauge)
    {
        var kind = gauge.Text("kind", 40);
        if (kind is not null && !Gauges.ContainsKey(kind))
            gauge.Say("kind", LessonFault.NotAWord);
        var (bias, shifted) = (gauge.Range("biasMm", -0.1, 0.1) ?? default, gauge.Range("shiftedMm", -0.5, 0.5) ?? default);
        gauge.NothingElse();
        return gauge.Faults.Count > 0 ? null : new(Gauges[kind!], bias, shifted);
    }

    private static LessonLathe? LatheOf(LessonReader lathe)
    {
        var (division, play, worn, reach) = (
            lathe.Number("divisionMm", 0.001, 0.1),
            lathe.Number("playMm", 0, 0.2),
            lathe.Number("edgeWorn", 0, 1),
            lathe.Number("reachMm", 30, 160)
        );
        var (counts, dirty) = (lathe.Flag("countsDiameter"), lathe.Flag("dirty"));
        lathe.NothingElse();
        return lathe.Faults.Count > 0 ? null : new(division!.Value, counts, play!.Value, worn!.Value, reach!.Value, dirty);
    }
}
