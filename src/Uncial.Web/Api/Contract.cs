using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Web.Text;

#pragma warning disable CA1819 // Arrays are the plain shape of a JSON list.
namespace Uncial.Web.Api;

/// <summary>A typed length to be read. <c>unit</c> is <c>mm</c> or <c>in</c>.</summary>
public sealed record ParseRequest(string? Text, string? Unit);

/// <summary>A length as it was understood.</summary>
public sealed record ParseResponse(decimal Millimetres, decimal Inches, string Echo);

/// <summary>Limits in millimetres; machine-to is derived where it is absent.</summary>
public sealed record LimitsBody(decimal? NominalMm, decimal? MachineToMm, decimal? DiscardMm);

/// <summary>A thickness: place in degrees, radius where more than one is read.</summary>
public sealed record ThicknessBody(decimal? ClockDeg, decimal? RadiusMm, decimal? ThicknessMm);

/// <summary>A diameter: axis in degrees, depth where more than one is read.</summary>
public sealed record DiameterBody(decimal? AxisDeg, decimal? DepthMm, decimal? DiameterMm);

/// <summary>A face of a rotor; run-out null means not measured.</summary>
public sealed record FaceBody(decimal? RunoutMm, decimal? GrooveMm, decimal? ReliefMm);

/// <summary>Both faces of a rotor.</summary>
public sealed record FacesBody(FaceBody? Outer, FaceBody? Inner);

/// <summary>A rotor to be assessed.</summary>
public sealed record AssessRotorRequest(
    LimitsBody? Limits,
    decimal? UncertaintyMm,
    decimal? TouchRadiusMm,
    ThicknessBody?[]? Readings,
    FacesBody? Faces
);

/// <summary>A figure for each face.</summary>
public sealed record PerFaceBody<T>(T Outer, T Inner);

/// <summary>A fit through thickness.</summary>
public sealed record ThicknessFitBody(decimal MeanMm, decimal LeastMm, decimal LeastClockDeg);

/// <summary>Something to know about a result.</summary>
public sealed record NoteBody(string Code, string Text)
{
    internal static NoteBody[] All(IEnumerable<Note> notes) =>
        [.. notes.Select(n => new NoteBody(n.Code, Words.Of(n, LengthUnit.Millimetre)))];
}

/// <summary>What a rotor's readings come to.</summary>
public sealed record AssessRotorResponse(
    decimal? LeastMm,
    decimal? GreatestMm,
    decimal? ThicknessVariationMm,
    bool VariationIsLowerBound,
    decimal? StockToDiscardMm,
    decimal? StockToMachineToMm,
    string DiscardVerdict,
    string MachineToVerdict,
    decimal MachineToMm,
    bool MachineToDerived,
    decimal? TouchMm,
    decimal? TouchCarefulMm,
    decimal? TouchBoundMm,
    PerFaceBody<decimal>? NeedMm,
    decimal? LeastFinishedMm,
    PerFaceBody<bool> RunoutAssumed,
    bool? FiguresAgree,
    ThicknessFitBody? Fit,
    NoteBody[] Notes
);

/// <summary>A drum to be assessed.</summary>
public sealed record AssessDrumRequest(
    LimitsBody? Limits,
    decimal? UncertaintyMm,
    decimal? EccentricityMm,
    decimal? GrooveMm,
    decimal? TouchDepthMm,
    DiameterBody?[]? Readings
);

/// <summary>Roundness of a bore.</summary>
public sealed record RoundnessBody(bool Proven, decimal OutOfRoundMm, decimal? LargestAxisDeg, decimal? MeanMm);

/// <summary>A figure for the bore.</summary>
public sealed record BoreBody(decimal Bore);

/// <summary>What a drum's readings come to.</summary>
public sealed record AssessDrumResponse(
    decimal? LeastMm,
    decimal? GreatestMm,
    decimal? LargestMm,
    decimal? StockToDiscardMm,
    decimal? StockToMachineToMm,
    string DiscardVerdict,
    string MachineToVerdict,
    decimal MachineToMm,
    bool MachineToDerived,
    bool BelowFloor,
    RoundnessBody? Roundness,
    decimal? TaperMm,
    decimal? TouchMm,
    decimal? TouchCarefulMm,
    decimal? TouchBoundMm,
    decimal? CleanMm,
    BoreBody? NeedMm,
    NoteBody[] Notes
);

