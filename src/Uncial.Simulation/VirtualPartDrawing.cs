using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>Worn parts, drawn by chance. The distributions are written down in docs/study.md.</summary>
public sealed partial class VirtualPart
{
    private const int RotorReading = 6,
        DrumMiddle = 4;

    private const Ground L = Ground.Land,
        G = Ground.Groove,
        R = Ground.Ridge;

    private static readonly Ground[] RotorGround = [R, L, G, L, L, G, L, G, L, L, L, R];
    private static readonly double[] RotorInMm = [54, 50, 45, 40, 34, 29, 25, 20, 16, 10, 4, 0];
    private static readonly Ground[] DrumGround = [R, L, L, G, L, G, L, L, R];
    private static readonly double[] DrumDepthMm = [0, 3, 6, 13, 20, 26, 34, 37, 40];

    /// <summary>A worn rotor.</summary>
    public static VirtualPart Rotor(Chance chance, Stratum? stratum = null)
    {
        ArgumentNullException.ThrowIfNull(chance);
        stratum ??= Stratum.Fleet;
        var nominal = chance.OneOf<double>([10, 12, 20, 22, 24, 26, 28, 32]);
        var wearable = nominal < 20 ? 1.5 : 2.0;
        var edge = chance.Between(110, 170);
        double[] stations = [.. RotorInMm.Select(r => edge - r)];
        double[] reach = [.. stations.Select(r => r / edge)];
        var faces = new[] { new WorkFace(RotorGround, reach), new WorkFace(RotorGround, reach) };
        var (common, commonAt) = (chance.Rayleigh(0.025) / 2, chance.Direction());
        var (saddle, saddleAt) = (chance.Rayleigh(stratum.Warp) / 2, chance.Direction());
        var cone = chance.Normal(0.02);
        var rough = chance.Happens(0.1) ? 3 : 1;
        var (lobes, lobesAt) = (3 + (int)(chance.Share() * 6), chance.Direction());
        for (var f = 0; f < 2; f++)
        {
            var sign = f == 0 ? 1 : -1;
            var (taper, belly) = (Taper(chance, stratum, 0.010) / 2, chance.Normal(0.004));
            var waves = Waves(chance, stratum, rough, perFace: true);
            for (var s = 0; s < stations.Length; s++)
            {
                var along = Along(stations, s);
                faces[f].Shape(s, (taper * along - belly * (1 - along * along)) / 2);
                // Wobble, saddle and cone of both faces together are no thickness.
                faces[f].Shape(s, sign * common * reach[s], 1, commonAt);
                faces[f].Shape(s, sign * saddle * reach[s], 2, saddleAt);
                faces[f].Shape(s, sign * cone * along / 2);
                faces[f].Shape(s, stratum.Lobes / 4, lobes, lobesAt);
                foreach (var (amplitude, of, at) in waves)
                    faces[f].Shape(s, amplitude, of, at);
            }
            Wear(faces[f], chance, RotorReading);
        }
        var part = new VirtualPart(PartKind.Rotor, LimitsOf(stratum, nominal, nominal - wearable), faces, stations);
        // Worn so far that its worst land is so far inside discard.
        var inside =
            stratum.Wear == Simulation.Wear.NearDiscard ? chance.Between(-0.03, 0.12) : wearable * (1 - chance.Between(0.05, 1.08));
        part.WearTo(nominal - wearable + inside);
        return part;
    }

    /// <summary>A worn drum.</summary>
    public static VirtualPart Drum(Chance chance, Stratum? stratum = null)
    {
        ArgumentNullException.ThrowIfNull(chance);
        stratum ??= Stratum.Fleet;
        const double wearable = 1.5;
        var nominal = chance.OneOf<double>([160, 180, 200, 203.2, 228.6, 254, 280]);
        var bore = new WorkFace(DrumGround, [.. DrumGround.Select(_ => 1.0)]);
        var rough = chance.Happens(0.1) ? 3 : 1;
        var (oval, ovalAt) = (rough * chance.Rayleigh(0.06) / 4, chance.Direction());
        var (off, offAt) = (chance.Rayleigh(0.015), chance.Direction());
        var (mouth, belly) = (Taper(chance, stratum, 0.05), chance.Normal(0.01));
        var waves = Waves(chance, stratum, 1, perFace: false);
        // Odd lobes never show in a diameter.
        var (lobes, lobesAt) = (chance.OneOf<int>([4, 6, 8]), chance.Direction());
        for (var s = 0; s < DrumGround.Length; s++)
        {
            var along = Along(DrumDepthMm, s); // −1 at the open edge, 1 at the back
            bore.Shape(s, mouth * along / 4 - belly * (1 - along * along));
            bore.Shape(s, -oval, 2, ovalAt);
            bore.Shape(s, -off, 1, offAt);
            bore.Shape(s, stratum.Lobes / 4, lobes, lobesAt);
            foreach (var (amplitude, of, at) in waves)
                bore.Shape(s, amplitude, of, at);
        }
        Wear(bore, chance, DrumMiddle);
        var part = new VirtualPart(PartKind.Drum, LimitsOf(stratum, nominal, nominal + wearable), [bore], [.. DrumDepthMm]);
        var inside =
            stratum.Wear == Simulation.Wear.NearDiscard ? chance.Between(-0.05, 0.25) : wearable * (1 - chance.Between(0.02, 1.08));
        part.WearTo(nominal + wearable - inside);
        return part;
    }

