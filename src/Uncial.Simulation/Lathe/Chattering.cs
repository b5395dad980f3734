using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>What is heard or seen of a pass that chatters.</summary>
public enum HeardAs
{
    /// <summary>Nothing: a clean cut.</summary>
    Clean,

    /// <summary>The part rings.</summary>
    Ringing,

    /// <summary>Head or bar rumbles.</summary>
    Rumble,

    /// <summary>The bit rubs.</summary>
    Rubbing,

    /// <summary>A torn surface: the edge is gone.</summary>
    Torn,
}

/// <summary>How a pass is run, as far as it makes a part sing.</summary>
/// <param name="Kind">Rotor or drum.</param>
/// <param name="DepthMm">Depth a side, mm.</param>
/// <param name="FeedMm">Feed, mm a turn.</param>
/// <param name="TurnsPerMinute">Speed of the spindle.</param>
/// <param name="DiameterMm">Largest diameter that is cut, mm.</param>
/// <param name="ThicknessMm">Thickness of a rotor; of a drum its wall.</param>
/// <param name="ReachMm">How far tool or bar stands out, mm.</param>
/// <param name="IsDamped">A band, silencers or a belt are on.</param>
/// <param name="EdgeWorn">How far the edge is worn, 0 … 1.</param>
public sealed record PassAtTheLathe(
    PartKind Kind,
    double DepthMm,
    double FeedMm,
    double TurnsPerMinute,
    double DiameterMm,
    double ThicknessMm,
    double ReachMm,
    bool IsDamped,
    double EdgeWorn
);

/// <summary>Chatter: what swings, how much, and how it is heard.</summary>
/// <param name="AmplitudeMm">Height of the waves that it leaves, mm; 0 for a clean cut.</param>
/// <param name="Heard">What is heard or seen.</param>
/// <param name="WavesPerTurn">Waves once round; 0 for a clean cut.</param>
public sealed record Chattering(double AmplitudeMm, HeardAs Heard, int WavesPerTurn)
{
    /// <summary>Beyond this a pass sings; a pass by the book stays below it.</summary>
    private const double Threshold = 1.3;

    /// <summary>Depth below which a bit rubs rather than cuts, mm.</summary>
    private const double Rubs = 0.045;

    /// <summary>
    /// Four things swing, each more the less it is held: the part by its thickness and damping, the tool by its reach, a bit that rubs, and
    /// an edge that is worn. What exceeds the threshold most is what is heard.
    /// </summary>
    public static Chattering Of(PassAtTheLathe pass)
    {
        ArgumentNullException.ThrowIfNull(pass);
        var speed = Math.PI * pass.DiameterMm * pass.TurnsPerMinute / 1000;
        var bite = pass.DepthMm < 0.1 ? 1 : 1 + (pass.DepthMm - 0.1) / 0.3;
        var fast = speed > 95 ? 1 + (speed - 95) / 120 : 1;
        var fineAtSpeed = pass.FeedMm < 0.06 && speed > 80 ? 1.15 : 1;
        // A part rings by its thickness; a drum by its size.
        var thin = pass.Kind == PartKind.Rotor ? Math.Pow(22 / Math.Max(4, pass.ThicknessMm), 0.6) : Math.Pow(pass.DiameterMm / 250, 0.5);
        var rings = 1.15 * thin * (pass.IsDamped ? 0.4 : 1) * bite * fast * fineAtSpeed;
        var rumbles = 0.72 * Math.Pow(pass.ReachMm / 80, 2) * bite * fast;
        var rubs = pass.DepthMm < Rubs ? 1.2 + (Rubs - pass.DepthMm) / Rubs : 0;
        var torn = 1.9 * pass.EdgeWorn * bite;
        var (most, heard) = new[]
        {
            (rings, HeardAs.Ringing),
            (rumbles, HeardAs.Rumble),
            (rubs, HeardAs.Rubbing),
            (torn, HeardAs.Torn),
        }.MaxBy(s => s.Item1);
        if (most <= Threshold)
            return new(0, HeardAs.Clean, 0);
        // Some hundred hertz to a thousand, by what swings.
        var hertz = heard switch
        {
            HeardAs.Ringing => 900 / thin,
            HeardAs.Rumble => 140,
            HeardAs.Rubbing => 600,
            _ => 300.0,
        };
        return new(
            Math.Min(0.05, 0.008 * (most - Threshold) + 0.002),
            heard,
            Math.Max(3, (int)Math.Round(hertz / (pass.TurnsPerMinute / 60)))
        );
    }
}
