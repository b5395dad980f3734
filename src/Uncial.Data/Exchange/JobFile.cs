using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Exchange;

/// <summary>A fault in a file: where, and what is wrong.</summary>
/// <param name="Path">Line, or path such as <c>parts[0].surfaces[0].readings[3].mm</c>.</param>
/// <param name="What">What is wrong, in words.</param>
public sealed record FileFault(string Path, string What);

/// <summary>A length in a file: as typed with its unit, and exactly in millimetres.</summary>
public sealed record FileLength(string Typed, string Unit, decimal Mm);

/// <summary>A limit in a job file.</summary>
public sealed record FileLimit(string Kind, string Typed, string Unit, decimal Mm, string Source, DateTimeOffset At, string? By);

/// <summary>A reading in a job file.</summary>
public sealed record FileReading
{
    /// <summary>size, runoutOuter, grooveOuter and so on.</summary>
    public required string Of { get; init; }
    public decimal? Degrees { get; init; }
    public decimal? StationMm { get; init; }
    public required string Typed { get; init; }
    public required string Unit { get; init; }
    public required decimal Mm { get; init; }
    public decimal CorrectionMm { get; init; }
    public required decimal ResolutionMm { get; init; }
    public required decimal UncertaintyMm { get; init; }
    public required int Cuts { get; init; }
    public string? Gauge { get; init; }
    public string? Note { get; init; }

    /// <summary>Why it counts for nothing; absent where it stands.</summary>
    public string? Withdrawn { get; init; }
    public required DateTimeOffset At { get; init; }
    public string? By { get; init; }
}

/// <summary>A pass in a job file.</summary>
public sealed record FilePass(int Cut, IReadOnlyList<decimal> DepthsMm, string Kind, string? Lathe, DateTimeOffset At, string? By);

/// <summary>A judgement in a job file.</summary>
public sealed record FileConfirmation(
    int Cuts,
    decimal WorstMm,
    decimal UncertaintyMm,
    decimal? AllowanceMm,
    decimal DiscardMm,
    decimal MachineToMm,
    string Decision,
    string? Reason,
    DateTimeOffset At,
    string? By
);

/// <summary>A work surface in a job file.</summary>
public sealed record FileSurface
{
    public required string Kind { get; init; }
    public bool InHat { get; init; }
    public required decimal DiameterMm { get; init; }
    public required decimal BandMm { get; init; }
    public required int Places { get; init; }
    public IReadOnlyList<decimal> DepthsMm { get; init; } = [];
    public decimal? MaxRunoutMm { get; init; }
    public decimal? MaxVariationMm { get; init; }
    public IReadOnlyList<FileLimit> Limits { get; init; } = [];
    public IReadOnlyList<FileReading> Readings { get; init; } = [];
    public IReadOnlyList<FilePass> Passes { get; init; } = [];
    public IReadOnlyList<FileConfirmation> Confirmations { get; init; } = [];
}

/// <summary>How a part left, in a job file.</summary>
public sealed record FileOutcome(
    string Kind,
    string? Reason,
    string? Cause,
    string? Place,
    string? Preservative,
    bool DoNotMachineAgain,
    DateTimeOffset At,
    string? By,
    string? Withdrawn
);

/// <summary>A part in a job file.</summary>
public sealed record FilePart
{
    public required string Tag { get; init; }
    public int Visit { get; init; } = 1;
    public required string Corner { get; init; }
    public string? Mark { get; init; }
    public int? KmSinceNew { get; init; }
    public required IReadOnlyList<FileSurface> Surfaces { get; init; }
    public IReadOnlyList<FileOutcome> Outcomes { get; init; } = [];
}

/// <summary>A job with its parts and what is on record about them, as a file. See docs/formats/job.md.</summary>
public sealed record JobFile
{
    public const string FormatName = "uncial-job";
    public const int CurrentVersion = 1;

    /// <summary>Longest file that is read, in characters.</summary>
    public const int LargestFile = 4_000_000;

