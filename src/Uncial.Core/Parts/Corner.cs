namespace Uncial.Core.Parts;

/// <summary>Where a part belongs on the vehicle.</summary>
public enum Corner
{
    /// <summary>Front left, seen in the direction of travel.</summary>
    FrontLeft,

    /// <summary>Front right.</summary>
    FrontRight,

    /// <summary>Rear left.</summary>
    RearLeft,

    /// <summary>Rear right.</summary>
    RearRight,

    /// <summary>None of these, or nobody knows.</summary>
    Other,
}

/// <summary>Axle of a vehicle.</summary>
public enum Axle
{
    /// <summary>Any axle, or nobody knows.</summary>
    Any,

    /// <summary>The front axle.</summary>
    Front,

    /// <summary>The rear axle.</summary>
    Rear,
}

/// <summary>Which corners belong together.</summary>
public static class Corners
{
    /// <summary>The other end of the same axle; null where there is none.</summary>
    public static Corner? Opposite(this Corner corner) =>
        corner switch
        {
            Corner.FrontLeft => Corner.FrontRight,
            Corner.FrontRight => Corner.FrontLeft,
            Corner.RearLeft => Corner.RearRight,
            Corner.RearRight => Corner.RearLeft,
            _ => null,
        };

    /// <summary>The corners of an axle, the left one first; none of any axle.</summary>
    public static IReadOnlyList<Corner> Of(Axle axle) =>
        axle switch
        {
            Parts.Axle.Front => [Corner.FrontLeft, Corner.FrontRight],
            Parts.Axle.Rear => [Corner.RearLeft, Corner.RearRight],
            _ => [],
        };

    /// <summary>The axle of a corner.</summary>
    public static Axle Axle(this Corner corner) =>
        corner switch
        {
            Corner.FrontLeft or Corner.FrontRight => Parts.Axle.Front,
            Corner.RearLeft or Corner.RearRight => Parts.Axle.Rear,
            _ => Parts.Axle.Any,
        };

    /// <summary>
    /// Whether a limit that is for an axle is the one to offer for a part of a corner: for any axle, or for that of the corner.
    /// </summary>
    public static bool IsFor(this Axle axle, Corner corner) => axle == Parts.Axle.Any || axle == corner.Axle();

    /// <summary>
    /// Whether a limit that is for an axle may be for a part of a corner: the same axle, or one of the two is not known.
    /// </summary>
    public static bool Takes(this Axle axle, Corner corner) =>
        axle == Parts.Axle.Any || corner.Axle() is var of && (of == Parts.Axle.Any || of == axle);
}
