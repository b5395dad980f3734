using System.Numerics;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Vehicles;

/// <summary>Run-out of a face: an indicator's total reading and where its high spot is.</summary>
/// <param name="Total">Total reading, 0 or more.</param>
/// <param name="At">Place of the high spot, from the hub's stud 1.</param>
public readonly record struct Runout(Length Total, ClockAngle At);

/// <summary>What refitting a rotor some studs further leaves.</summary>
/// <param name="Turn">Studs that the rotor is turned by, clockwise as seen from the outside; 0 is as it is now.</param>
/// <param name="Left">Total run-out that is left.</param>
/// <param name="At">Where its high spot is then.</param>
public readonly record struct Refit(int Turn, Length Left, ClockAngle At);

/// <summary>
/// Where a rotor sits best on its hub. Hub and rotor each add a wobble once per turn; turned by one stud after another, the two work
/// against one another more or less.
/// </summary>
/// <remarks>For the once-per-turn part of the run-out, which tilt makes; a bent disc has more that turning cannot take away.</remarks>
public sealed record StudPositions
{
    /// <summary>As many studs as a wheel may have.</summary>
    public const int MostStuds = 20;

    private StudPositions(IReadOnlyList<Refit> refits, Runout hub, Runout rotor, IReadOnlyList<Step> steps) =>
        (Refits, Hub, Rotor, Steps) = (refits, hub, rotor, steps);

    /// <summary>What each position leaves, in the order of turning; the first one is as it is now.</summary>
    public IReadOnlyList<Refit> Refits { get; }

    /// <summary>The hub's share, at the radius of the reading on the rotor.</summary>
    public Runout Hub { get; }

    /// <summary>The rotor's own share, where it sits now.</summary>
    public Runout Rotor { get; }

    /// <summary>How the shares and what the best position leaves were worked out.</summary>
    public IReadOnlyList<Step> Steps { get; }

    /// <summary>The position that leaves least; of equal ones that which turns it least.</summary>
    public Refit Best => Refits.MinBy(r => (r.Left, Math.Min(r.Turn, Refits.Count - r.Turn), r.Turn));

    /// <summary>The position that leaves most.</summary>
    public Refit Worst => Refits.MaxBy(r => r.Left);

    /// <summary>As it is now.</summary>
    public Refit Now => Refits[0];

    /// <summary>Works out every position from the two shares: |H + P·e^(i·k·360°/n)|.</summary>
    /// <param name="hub">The hub's run-out at the radius of the reading on the rotor.</param>
    /// <param name="rotor">The rotor's own run-out where it sits now.</param>
    /// <param name="positions">Positions in which it can sit, 1 … 20; 1 where a screw holds it.</param>
    /// <exception cref="ArgumentOutOfRangeException">A negative run-out, or another number of positions.</exception>
    public static StudPositions Of(Runout hub, Runout rotor, int positions) => Of(hub, rotor, positions, new Steps());

    /// <summary>
    /// Works out every position from what is read at the vehicle: the rotor as it is mounted, and the hub beneath it. Tilt shows more
    /// the farther out it is read, so the hub's reading is carried to the radius of the other one.
    /// </summary>
    /// <param name="mounted">Reading on the rotor as it is mounted now.</param>
    /// <param name="hub">Reading on the hub's face, from the same stud.</param>
    /// <param name="mountedRadius">Radius of the reading on the rotor; null: the two are taken at one radius.</param>
    /// <param name="hubRadius">Radius of the reading on the hub; null as above.</param>
    /// <param name="positions">Positions in which it can sit, 1 … 20.</param>
    /// <exception cref="ArgumentOutOfRangeException">A negative run-out, a radius of 0 or less, or another number of positions.</exception>
    public static StudPositions Read(Runout mounted, Runout hub, Length? mountedRadius, Length? hubRadius, int positions)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(mounted.Total, Length.Zero, nameof(mounted));
        ArgumentOutOfRangeException.ThrowIfLessThan(hub.Total, Length.Zero, nameof(hub));
        var steps = new Steps();
        var carried = hub;
        if (mountedRadius is { } far && hubRadius is { } near)
        {
            ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(far, Length.Zero, nameof(mountedRadius));
            ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(near, Length.Zero, nameof(hubRadius));
            carried = hub with
            {
                Total = Length.FromTrigonometry((double)(hub.Total.Millimetres * far.Millimetres / near.Millimetres), Toward.Greater),
            };
            steps.Add("hubAtRotor", "{0} · {1} / {2}", carried.Total, null, hub.Total, far, near);
        }
        var (total, at) = Read(Vector(mounted) - Vector(carried));
        var own = new Runout(total, at);
        steps.Add("rotorAlone", "|{0}∠{1} − {2}∠{3}|", own.Total, null, mounted.Total, mounted.At, carried.Total, carried.At);
        return Of(carried, own, positions, steps);
    }

    /// <summary>Whether a run-out is inside the limit of the maker or the shop.</summary>
    public static bool IsInside(Refit refit, Length limit) => refit.Left <= limit;

    private static StudPositions Of(Runout hub, Runout rotor, int positions, Steps steps)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(hub.Total, Length.Zero, nameof(hub));
        ArgumentOutOfRangeException.ThrowIfLessThan(rotor.Total, Length.Zero, nameof(rotor));
        ArgumentOutOfRangeException.ThrowIfLessThan(positions, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(positions, MostStuds);
        var (h, p) = (Vector(hub), Vector(rotor));
        var refits = new Refit[positions];
        for (var k = 0; k < positions; k++)
        {
            var (left, at) = Read(h + p * Complex.FromPolarCoordinates(1, 2 * Math.PI * k / positions));
            refits[k] = new(k, left, at);
        }
        var found = new StudPositions(refits, hub, rotor, []);
        steps.Add(
            "bestStud",
            "|{0}∠{1} + {2}∠({3} + {4} · 360 / {5})|",
            found.Best.Left,
            null,
            hub.Total,
            hub.At,
            rotor.Total,
            rotor.At,
            found.Best.Turn,
            positions
        );
        return new(refits, hub, rotor, steps.All);
    }

    private static Complex Vector(Runout runout) => Complex.FromPolarCoordinates((double)runout.Total.Millimetres, runout.At.Radians);

    // More run-out than there is is the safe side; where nothing is left there is no high spot.
    private static (Length Total, ClockAngle At) Read(Complex sum) =>
        Length.FromTrigonometry(sum.Magnitude, Toward.Greater) is var total && total == Length.Zero
            ? (total, default)
            : (total, ClockAngle.FromRadians(sum.Phase));
}
