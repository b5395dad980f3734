using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Tests;

/// <summary>Short ways to write the figures of a test.</summary>
internal static class Mm
{
    public static Length Of(decimal millimetres) => Length.FromMillimetres(millimetres);

    public static Reading At(decimal degrees, decimal size, decimal? station = null) =>
        new(ClockAngle.FromDegrees(degrees), station is { } s ? Of(s) : null, Of(size));

    public static Limits Rotor(decimal discard, decimal? machineTo = null, decimal? nominal = null) =>
        Make(PartKind.Rotor, discard, machineTo, nominal);

    public static Limits Drum(decimal discard, decimal? machineTo = null, decimal? nominal = null) =>
        Make(PartKind.Drum, discard, machineTo, nominal);

    public static Reading[] Around(params decimal[] sizes) => [.. sizes.Select((s, i) => At(i * 360m / sizes.Length, s))];

    public static Reading[] Axes(params decimal[] sizes) => [.. sizes.Select((s, i) => At(i * 180m / sizes.Length, s))];

    /// <summary>
    /// What of a plan is given: with a dial that nobody has verified , the passes before its first measurement, which settles the dial and
    /// asks
    /// for a new plan.
    /// </summary>
    public static IEnumerable<PlannedPass> Given(this PlanOption option, PlanRequest request) =>
        request.Dial.Confirmed ? option.Passes : option.Passes.TakeWhile(p => !p.MeasureFirst);

    private static Limits Make(PartKind kind, decimal discard, decimal? machineTo, decimal? nominal) =>
        Limits
            .Create(kind, nominal is { } n ? Of(n) : null, machineTo is { } m ? Of(m) : null, Of(discard), ShopRules.Default)
            .Limits.ShouldNotBeNull();
}
