namespace Uncial.Simulation.Held;

/// <summary>
/// The metal under a gauge that touches it: between the spots at which heights are known, and over the patch that its anvil covers.
/// </summary>
public static class Wall
{
    private const double Apart = 360.0 / WorkFace.Angles;

    /// <summary>Height of a face at any angle, at one station.</summary>
    /// <param name="face">The face.</param>
    /// <param name="degrees">Angle, any turn.</param>
    /// <param name="station">The station.</param>
    public static double Height(WorkFace face, double degrees, int station)
    {
        ArgumentNullException.ThrowIfNull(face);
        var at = (degrees % 360 + 360) % 360 / Apart;
        var (before, share) = ((int)at % WorkFace.Angles, at - Math.Floor(at));
        return face.Height(before, station) * (1 - share) + face.Height((before + 1) % WorkFace.Angles, station) * share;
    }

    /// <summary>The highest that an anvil rests on.</summary>
    /// <param name="part">The part.</param>
    /// <param name="face">Which of its faces.</param>
    /// <param name="degrees">Where the anvil is.</param>
    /// <param name="mm">Radius (rotor) or depth from the open edge (drum) of its middle.</param>
    /// <param name="half">Half of its width, mm.</param>
    public static double Highest(VirtualPart part, int face, double degrees, double mm, double half)
    {
        ArgumentNullException.ThrowIfNull(part);
        var wide = part.Kind == Core.Parts.PartKind.Rotor ? half / Math.Max(mm, half) * 180 / Math.PI : 0;
        var highest = double.MinValue;
        for (var s = 0; s < part.StationsMm.Count; s++)
        {
            var (from, to) = Reach(part, s);
            if (to < mm - half || from > mm + half)
                continue;
            foreach (var beside in wide == 0 ? [0.0] : new[] { -wide, 0, wide })
                highest = Math.Max(highest, Height(part.Faces[face], degrees + beside, s));
        }
        return highest;
    }

    /// <summary>The station that lies at a radius or depth.</summary>
    public static int StationAt(VirtualPart part, double mm)
    {
        ArgumentNullException.ThrowIfNull(part);
        for (var s = 0; s < part.StationsMm.Count - 1; s++)
            if (mm < Reach(part, s).To)
                return s;
        return part.StationsMm.Count - 1;
    }

    /// <summary>From where to where a station lies: half-way to its neighbours; a groove is two millimetres wide.</summary>
    private static (double From, double To) Reach(VirtualPart part, int station)
    {
        var mm = part.StationsMm;
        if (part.Faces[0].At(station) == Ground.Groove)
            return (mm[station] - 1, mm[station] + 1);
        double Between(int a, int b) =>
            part.Faces[0].At(a) == Ground.Groove ? mm[a] + 1
            : part.Faces[0].At(b) == Ground.Groove ? mm[b] - 1
            : (mm[a] + mm[b]) / 2;
        return (
            station == 0 ? double.MinValue : Between(station - 1, station),
            station == mm.Count - 1 ? double.MaxValue : Between(station, station + 1)
        );
    }
}
