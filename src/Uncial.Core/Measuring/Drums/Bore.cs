using Uncial.Core.Lengths;

namespace Uncial.Core.Measuring;

/// <summary>
/// The depths of a bore as they prove one another: a depth with enough axes has an oval of its own; any other is taken as the shape of the
/// fullest proven depth, moved by what it reads there. Source: computation, section 3.
/// </summary>
internal sealed class Bore
{
    private readonly Length u;

    private Bore(StationReadings[] depths, Length u)
    {
        (Depths, this.u) = (depths, u);
        Ovals = Array.ConvertAll(depths, Oval.Of);
        Shapes = [.. Ovals];
        var proven = -1;
        for (var i = 0; i < depths.Length; i++)
            if (Ovals[i] is not null && (proven < 0 || depths[i].Spots.Length > depths[proven].Spots.Length))
                proven = i;
        if (proven < 0)
            return;
        Shape = Ovals[proven];
        (List<Transferred> transferred, List<StationReadings> unlike) = ([], []);
        for (var i = 0; i < depths.Length; i++)
            if (Ovals[i] is null)
                Transfer(depths[i], Shape!, transferred, unlike);
        (Moved, Unlike) = (transferred, unlike);
        foreach (var moved in transferred)
        {
            var by = moved.Largest - Shape!.Largest;
            Shapes[Array.IndexOf(depths, moved.Depth)] = Shape with
            {
                Mean = Shape.Mean + by,
                Largest = Shape.Largest + by,
                Smallest = Shape.Smallest + by,
            };
        }
    }

    /// <summary>The readings by depth, from the open edge inwards.</summary>
    public StationReadings[] Depths { get; }

    /// <summary>The oval of each depth; null where its axes do not prove one.</summary>
    public Oval?[] Ovals { get; }

    /// <summary>The oval of each depth, its own or the proven one moved there; null where neither is known.</summary>
    public Oval?[] Shapes { get; }

    /// <summary>Smallest diameter of a depth, by its readings and its shape: one axis alone may have missed the narrow one.</summary>
    public Length SmallestAt(int depth) =>
        Shapes[depth] is { } shape ? Length.Min(Depths[depth].Least, shape.Smallest) : Depths[depth].Least;

    /// <summary>The oval of the fullest proven depth; null where none is proven.</summary>
    public Oval? Shape { get; }

    /// <summary>Depths that are taken as the proven shape, moved.</summary>
    public IReadOnlyList<Transferred> Moved { get; } = [];

    /// <summary>Depths that differ from the proven one by more than twice the uncertainty: every axis is to be read there.</summary>
    public IReadOnlyList<StationReadings> Unlike { get; } = [];

    /// <summary>Roundness is proven at one depth at least, and every other depth is proven or taken from it.</summary>
    public bool IsProven => Shape is not null && Unlike.Count == 0;

    /// <summary>From the shallowest depth that was read to the deepest.</summary>
    public Length Span =>
        Depths.Where(d => d.Station is not null).ToList() is [{ Station: { } open }, .., { Station: { } back }] ? back - open : Length.Zero;

    /// <summary>What ovals and moved shapes say is largest, each with its own uncertainty.</summary>
    public IEnumerable<(Length Largest, Length Uncertainty, decimal Axis)> Largest() =>
        Ovals
            .OfType<Oval>()
            .Select(o => (o.Largest, o.Uncertainty(u), o.LargestAxis))
            .Concat(Moved.Select(m => (m.Largest, Shape!.Uncertainty(u) + u, Shape!.LargestAxis)));

    public static Bore Of(IReadOnlyList<Reading> readings, Length u) => new(StationReadings.Of(readings, Parts.PartKind.Drum), u);

    private void Transfer(StationReadings depth, Oval shape, List<Transferred> moved, List<StationReadings> unlike)
    {
        Transferred? largest = null;
        foreach (var (axis, size) in depth.Spots)
        {
            var there = shape.At(axis);
            if (DrumDepths.Differs(size, there, u))
            {
                unlike.Add(depth);
                return;
            }
            var at = size + (shape.Largest - there);
            if (largest is null || at > largest.Largest)
                largest = new(depth, size, there, at);
        }
        moved.Add(largest!);
    }
}

/// <summary>A depth that was read on few axes and is taken as the proven shape.</summary>
/// <param name="Depth">Its readings.</param>
/// <param name="Read">What was read on the axis that decides.</param>
/// <param name="Fitted">The proven shape on that axis.</param>
/// <param name="Largest">Largest diameter there if the shape is the same.</param>
internal sealed record Transferred(StationReadings Depth, Length Read, Length Fitted, Length Largest);
