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
