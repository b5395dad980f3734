using Uncial.Core.Lengths;

namespace Uncial.Core.Release;

/// <summary>What may lie lower than the lands that were read, on one face of a rotor or in the bore of a drum.</summary>
/// <param name="Side"><c>outer</c>, <c>inner</c> or <c>bore</c>.</param>
/// <param name="Groove">Deepest groove that stays; null: nobody looked.</param>
/// <param name="Relief">From the lands that were read down to the lowest dark land; null: nobody looked. Not asked where <paramref
/// name="IsBright"/>.</param>
/// <param name="IsBright">Turned bright all round in this job: no land is lower than where the tool went.</param>
public readonly record struct FaceLeft(string Side, Length? Groove, Length? Relief, bool IsBright)
{
    /// <summary>The groove is the mean of three measurements: see <see cref="RepeatedDepth"/>.</summary>
    public bool GrooveIsRepeated { get; init; }

    /// <summary>The relief is the mean of three measurements.</summary>
    public bool ReliefIsRepeated { get; init; }

    /// <summary>That there is no groove was said by eye, with no gauge laid on.</summary>
    public bool GrooveIsByEye { get; init; }

    /// <summary>That no land lies lower was said by eye.</summary>
    public bool ReliefIsByEye { get; init; }
}

/// <summary>What stays below the lands that were read: grooves and low lands of a surface, and how sure their depths are.</summary>
/// <param name="Groove">Deepest groove of each face, added up, radial in a drum; null: not looked at on some face.</param>
/// <param name="Relief">From the lands that were read down to the lowest, of each face, added up; null: not looked at on some face.</param>
/// <param name="Uncertainty">What they may be more together: the uncertainty of each depth, added in squares.</param>
/// <param name="NotLookedAt">What nobody looked at: <c>grooveOuter</c>, <c>reliefInner</c>, <c>grooveBore</c> and so on.</param>
public sealed record DepthsLeft(Length? Groove, Length? Relief, Length Uncertainty, IReadOnlyList<string> NotLookedAt)
{
    /// <summary>What was said to be none by eye, by the same names.</summary>
    public IReadOnlyList<string> SaidByEye { get; init; } = [];

    /// <summary>Adds up the faces of a part. One that nobody looked at is not taken as nothing.</summary>
    /// <param name="faces">Both faces of a rotor, or the bore of a drum.</param>
    /// <param name="rules">The shop's rules: the uncertainty of one depth.</param>
    public static DepthsLeft Of(IReadOnlyCollection<FaceLeft> faces, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(faces);
        ArgumentNullException.ThrowIfNull(rules);
        (Length? groove, Length? relief) = (Length.Zero, Length.Zero);
        List<string> missing = [],
            byEye = [];
        foreach (var face in faces)
        {
            var low = face.IsBright ? Length.Zero : face.Relief;
            (groove, relief) = (groove + face.Groove, relief + low);
            if (face.Groove is null)
                missing.Add("groove" + Named(face.Side));
            if (low is null)
                missing.Add("relief" + Named(face.Side));
            if (face.GrooveIsByEye)
                byEye.Add("groove" + Named(face.Side));
            if (face.ReliefIsByEye && !face.IsBright)
                byEye.Add("relief" + Named(face.Side));
        }
        return new(groove, relief, Together([.. faces.Where(f => !f.IsBright || f.Groove > Length.Zero)], rules), missing)
        {
            SaidByEye = byEye,
        };
    }

    private static Length Together(IReadOnlyCollection<FaceLeft> faces, ShopRules rules)
    {
        double Of(bool repeated) =>
            Math.Pow((double)(repeated ? rules.Shape.RepeatedDepthUncertainty : rules.Shape.DepthUncertainty).Millimetres, 2);
        return faces.Count == 0
            ? Length.Zero
            : Length.FromTrigonometry(Math.Sqrt(faces.Sum(f => Of(f.GrooveIsRepeated) + Of(f.ReliefIsRepeated))), Toward.Greater);
    }

    /// <summary>
    /// What the depths of so many faces may be more than they were read. Errors of several depths seldom fall the same way: they add in
    /// squares.
    /// </summary>
    /// <param name="faces">Faces whose depths count; each has a groove and a relief.</param>
    /// <param name="one">Uncertainty of one depth.</param>
    public static Length UncertaintyOf(int faces, Length one) =>
        faces == 0 ? Length.Zero : Length.FromTrigonometry((double)one.Millimetres * Math.Sqrt(2 * faces), Toward.Greater);

    private static string Named(string side) => char.ToUpperInvariant(side[0]) + side[1..];
}
