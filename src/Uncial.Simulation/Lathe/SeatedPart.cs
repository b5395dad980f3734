namespace Uncial.Simulation;

/// <summary>How an adapter fits where it seats.</summary>
public enum Seating
{
    /// <summary>Flat on the machined face.</summary>
    Flat,

    /// <summary>Wider than the machined face: it rides on the casting beyond it.</summary>
    BeyondTheFace,

    /// <summary>Its recess does not clear what lies in it: it rides on the cone.</summary>
    OnTheCone,
}

/// <summary>How a cone stands in the hole.</summary>
public enum Centring
{
    /// <summary>About half-way in.</summary>
    HalfWay,

    /// <summary>Only its tip enters, or it goes through: it does not centre.</summary>
    Not,
}

/// <summary>How a part was put on the arbor.</summary>
/// <param name="PartIsClean">Its mounting face was cleaned on both sides.</param>
/// <param name="AdaptersAreClean">The adapters were cleaned.</param>
/// <param name="Seating">How the cups or plates seat.</param>
/// <param name="Centring">How the cone stands.</param>
/// <param name="NotchesMeet">The notches of the two cups face one another.</param>
/// <param name="SeatMm">Diameter up to which it is seated.</param>
/// <param name="WebMm">Thickness of the web that is clamped.</param>
public sealed record Mounted(
    bool PartIsClean,
    bool AdaptersAreClean,
    Seating Seating,
    Centring Centring,
    bool NotchesMeet,
    double SeatMm,
    double WebMm
);

/// <summary>What a mounting does to a part as it turns.</summary>
public static class SeatedPart
{
    /// <summary>
    /// Wobble of the edge (rotor) or off-centre of the bore (drum), half of what an indicator swings, mm, and where it is highest, radians.
    /// </summary>
    /// <param name="mounted">How it was mounted.</param>
    /// <param name="diameter">Largest diameter that is cut, mm.</param>
    /// <param name="chance">Chance of this mounting.</param>
    public static (double Amplitude, double At) Wobble(Mounted mounted, double diameter, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(mounted);
        ArgumentNullException.ThrowIfNull(chance);
        // The arbor itself, at its best; then everything adds as it lies.
        var (x, y) = Vector(chance.Rayleigh(0.003), chance);
        void Add(double amplitude)
        {
            var (dx, dy) = Vector(amplitude, chance);
            (x, y) = (x + dx, y + dy);
        }
        // A grain lifts one side of the seat; the edge lies further out than the seat.
        double Grain(double size) => size / mounted.SeatMm * diameter / 2;
        if (!mounted.PartIsClean)
            Add(Grain(chance.Between(0.03, 0.08)));
        if (!mounted.AdaptersAreClean)
            Add(Grain(chance.Between(0.02, 0.06)));
        if (mounted.Seating != Seating.Flat)
            Add(Grain(chance.Between(0.05, 0.15)));
        if (mounted.Centring == Centring.Not)
            Add(chance.Between(0.05, 0.2));
        if (!mounted.NotchesMeet)
            // A thin web bends between cups that push at different places.
            Add(Grain(0.16 / Math.Max(3, mounted.WebMm)));
        return (Math.Sqrt(x * x + y * y), Math.Atan2(y, x));
    }

    private static (double X, double Y) Vector(double amplitude, Chance chance)
    {
        var (sin, cos) = Math.SinCos(chance.Direction());
        return (amplitude * cos, amplitude * sin);
    }
}