    public string Format { get; init; } = FormatName;
    public int Version { get; init; } = CurrentVersion;
    public string? Shop { get; init; }
    public required int Number { get; init; }
    public required string Vehicle { get; init; }
    public string? Customer { get; init; }
    public int? OdometerKm { get; init; }
    public required DateTimeOffset ReceivedAt { get; init; }
    public required IReadOnlyList<FilePart> Parts { get; init; }

    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        NumberHandling = JsonNumberHandling.Strict,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        AllowDuplicateProperties = false,
    };

    /// <summary>A job as a file. The job is loaded with its parts, their facts and names.</summary>
    public static JobFile Of(Job job, Shop shop)
    {
        ArgumentNullException.ThrowIfNull(job);
        ArgumentNullException.ThrowIfNull(shop);
        return new()
        {
            Shop = shop.Name,
            Number = job.Number,
            Vehicle = job.Vehicle,
            Customer = job.Customer,
            OdometerKm = job.OdometerKm,
            ReceivedAt = job.ReceivedAt,
            Parts =
            [
                .. job
                    .Parts.OrderBy(p => p.Id)
                    .Select(p => new FilePart
                    {
                        Tag = p.Tag,
                        Visit = p.Visit,
                        Corner = Name(p.Corner),
                        Mark = p.Mark,
                        KmSinceNew = p.KmSinceNew,
                        Surfaces = [.. p.Surfaces.OrderBy(s => s.Id).Select(s => Of(s, shop))],
                        Outcomes =
                        [
                            .. p
                                .Outcomes.OrderBy(o => o.Id)
                                .Select(o => new FileOutcome(
                                    Name(o.Kind),
                                    o.Reason,
                                    o.Cause is { } cause ? Name(cause) : null,
                                    o.Place,
                                    o.Preservative,
                                    o.DoNotMachineAgain,
                                    o.At,
                                    o.By?.DisplayName,
                                    o.Withdrawal?.Reason
                                )),
                        ],
                    }),
            ],
        };
    }

    /// <summary>Writes it as JSON; every length to its last digit.</summary>
    public string Write() => JsonSerializer.Serialize(this, Options);

    /// <summary>Reads a job file.</summary>
    /// <returns>The job, or every fault with its path; never both.</returns>
    public static (JobFile? Job, IReadOnlyList<FileFault> Faults) Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        if (text.Length > LargestFile)
            return (null, [new("file", $"Over {LargestFile / 1_000_000} million characters.")]);
        JobFile? file;
        try
        {
            using var document = JsonDocument.Parse(text, new() { AllowDuplicateProperties = false });
            if (
                document.RootElement.ValueKind != JsonValueKind.Object
                || !document.RootElement.TryGetProperty("format", out var format)
                || format.ValueKind != JsonValueKind.String
                || format.GetString() != FormatName
            )
                return (null, [new("format", $"This is no job file: “format” is not “{FormatName}”.")]);
            if (!document.RootElement.TryGetProperty("version", out var version) || !version.TryGetVersion(out var number))
                return (null, [new("version", "A whole number.")]);
            if (number != CurrentVersion)
                return (null, [new("version", $"Version {number}; this program reads version {CurrentVersion}.")]);
            // The shape of every value is looked at one by one, so that all faults are named, not only the first.
            var shape = new JobShape();
            shape.Check(document.RootElement);
            if (shape.Faults.Count > 0)
                return (null, shape.Faults);
            file = document.RootElement.Deserialize<JobFile>(Options);
        }
        catch (JsonException e)
        {
            return (
                null,
                [
                    new(
                        e.LineNumber is { } line ? $"line {line + 1}" : e.Path ?? "file",
                        "No JSON: " + e.Message.Split(" LineNumber", 2)[0].Split(" Path:", 2)[0]
                    ),
                ]
            );
        }
        var faults = new JobSense(file!).Faults;
        return faults.Count > 0 ? (null, faults) : (file, []);
    }

    internal static string Name<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.CamelCase.ConvertName(value.ToString());

    internal static T? Named<T>(string? name)
        where T : struct, Enum => Enum.GetValues<T>().Cast<T?>().FirstOrDefault(v => Name(v!.Value) == name);

    internal static LengthUnit? UnitOf(string? name) =>
        name switch
        {
            "mm" => LengthUnit.Millimetre,
            "in" => LengthUnit.Inch,
            _ => null,
        };

    private static FileSurface Of(WorkSurface s, Shop shop)
    {
        // A plan is read once, whatever the number of its passes.
        var plans = s.Plans.ToDictionary(p => p.Id, p => StoredJson.Read<PlanDocument>(p.Document).Option.Passes);
        return new()
        {
            Kind = Name(s.Kind),
            InHat = s.InHat,
            DiameterMm = s.Diameter.Millimetres,
            BandMm = s.Band.Millimetres,
            Places = s.Places,
            DepthsMm = s.DepthsMm,
            MaxRunoutMm = s.MaxRunout?.Millimetres,
            MaxVariationMm = s.MaxVariation?.Millimetres,
            Limits =
            [
                .. s
                    .LimitEntries.OrderBy(l => l.Id)
                    .Select(l => new FileLimit(
                        Name(l.Kind),
                        l.Typed,
                        LengthText.Name(l.Unit),
                        l.Value.Millimetres,
                        Name(l.Source),
                        l.At,
                        l.By?.DisplayName
                    )),
            ],
            Readings =
            [
                .. s
                    .Readings.OrderBy(r => r.Id)
                    .Select(r => new FileReading
                    {
                        Of = Name(r.Kind),
                        Degrees = r.Degrees,
                        StationMm = r.Station?.Millimetres,
                        Typed = r.Typed,
                        Unit = LengthText.Name(r.Unit),
                        Mm = r.Value.Millimetres,
                        CorrectionMm = r.Correction.Millimetres,
                        ResolutionMm = r.Resolution.Millimetres,
                        UncertaintyMm = r.Uncertainty.Millimetres,
                        Cuts = r.Cuts,
                        Gauge = shop.Gauges.Find(g => g.Id == r.GaugeId)?.Name,
                        Note = r.Note,
                        Withdrawn = r.Withdrawal?.Reason ?? (r.Flag is null ? null : "suspect: its gauge failed on its standard"),
                        At = r.TakenAt,
                        By = r.By?.DisplayName,
                    }),
            ],
            Passes =
            [
                .. s
                    .Passes.OrderBy(p => p.Cut)
                    .Select(p => (Entry: p, Made: plans[p.PlanId][p.Index]))
                    .Select(p => new FilePass(
                        p.Entry.Cut,
                        [.. p.Made.Depth.Select(d => d.Millimetres)],
                        Name(p.Made.Kind),
                        shop.Lathes.Find(l => l.Id == p.Entry.LatheId)?.Profile.Name,
                        p.Entry.At,
                        p.Entry.By?.DisplayName
                    )),
            ],
            Confirmations =
            [
                .. s
                    .Confirmations.OrderBy(c => c.Id)
                    .Select(c => new FileConfirmation(
                        c.Cuts,
                        c.Worst.Millimetres,
                        c.Uncertainty.Millimetres,
                        c.Allowance?.Millimetres,
                        c.Discard.Millimetres,
                        c.MachineTo.Millimetres,
                        Name(c.Decision),
                        c.Reason,
                        c.At,
                        c.By?.DisplayName
                    )),
            ],
        };
    }
}

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

