using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Data.Certificates;

/// <summary>A size that a certificate rests on.</summary>
/// <param name="Degrees">Clock position or axis, degrees.</param>
/// <param name="Station">Depth in a drum, or how far in from the edge of a rotor; null for the usual one.</param>
/// <param name="Size">Thickness or diameter, corrected by the zero check.</param>
/// <param name="Typed">As it was typed.</param>
/// <param name="Unit">Unit of a bare figure.</param>
/// <param name="Gauge">What it was read with.</param>
public sealed record CertificateSize(decimal Degrees, Length? Station, Length Size, string Typed, LengthUnit Unit, string? Gauge);

/// <summary>Where a limit was read.</summary>
/// <param name="Kind">Which limit.</param>
/// <param name="Sources">Its sources: one, or several that say the same or not.</param>
/// <param name="Agree">All of them say the same.</param>
public sealed record CertificateLimit(LimitKind Kind, IReadOnlyList<LimitSource> Sources, bool Agree);

/// <summary>A reading that was withdrawn.</summary>
/// <param name="Size">What was read, and where.</param>
/// <param name="Reason">Why it was withdrawn.</param>
/// <param name="By">Who withdrew it.</param>
/// <param name="SignedBy">The lead who signed, where the reading was beyond discard.</param>
public sealed record CertificateWithdrawal(CertificateSize Size, string Reason, string? By, string? SignedBy);

/// <summary>What a certificate says of one work surface. Lengths in millimetres.</summary>
public sealed record CertificateSurface
{
    public required PartKind Kind { get; init; }
    public bool InHat { get; init; }
    public required int Passes { get; init; }
    public Length? Before { get; init; }
    public Length? Now { get; init; }
    public Length? Nominal { get; init; }
    public Length? MachineTo { get; init; }
    public bool MachineToDerived { get; init; }
    public Length? Discard { get; init; }
    public bool DiscardDerived { get; init; }
    public Length? Uncertainty { get; init; }
    public Length? Allowance { get; init; }
    public Decision? Decision { get; init; }
    public string? ConfirmedBy { get; init; }
    public DateTimeOffset? ConfirmedAt { get; init; }
    public string? ConfirmedAlthough { get; init; }
    public Length? Variation { get; init; }
    public Length? Taper { get; init; }
    public IReadOnlyList<CertificateSize> SizesBefore { get; init; } = [];
    public IReadOnlyList<CertificateSize> Sizes { get; init; } = [];

    /// <summary>Where its limits were read.</summary>
    public IReadOnlyList<CertificateLimit> LimitSources { get; init; } = [];

    /// <summary>Steps that made a limit laxer, with who signed.</summary>
    public IReadOnlyList<LaxerLimit> LaxerLimits { get; init; } = [];

    /// <summary>Readings that were withdrawn.</summary>
    public IReadOnlyList<CertificateWithdrawal> Withdrawn { get; init; } = [];

    /// <summary>Readings that count for nothing because their gauge failed on its standard afterwards.</summary>
    public IReadOnlyList<CertificateSize> Suspect { get; init; } = [];

    /// <summary>What is left to discard, negative beyond; null where it was not read or has no limit.</summary>
    public Length? LeftToDiscard() => Now is { } now && Discard is { } discard ? Limits.Margin(Kind, now, discard) : null;
}

/// <summary>What is proven of a part that left: kept to the letter, under a hash.</summary>
public sealed record CertificateDocument
{
    /// <summary>Version of the format.</summary>
    public const int CurrentVersion = 2;

    public int Version { get; init; } = CurrentVersion;
    public required string Shop { get; init; }
    public required string Tag { get; init; }
    public required int Visit { get; init; }
    public required Corner Corner { get; init; }
    public string? Mark { get; init; }
    public bool MarkedToStud { get; init; }
    public required int Job { get; init; }
    public required string Vehicle { get; init; }
    public int? OdometerKm { get; init; }
    public required OutcomeKind Outcome { get; init; }
    public string? Reason { get; init; }
    public ScrapCause? Cause { get; init; }
    public string? Place { get; init; }
    public string? Preservative { get; init; }
    public bool DoNotMachineAgain { get; init; }
    public required string By { get; init; }
    public string? SignedBy { get; init; }
    public required DateTimeOffset At { get; init; }
    public required IReadOnlyList<CertificateSurface> Surfaces { get; init; }

    /// <summary>Links of the part's chain when it was made; the last of them is the outcome's.</summary>
    public required int Links { get; init; }

    /// <summary>Hash of that last link, hexadecimal.</summary>
    public required string ChainHead { get; init; }
}

/// <summary>Whether a certificate can be relied on.</summary>
/// <param name="HashHolds">The document is, to the letter, the one that was hashed.</param>
/// <param name="ChainHolds">No fact of the part was changed, taken away or slipped in.</param>
/// <param name="Withdrawn">The part was recalled.</param>
/// <param name="Suspect">Readings that it rests on became suspect since.</param>
public sealed record CertificateState(bool HashHolds, bool ChainHolds, OutcomeWithdrawal? Withdrawn, int Suspect)
{
    public bool Holds => HashHolds && ChainHolds && Withdrawn is null && Suspect == 0;
}
