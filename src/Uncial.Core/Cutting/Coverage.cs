using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>
/// How much of a turn a cut cleans, forwards and backwards. Model: one high and one low side (two of each in an oval), so the
/// share clean at depth d from first touch is <c>arccos(1 − 2d/R)/π</c> of a run-out R.
/// </summary>
public static class Coverage
{
    /// <summary>Sectors in which the operator marks what is still dark.</summary>
    public const int Sectors = 12;

    private const double HalfSector = 1.0 / (2 * Sectors);

    /// <summary>Share of the lands that is clean at a depth.</summary>
    /// <param name="depth">Depth from first touch; at a station with relief, less that relief.</param>
    /// <param name="runout">Run-out, total reading.</param>
    /// <returns>0 … 1; 0 at no depth, 1 from the run-out on.</returns>
    public static double CleanShare(Length depth, Length runout)
    {
        if (depth <= Length.Zero)
            return 0;
        if (depth >= runout)
            return 1;
        return Math.Acos(1 - 2 * (double)(depth / runout)) / Math.PI;
    }

    /// <summary>The run-outs that a share clean may speak of: sectors are tapped to half a sector.</summary>
    /// <param name="depth">Depth from first touch, above 0.</param>
    /// <param name="cleanSectors">Clean sectors of twelve.</param>
    /// <returns>The least and the greatest, which a new plan goes by; or null below 2/12 and above 11/12, where the share tells too
    /// little.</returns>
    public static (Length Least, Length Greatest)? RunoutRange(Length depth, int cleanSectors)
    {
        if (depth <= Length.Zero || cleanSectors is < 2 or > 11)
            return null;
        var share = (double)cleanSectors / Sectors;
        return (From(share + HalfSector, Toward.Less), From(share - HalfSector, Toward.Greater));

        Length From(double p, Toward toward) =>
            Length.FromTrigonometry(2 * (double)depth.Millimetres / (1 - Math.Cos(Math.PI * p)), toward);
    }

    /// <summary>Groove that is left at a depth: what of it lies below the cut, never more than its own depth.</summary>
    public static Length GrooveLeft(Length groove, Length need, Length depth) => Length.Min(groove, Length.Max(Length.Zero, need - depth));
}