/// <summary>
/// Looks at what a job file says: names that mean something, figures that can be, and that what was typed is what is said in millimetres.
/// </summary>
internal sealed class JobSense
{
    private const decimal Agree = 0.01m;
    private const int MostParts = 200;
    private const int MostReadings = 5000;

    public JobSense(JobFile file)
    {
        Within("number", file.Number, 1, 99_999_999);
        Text("vehicle", file.Vehicle, 120);
        Text("customer", file.Customer, 120);
        if (file.OdometerKm is { } km)
            Within("odometerKm", km, 0, 9_999_999);
        if (file.Parts.Count is 0 or > MostParts)
            Wrong("parts", $"From 1 to {MostParts} parts.");
        for (var i = 0; i < file.Parts.Count; i++)
            Part($"parts[{i}]", file.Parts[i]);
        foreach (var twice in file.Parts.GroupBy(p => p.Tag).Where(g => g.Count() > 1))
            Wrong("parts", $"Two parts with the tag {twice.Key}.");
    }

    public List<FileFault> Faults { get; } = [];

    private void Part(string path, FilePart part)
    {
        Text(path + ".tag", part.Tag, 12);
        if (!part.Tag.All(char.IsAsciiLetterOrDigit))
            Wrong(path + ".tag", "Letters and digits.");
        Text(path + ".mark", part.Mark, 60);
        Name<Corner>(path + ".corner", part.Corner);
        if (part.KmSinceNew is { } km)
            Within(path + ".kmSinceNew", km, 0, 9_999_999);
        if (part.Surfaces.Count is < 1 or > 2)
            Wrong(path + ".surfaces", "One or two.");
        for (var i = 0; i < part.Surfaces.Count; i++)
            Surface($"{path}.surfaces[{i}]", part.Surfaces[i]);
        for (var i = 0; i < part.Outcomes.Count; i++)
        {
            Name<OutcomeKind>($"{path}.outcomes[{i}].kind", part.Outcomes[i].Kind);
            if (part.Outcomes[i].Cause is { } cause)
                Name<ScrapCause>($"{path}.outcomes[{i}].cause", cause);
        }
    }

