namespace Uncial.Core.Parts;

/// <summary>
/// A place around the part: degrees clockwise as seen from the cutting side, stud 1 (the index mark) at 0. Always 0 … below 360.
/// </summary>
public readonly record struct ClockAngle
{
    private ClockAngle(decimal degrees) => Degrees = degrees;

    /// <summary>Degrees, 0 … below 360.</summary>
    public decimal Degrees { get; }

    /// <summary>The same place on the face of a clock, 0 … below 12; index mark at 12 (0).</summary>
    public decimal Hour => Degrees / 30m;

    /// <summary>The axis through this place: degrees, 0 … below 180. Opposite ends of one diameter are one axis.</summary>
    public decimal Axis => Degrees % 180m;

    internal double Radians => (double)Degrees * Math.PI / 180;

    /// <summary>A place at so many degrees; turns of 360 fall away.</summary>
    public static ClockAngle FromDegrees(decimal degrees)
    {
        var rest = degrees % 360m;
        return new(rest < 0 ? rest + 360m : rest);
    }

    internal static ClockAngle FromRadians(double radians) =>
        FromDegrees(Math.Round((decimal)(radians * 180 / Math.PI), 6, MidpointRounding.ToEven));

    /// <summary>
    /// The widest stretch between neighbouring places on a circle of the given length; the whole circle for fewer than two.
    /// </summary>
    /// <param name="places">Distinct places in ascending order.</param>
    /// <param name="circle">360 for places, 180 for axes.</param>
    internal static decimal WidestGap<T>((decimal Degrees, T Value)[] places, decimal circle)
    {
        if (places.Length < 2)
            return circle;
        var widest = places[0].Degrees + circle - places[^1].Degrees;
        for (var i = 1; i < places.Length; i++)
            widest = Math.Max(widest, places[i].Degrees - places[i - 1].Degrees);
        return widest;
    }
}
