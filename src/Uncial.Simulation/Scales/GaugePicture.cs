namespace Uncial.Simulation.Scales;

/// <summary>How long a mark is.</summary>
public enum MarkSize
{
    /// <summary>One of the finest.</summary>
    Small,

    /// <summary>A half, or every fifth.</summary>
    Middle,

    /// <summary>A whole one.</summary>
    Large,
}

/// <summary>A mark of a scale that can be seen.</summary>
/// <param name="At">
/// Where it stands: on a straight scale so far behind the line or edge that is read (negative: before it), in the unit of the scale; on a
/// dial in turns, clockwise from the top, 0 … below 1.
/// </param>
/// <param name="Size">How long it is.</param>
/// <param name="Numeral">What is engraved at it; null for nothing.</param>
public readonly record struct ScaleMark(double At, MarkSize Size, string? Numeral = null);

/// <summary>What a scale is on its gauge.</summary>
public enum ScaleName
{
    /// <summary>Sleeve of a micrometer: marks along it, whole ones above the line and halves below.</summary>
    Sleeve,

    /// <summary>Thimble of a micrometer, unrolled: in divisions above the line of the sleeve.</summary>
    Thimble,

    /// <summary>Vernier of a micrometer, in divisions of the thimble above its line; of a caliper, in the unit of the beam.</summary>
    Vernier,

    /// <summary>Beam of a caliper.</summary>
    Beam,

    /// <summary>Bar of a drum gauge.</summary>
    Bar,

    /// <summary>Dial with its hand.</summary>
    Dial,

    /// <summary>Small dial that counts the turns of the hand.</summary>
    Counter,
}

/// <summary>A straight scale and what of it stands opposite what: a mark at 0 stands exactly at the line or edge.</summary>
/// <param name="Name">What it is on the gauge.</param>
/// <param name="Marks">Marks that can be seen, ascending by place.</param>
public sealed record StraightScale(ScaleName Name, IReadOnlyList<ScaleMark> Marks);

/// <summary>A dial.</summary>
/// <param name="Name">What it is on the gauge.</param>
/// <param name="Divisions">Divisions of one turn.</param>
/// <param name="Marks">Its marks; a mark's place is in turns.</param>
/// <param name="Hands">Where its hands point, in turns; of an indicator that ran with the part, the lowest and the highest place.</param>
public sealed record RoundScale(ScaleName Name, int Divisions, IReadOnlyList<ScaleMark> Marks, IReadOnlyList<double> Hands);

/// <summary>
/// A gauge as an eye sees it: where marks and hands stand, to a twentieth of a division, and nothing that could not be seen.
/// </summary>
/// <param name="Design">The gauge.</param>
/// <param name="Straight">Its straight scales.</param>
/// <param name="Round">Its dials.</param>
public sealed record GaugePicture(GaugeDesign Design, IReadOnlyList<StraightScale> Straight, IReadOnlyList<RoundScale> Round)
{
    /// <summary>One of the straight scales.</summary>
    /// <exception cref="InvalidOperationException">The gauge has none of that name.</exception>
    public StraightScale Scale(ScaleName name) => Straight.Single(s => s.Name == name);

    /// <summary>One of the dials.</summary>
    /// <exception cref="InvalidOperationException">The gauge has none of that name.</exception>
    public RoundScale DialOf(ScaleName name) => Round.Single(s => s.Name == name);
}
