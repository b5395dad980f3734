using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Planning;

namespace Uncial.Core.Scheduling;

/// <summary>Why a surface is not in the day's plan: somebody has to decide or to find something out first.</summary>
public abstract record BlockedWork
{
    private BlockedWork(int surfaceId) => SurfaceId = surfaceId;

    /// <summary>The work surface.</summary>
    public int SurfaceId { get; }

    /// <summary>No limit is known.</summary>
    public sealed record LimitsMissing(int Surface) : BlockedWork(Surface);

    /// <summary>It is beyond its discard limit.</summary>
    public sealed record BeyondLimit(int Surface) : BlockedWork(Surface);

    /// <summary>A drum with so little left that it is not started.</summary>
    public sealed record BelowFloor(int Surface) : BlockedWork(Surface);

    /// <summary>Something was found that stops the part.</summary>
    /// <param name="Surface">The surface.</param>
    /// <param name="Kind">What.</param>
    public sealed record Stopped(int Surface, FindingKind Kind) : BlockedWork(Surface);

    /// <summary>No lathe takes a part of this size.</summary>
    /// <param name="Surface">The surface.</param>
    /// <param name="Size">Outside diameter of the rotor, inside diameter of the drum.</param>
    /// <param name="Nearest">What comes nearest: the sizes that a lathe takes; null where none takes this kind of part.</param>
    public sealed record NoLathe(int Surface, Length Size, DiameterRange? Nearest) : BlockedWork(Surface);

    /// <summary>Every lathe that takes it is out of order.</summary>
    public sealed record LathesOut(int Surface) : BlockedWork(Surface);
}

/// <summary>A step that is done, as the board shows it.</summary>
/// <param name="SurfaceId">The work surface.</param>
/// <param name="Step">The step.</param>
/// <param name="LatheId">The lathe; null off the lathe.</param>
/// <param name="OperatorId">Who did it.</param>
/// <param name="From">When it began.</param>
/// <param name="To">When it ended.</param>
public sealed record PastWork(int SurfaceId, WorkStep Step, int? LatheId, int OperatorId, DateTimeOffset From, DateTimeOffset To);
