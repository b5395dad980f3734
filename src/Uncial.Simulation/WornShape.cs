using Uncial.Core.Parts;

namespace Uncial.Simulation;

/// <summary>How a part is worn, stated rather than drawn by chance. Millimetres; 0 for what it has not.</summary>
public sealed record WornShape
{
    /// <summary>How far the worst land is inside discard; negative beyond it.</summary>
    public required double Left { get; init; }

    /// <summary>Rotor: run-out of both faces together, total reading: it comes off with the cut.</summary>
    public double Runout { get; init; }

    /// <summary>Rotor: spread of the thickness round the rotor, once round.</summary>
    public double Variation { get; init; }

    /// <summary>Drum: largest less least diameter, two lobes.</summary>
    public double Oval { get; init; }

    /// <summary>Drum: where the largest diameter lies, degrees. Rotor: where it is thinnest.</summary>
    public double At { get; init; }

    /// <summary>Drum: off centre to its own hub, total reading.</summary>
    public double Eccentricity { get; init; }

    /// <summary>Over the band, both faces together or on the diameter: thinner at the edge, wider at the open edge.</summary>
    public double Taper { get; init; }

    /// <summary>Depth of each groove, of the deepest first; more than there is room for are left out.</summary>
    public IReadOnlyList<double> Grooves { get; init; } = [];

    /// <summary>How much lower one land lies than the one that is read, on each face.</summary>
    public double LowLand { get; init; }

    /// <summary>Height of the rust ridge or lip.</summary>
    public double Ridge { get; init; } = 0.3;

    /// <summary>Depth of a patch of rust; 0 for none.</summary>
    public double Rust { get; init; }

    /// <summary>What a pass leaves standing on a hard spot; 0 for none.</summary>
    public double HardSpot { get; init; }
}

/// <summary>Parts that are worn as somebody states.</summary>
public sealed partial class VirtualPart
{
    /// <summary>A part worn to a shape. What is not stated is as a good part has it: a hair of unevenness, by chance.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="sizes">Its limits.</param>
    /// <param name="edge">Radius of the outer edge of a rotor, mm; of a drum not used.</param>
    /// <param name="shape">How it is worn.</param>
    /// <param name="chance">Chance of what is not stated.</param>
    public static VirtualPart Worn(PartKind kind, Sizes sizes, double edge, WornShape shape, Chance chance)
    {
        ArgumentNullException.ThrowIfNull(shape);
        ArgumentNullException.ThrowIfNull(chance);
        var rotor = kind == PartKind.Rotor;
        double[] stations = rotor ? [.. RotorInMm.Select(r => edge - r)] : [.. DrumDepthMm];
        var ground = rotor ? RotorGround : DrumGround;
        double[] reach = rotor ? [.. stations.Select(r => r / edge)] : [.. ground.Select(_ => 1.0)];
        WorkFace[] faces = [.. Enumerable.Range(0, rotor ? 2 : 1).Select(_ => new WorkFace(ground, reach))];
        var (runoutAt, read) = (chance.Direction(), rotor ? RotorReading : DrumMiddle);
        var at = shape.At * Math.PI / 180;
        for (var f = 0; f < faces.Length; f++)
        {
            for (var s = 0; s < stations.Length; s++)
            {
                var along = Along(stations, s);
                if (rotor)
                {
                    faces[f].Shape(s, (f == 0 ? 1 : -1) * shape.Runout / 2 * reach[s], 1, runoutAt);
                    faces[f].Shape(s, -shape.Variation / 4, 1, at); // thinnest at the stated angle
                    faces[f].Shape(s, -shape.Taper / 4 * along);
                }
                else
                {
                    faces[f].Shape(s, -shape.Oval / 4, 2, 2 * at);
                    faces[f].Shape(s, -shape.Eccentricity / 2, 1, runoutAt);
                    faces[f].Shape(s, shape.Taper / 4 * along); // −1 at the open edge: wider there
                }
                // A hair of unevenness, so that no two readings are alike to the last digit.
                faces[f].Shape(s, chance.Rayleigh(0.0006), 3, chance.Direction());
            }
            Mark(faces[f], shape, read, chance);
        }
        var part = new VirtualPart(kind, sizes, faces, stations);
        part.WearTo(rotor ? sizes.Discard + shape.Left : sizes.Discard - shape.Left);
        return part;
    }

    /// <summary>Grooves, ridge, a low land, rust and a hard spot of one face.</summary>
    private static void Mark(WorkFace face, WornShape shape, int read, Chance chance)
    {
        var grooves = new Queue<double>(shape.Grooves);
        for (var s = 0; s < face.Stations; s++)
            if (face.At(s) == Ground.Ridge)
                face.Shape(s, shape.Ridge);
            else if (face.At(s) == Ground.Groove && grooves.TryDequeue(out var depth))
                face.Shape(s, -depth);
        if (shape.LowLand > 0)
            face.Shape(Enumerable.Range(1, face.Stations - 2).First(s => face.At(s) == Ground.Land && s != read), -shape.LowLand);
        var from = (int)(chance.Share() * WorkFace.Angles);
        if (shape.Rust > 0)
            face.Corrode(from, 5, read, shape.Rust);
        if (shape.HardSpot > 0)
            for (var s = 1; s < face.Stations - 1; s++)
                face.Harden(from, 4, s, shape.HardSpot);
    }
}
