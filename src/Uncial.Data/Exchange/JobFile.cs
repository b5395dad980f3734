using System.Text.Json;
using System.Text.Json.Serialization;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data.Exchange;

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
