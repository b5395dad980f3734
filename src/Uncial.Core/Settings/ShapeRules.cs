using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>What is allowed for the shape that nobody read.</summary>
public sealed record ShapeRules
{
    /// <summary>The thickness variation divided by this is allowed for the places between eight or more readings.</summary>
    public decimal UnreadShareOfVariation { get; init; } = 6m;

    /// <summary>
    /// Waves around a part that eight evenly spaced places cannot see may be so deep: that much is allowed at least for what lies between
    /// them.
    /// </summary>
    public Length UnseenLobesFullRound { get; init; } = Length.FromMillimetres(0.01m);

    /// <summary>The same where three to seven places were read around a part.</summary>
    public Length UnseenLobes { get; init; } = Length.FromMillimetres(0.03m);

    /// <summary>
    /// A surface that was turned bright in one chucking may run out of parallel over the band by so much: both faces of a rotor together,
    /// in
    /// diameter of a drum.
    /// </summary>
    public Length UnknownParallelism { get; init; } = Length.FromMillimetres(0.02m);

    /// <summary>Relief of a face that nobody looked at, in the bound on the size after a pass.</summary>
    public Length UnknownRelief { get; init; } = Length.FromMillimetres(0.05m);

    /// <summary>
    /// What the depth of a groove or relief that stays may be more than it was read. Three standard deviations, not two: it is read once,
    /// and
    /// nothing stands behind it.
    /// </summary>
    public Length DepthUncertainty { get; init; } = Length.FromMillimetres(0.03m);

    /// <summary>The same for a depth that is the mean of three measurements with a depth gauge, alike among themselves.</summary>
    public Length RepeatedDepthUncertainty { get; init; } = Length.FromMillimetres(0.01m);

    /// <summary>
    /// A groove or low land that was said to be none by eye is looked at once more with the depth gauge where less than this would be
    /// left to
    /// discard beside all that is allowed for: deeper than most that somebody overlooks.
    /// </summary>
    public Length LookAgainWithin { get; init; } = Length.FromMillimetres(0.30m);
}
