using Uncial.Core.Lengths;
using Uncial.Practice.Causes;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Drills;

/// <summary>How an answer was marked.</summary>
/// <param name="IsRight">Right.</param>
/// <param name="Cause">What most likely led to it.</param>
/// <param name="Off">How far it is off, where it is a size; null else.</param>
public sealed record Marked(bool IsRight, MistakeCause Cause, Length? Off = null);

/// <summary>One item of a drill.</summary>
/// <param name="Ask">What is asked.</param>
public abstract record DrillItem(Ask Ask)
{
    /// <summary>What is looked at; null for an item of words alone.</summary>
    public DrillPicture? Picture { get; init; }
}

/// <summary>What an item shows.</summary>
public abstract record DrillPicture
{
    private DrillPicture() { }

    /// <summary>A gauge.</summary>
    public sealed record Gauge(GaugePicture Shown) : DrillPicture;

    /// <summary>Letters cast in a part; some are worn so that chalk alone shows them.</summary>
    /// <param name="Lines">Lines of the marking.</param>
    /// <param name="Worn">Seed of the wear.</param>
    public sealed record Casting(IReadOnlyList<string> Lines, int Worn) : DrillPicture;

    /// <summary>Two scratches on a face or in a bore.</summary>
    /// <param name="Part">Rotor or drum.</param>
    /// <param name="First">Middle of the first, degrees clockwise from 12 on the part.</param>
    /// <param name="FirstArc">How far it runs, degrees.</param>
    /// <param name="Second">Middle of the second.</param>
    /// <param name="SecondArc">How far that runs.</param>
    public sealed record Scratches(Core.Parts.PartKind Part, decimal First, decimal FirstArc, decimal Second, decimal SecondArc)
        : DrillPicture;

    /// <summary>The lathe from above, as it stands before a start.</summary>
    /// <param name="Machine">The lathe.</param>
    /// <param name="Part">What is on it.</param>
    /// <param name="Tight">Which of its locks are tight, in their order.</param>
    /// <param name="Lever">Where the feed lever points.</param>
    /// <param name="HasBand">A band is on the part.</param>
    public sealed record Lathe(Core.Planning.Lathe Machine, Core.Parts.PartKind Part, IReadOnlyList<bool> Tight, string Lever, bool HasBand)
        : DrillPicture;
}

/// <summary>An item that is answered with a size.</summary>
/// <param name="Ask">What is asked.</param>
/// <param name="Unit">Unit in which it is answered.</param>
/// <param name="Decimals">Decimals of the right answer.</param>
public abstract record SizeItem(Ask Ask, LengthUnit Unit, int Decimals) : DrillItem(Ask)
{
    /// <summary>The right answer.</summary>
    public abstract Length Right { get; }

    /// <summary>Marks an answer.</summary>
    public abstract Marked Mark(Length answer);

    /// <summary>How far an answer is off.</summary>
    protected Marked Say(MistakeCause cause, Length answer) => new(cause == MistakeCause.None, cause, answer - Right);
}

/// <summary>A gauge that is read.</summary>
/// <param name="Gauge">The gauge.</param>
/// <param name="Shown">What it shows, in its unit.</param>
/// <param name="Start">Where its bar is set, in its unit.</param>
/// <param name="Decimals">Decimals of the right answer.</param>
public sealed record ReadingItem(GaugeDesign Gauge, double Shown, double Start, int Decimals)
    : SizeItem(
        new Ask.GaugeReads(
            Gauge is { From: > 0, Step: 0 }
                ? Length.From((decimal)Gauge.From, Gauge.IsInch ? LengthUnit.Inch : LengthUnit.Millimetre)
                : null
        ),
        Gauge.IsInch ? LengthUnit.Inch : LengthUnit.Millimetre,
        Decimals
    )
{
    /// <inheritdoc/>
    public override Length Right => Length.From((decimal)Math.Round(Math.Round(Shown / Gauge.Division) * Gauge.Division, 5), Unit);

    /// <inheritdoc/>
    public override Marked Mark(Length answer) => Say(ReadingCauses.Of(Gauge, (double)answer.In(Unit), Shown, Start), answer);
}

/// <summary>The total reading of an indicator.</summary>
/// <param name="Gauge">The indicator.</param>
/// <param name="Lowest">Lowest place of its hand, in its unit.</param>
/// <param name="Highest">Highest place.</param>
/// <param name="Decimals">Decimals of the right answer.</param>
public sealed record TotalItem(GaugeDesign Gauge, double Lowest, double Highest, int Decimals)
    : SizeItem(new Ask.TotalReading(), Gauge.IsInch ? LengthUnit.Inch : LengthUnit.Millimetre, Decimals)
{
    /// <inheritdoc/>
    public override Length Right => Length.From((decimal)Math.Round(Highest - Lowest, 5), Unit);

    /// <inheritdoc/>
    public override Marked Mark(Length answer) => Say(ReadingCauses.OfTotal(Gauge, (double)answer.In(Unit), Lowest, Highest), answer);
}

/// <summary>A figure that is worked out, with what the usual mistakes would make of it.</summary>
/// <param name="Ask">What is asked.</param>
/// <param name="Unit">Unit in which it is answered.</param>
/// <param name="Decimals">Decimals of the right answer.</param>
/// <param name="Least">Least answer that is right.</param>
/// <param name="Greatest">Greatest answer that is right.</param>
/// <param name="Told">The right answer as it is told.</param>
/// <param name="Mistakes">What mistakes come to, the likelier ones first.</param>
public sealed record FigureItem(
    Ask Ask,
    LengthUnit Unit,
    int Decimals,
    Length Least,
    Length Greatest,
    Length Told,
    IReadOnlyList<(Length Value, MistakeCause Cause)> Mistakes
) : SizeItem(Ask, Unit, Decimals)
{
    /// <inheritdoc/>
    public override Length Right => Told;

    /// <inheritdoc/>
    public override Marked Mark(Length answer)
    {
        if (answer >= Least && answer <= Greatest)
            return new(true, MistakeCause.None, answer - Right);
        var half = Length.From(0.6m * Step, Unit);
        foreach (var (value, cause) in Mistakes)
            if ((answer - value).Abs() <= half)
                return Say(cause, answer);
        foreach (var factor in new[] { 10m, 0.1m, 100m, 0.01m })
            if ((answer - Right * factor).Abs() <= half * Math.Max(1, factor))
                return Say(MistakeCause.PointMoved, answer);
        return Say(MistakeCause.Unknown, answer);
    }

    private decimal Step => (decimal)Math.Pow(10, -Decimals);
}

/// <summary>An item with answers to pick from.</summary>
/// <param name="Ask">What is asked.</param>
/// <param name="Choices">Answers in the order in which they are offered; exactly one has no mistake in it.</param>
public sealed record ChoiceItem(Ask Ask, IReadOnlyList<Choice> Choices) : DrillItem(Ask)
{
    /// <summary>Which one is right.</summary>
    public int Right { get; } = Choices.Select((c, i) => (c, i)).Single(c => c.c.Cause == MistakeCause.None).i;

    /// <summary>Marks a pick.</summary>
    /// <param name="picked">0 for the first.</param>
    public Marked Mark(int picked) => new(picked == Right, Choices[picked].Cause);
}