    private void Surface(string path, FileSurface surface)
    {
        Name<PartKind>(path + ".kind", surface.Kind);
        Within(path + ".diameterMm", surface.DiameterMm, 0, 2000);
        Within(path + ".bandMm", surface.BandMm, 0, 1000);
        Within(path + ".places", surface.Places, 1, 72);
        if (surface.DepthsMm.Count > 5)
            Wrong(path + ".depthsMm", "At most five.");
        for (var i = 0; i < surface.DepthsMm.Count; i++)
            Within($"{path}.depthsMm[{i}]", surface.DepthsMm[i], 0, 1000);
        for (var i = 0; i < surface.Limits.Count; i++)
        {
            var (limit, at) = (surface.Limits[i], $"{path}.limits[{i}]");
            Name<LimitKind>(at + ".kind", limit.Kind);
            Name<LimitSource>(at + ".source", limit.Source);
            Length(at, limit.Typed, limit.Unit, limit.Mm, 0);
        }
        if (surface.Readings.Count > MostReadings)
            Wrong(path + ".readings", $"At most {MostReadings}.");
        for (var i = 0; i < surface.Readings.Count; i++)
        {
            var (reading, at) = (surface.Readings[i], $"{path}.readings[{i}]");
            Name<ReadingKind>(at + ".of", reading.Of);
            Length(at, reading.Typed, reading.Unit, reading.Mm, reading.CorrectionMm);
            if (reading.Degrees is { } degrees)
                Within(at + ".degrees", degrees, 0, 359.999m);
            else if (reading.Of == JobFile.Name(ReadingKind.Size))
                Wrong(at + ".degrees", "A size has a place.");
            if (reading.StationMm is { } station)
                Within(at + ".stationMm", station, 0, 1000);
            Within(at + ".uncertaintyMm", reading.UncertaintyMm, 0, 10);
            Within(at + ".resolutionMm", reading.ResolutionMm, 0, 10);
            Within(at + ".cuts", reading.Cuts, 0, 1000);
            Text(at + ".note", reading.Note, 200);
        }
        for (var i = 0; i < surface.Confirmations.Count; i++)
            Name<Core.Release.Decision>($"{path}.confirmations[{i}].decision", surface.Confirmations[i].Decision);
    }

    private void Length(string path, string typed, string unit, decimal mm, decimal correction)
    {
        if (JobFile.UnitOf(unit) is not { } u)
        {
            Wrong(path + ".unit", "mm or in.");
            return;
        }
        Within(path + ".mm", mm, 0, LengthParser.LargestMillimetres);
        if (LengthParser.Parse(typed, u, allowZero: true).Typed is not { } read)
            Wrong(path + ".typed", $"“{typed}” is no length.");
        else if (Math.Abs(read.Value.Millimetres + correction - mm) > Agree)
            Wrong(
                path + ".mm",
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"“{typed}” {unit} is {(read.Value.Millimetres + correction):0.####} mm, not {mm:0.####}."
                )
            );
    }

    private void Name<T>(string path, string name)
        where T : struct, Enum
    {
        if (JobFile.Named<T>(name) is null)
            Wrong(path, $"“{name}” is none of: {string.Join(", ", Enum.GetValues<T>().Select(JobFile.Name))}.");
    }

    private void Text(string path, string? text, int longest)
    {
        if (text is { Length: 0 })
            Wrong(path, "Empty.");
        if (text?.Length > longest)
            Wrong(path, $"Over {longest} letters.");
    }

    private void Within(string path, decimal value, decimal least, decimal most)
    {
        if (value < least || value > most)
            Wrong(path, string.Create(CultureInfo.InvariantCulture, $"From {least} to {most}."));
    }

    private void Wrong(string path, string what) => Faults.Add(new(path, what));
}