    /// <summary>A part of a kind.</summary>
    public static VirtualPart Draw(PartKind kind, Chance chance, Stratum stratum) =>
        kind == PartKind.Rotor ? Rotor(chance, stratum) : Drum(chance, stratum);

    /// <summary>−1 at the first station, 1 at the last.</summary>
    private static double Along(double[] stations, int s) => 2 * (stations[s] - stations[0]) / (stations[^1] - stations[0]) - 1;

    private static double Taper(Chance chance, Stratum stratum, double usual)
    {
        var drawn = chance.Normal(usual);
        if (stratum.Taper == 0)
            return drawn;
        return (drawn < 0 ? -1 : 1) * chance.Between(0.5, 1) * stratum.Taper;
    }

    /// <summary>Amplitude, lobes and phase of the waves of one face, or of a bore's radius.</summary>
    private static (double Amplitude, int Lobes, double At)[] Waves(Chance chance, Stratum stratum, int rough, bool perFace)
    {
        int More() => 3 + (int)(chance.Share() * 6);
        (double, int, double)[] usual =
        [
            (rough * chance.Rayleigh(perFace ? 0.006 : 0) / 2, 1, chance.Direction()),
            (rough * chance.Rayleigh(perFace ? 0.004 : 0) / 2, 2, chance.Direction()),
            (chance.Rayleigh(perFace ? 0.0015 : 0.006) / 2, perFace ? More() : 3, chance.Direction()),
            (chance.Rayleigh(perFace ? 0 : 0.004) / 2, 4, chance.Direction()),
        ];
        if (stratum.Lobes == 0)
            return usual;
        return usual[..2];
    }

    /// <summary>Grooves, ridges, lands that lie lower or stand higher than the one that is read, patches of rust and hard spots.</summary>
    private static void Wear(WorkFace face, Chance chance, int read)
    {
        for (var s = 0; s < face.Stations; s++)
        {
            if (face.At(s) == Ground.Ridge)
                face.Shape(s, chance.Between(0.1, 1.0));
            if (face.At(s) == Ground.Groove && chance.Happens(0.35))
                face.Shape(s, -Math.Min(0.4, chance.Exponential(0.06)));
            if (face.At(s) == Ground.Land && s != read && chance.Happens(0.3))
                face.Shape(s, Math.Clamp(chance.Normal(0.02), -0.08, 0.08));
        }
        if (chance.Happens(0.1))
        {
            var (from, spots, depth) = (
                (int)(chance.Share() * WorkFace.Angles),
                2 + (int)(chance.Share() * 7),
                Math.Min(0.25, chance.Exponential(0.04))
            );
            var (first, wide) = (1 + (int)(chance.Share() * (face.Stations - 2)), 1 + (int)(chance.Share() * 3));
            for (var s = first; s < Math.Min(face.Stations - 1, first + wide); s++)
                face.Corrode(from, spots, s, depth);
        }
        if (chance.Happens(0.1))
        {
            var (from, spots, left) = (
                (int)(chance.Share() * WorkFace.Angles),
                1 + (int)(chance.Share() * 5),
                chance.Between(0.003, 0.020)
            );
            for (var s = 1; s < face.Stations - 1; s++)
                face.Harden(from, spots, s, left);
        }
    }

    /// <summary>Moves all faces alike until the worst land has a size.</summary>
    private void WearTo(double size)
    {
        var each = (size - WorstSize(grooves: false)) / 2 * (Kind == PartKind.Rotor ? 1 : -1);
        foreach (var face in faces)
            for (var s = 0; s < face.Stations; s++)
                face.Shape(s, each);
    }

    private static Sizes LimitsOf(Stratum stratum, double nominal, double discard) =>
        new(nominal, stratum.MachineToIsDiscard ? discard : null, discard);
}