/// <summary>A mark of the scratch test: arc and depth, arc alone, or an indicator's total reading.</summary>
public sealed record MarkBody(decimal? ClockDeg, decimal? ArcDeg, decimal? DepthMm, decimal? RunoutMm);

/// <summary>A set-up check by reversal.</summary>
public sealed record SetUpCheckRequest(
    string? Kind,
    decimal? TurnedDeg,
    decimal? ToleranceMm,
    decimal? DivisionMm,
    MarkBody? First,
    MarkBody? Second
);

/// <summary>A run-out as a vector; its length is null where only shares are known.</summary>
public sealed record VectorBody(decimal? Mm, decimal? ClockDeg);

/// <summary>What belongs to the part and what to the set-up.</summary>
public sealed record SetUpCheckResponse(
    VectorBody Part,
    VectorBody SetUp,
    decimal? SetUpShare,
    decimal? CostMm,
    decimal? CostNowMm,
    decimal? LeftOnVehicleMm,
    string Verdict,
    NoteBody[] Notes
);

/// <summary>The lathe's dial.</summary>
public sealed record DialBody(decimal? DivisionMm, string? Counts, decimal? AllowanceMm, bool? Confirmed);

/// <summary>A figure for each side: the faces of a rotor, or the bore of a drum.</summary>
public sealed record SidesBody<T>(T? Outer, T? Inner, T? Bore)
    where T : struct;

/// <summary>Passes to be planned. An entry of <c>techniques</c> is a built-in key or a technique of its own.</summary>
public sealed record PlanPassesRequest(
    string? Kind,
    decimal? TouchMm,
    decimal? TouchBoundMm,
    decimal? LeastMm,
    decimal? GreatestMm,
    decimal? MachineToMm,
    decimal? DiscardMm,
    decimal? UncertaintyMm,
    SidesBody<decimal>? NeedMm,
    DialBody? Dial,
    bool? TwinCutter,
    string? DefaultTechnique,
    TechniqueBody?[]? Techniques
);

/// <summary>A technique: a key alone for a built-in one.</summary>
[System.Text.Json.Serialization.JsonConverter(typeof(TechniqueJson))]
public sealed record TechniqueBody(
    string? Key,
    decimal? RoughMinMm,
    decimal? RoughMaxMm,
    decimal? FinishMinMm,
    decimal? FinishMaxMm,
    int? MinRough,
    int? MaxRough,
    bool BuiltIn
);

/// <summary>One planned pass.</summary>
public sealed record PassBody(
    string Kind,
    SidesBody<long> Divisions,
    SidesBody<decimal> DepthMm,
    decimal SizeAfterMm,
    decimal BoundAfterMm,
    bool MeasureFirst,
    SidesBody<decimal> CleanShare
);

/// <summary>One technique, tried.</summary>
public sealed record OptionBody(
    string Key,
    bool Feasible,
    string? Reason,
    string Start,
    decimal? MetalMm,
    decimal? WasteMm,
    PassBody[] Passes,
    NoteBody[] Notes
);

/// <summary>What stands against what.</summary>
public sealed record ShortfallBody(decimal NeededMm, decimal AvailableMm, string Text);

/// <summary>All techniques side by side.</summary>
public sealed record PlanPassesResponse(string? Recommended, ShortfallBody? Shortfall, OptionBody[] Options);

/// <summary>A reading of either kind.</summary>
public sealed record SizeBody(
    decimal? ClockDeg,
    decimal? RadiusMm,
    decimal? ThicknessMm,
    decimal? AxisDeg,
    decimal? DepthMm,
    decimal? DiameterMm
);

/// <summary>A finished part to be judged.</summary>
public sealed record JudgeRequest(
    string? Kind,
    LimitsBody? Limits,
    decimal? UncertaintyMm,
    decimal? GrooveLeftMm,
    decimal? ReliefMm,
    decimal? DepthDoubtMm,
    bool? TurnedBright,
    bool? BoredHere,
    decimal? ParallelismMm,
    SizeBody?[]? Readings
);

/// <summary>The judgement.</summary>
public sealed record JudgeResponse(
    decimal? WorstMm,
    decimal? AllowanceMm,
    string DiscardVerdict,
    string MachineToVerdict,
    string Decision,
    decimal? ProbabilityWithinDiscard,
    decimal? LeftToDiscardMm,
    NoteBody[] Notes
);
