using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The two figures that stand beside the entry while a part is measured, in words and in the reader's unit.</summary>
/// <param name="WorstWord">What the worst size is, and where.</param>
/// <param name="Worst">The worst size.</param>
/// <param name="SpreadWord">What the spread is: variation of a rotor, out of round of a drum.</param>
/// <param name="Spread">The spread.</param>
/// <param name="SpreadNote">What is to be said about it.</param>
public sealed record LiveFacts(string WorstWord, string Worst, string SpreadWord, string Spread, string SpreadNote = "")
{
    private const string Open = "–";

    /// <summary>Those of a rotor; what was not read yet is open.</summary>
    public static LiveFacts Of(RotorFigures? rotor, Reader reader) =>
        rotor is not { Least: { } least }
            ? new(Words.Say("measure.worst"), Open, Words.Say("measure.varies"), Open)
            : new(
                Words.Say("measure.worstAt", Words.Clock(rotor.LeastAt!.Value.Degrees)),
                reader.Reading(least),
                Words.Say("measure.varies"),
                reader.Figure(rotor.ThicknessVariation!.Value, Toward.Greater),
                rotor.VariationIsLowerBound
                    ? Words.Say("measure.orMore")
                    : Words.Say("measure.greatest", reader.Reading(rotor.Greatest!.Value))
            );

    /// <summary>Those of a drum; what was not read yet is open.</summary>
    public static LiveFacts Of(DrumFigures? drum, Reader reader)
    {
        if (drum is not { Largest: { } largest })
            return new(Words.Say("measure.worst"), Open, Words.Say("measure.outOfRound"), Open);
        var round = drum.Roundness!;
        return new(
            drum.Largest == drum.Greatest
                ? Words.Say("measure.largestAxis", Words.Clock(drum.GreatestAt!.Value.Axis))
                : Words.Say("measure.largestByTheFit"),
            reader.Reading(largest),
            Words.Say("measure.outOfRound"),
            drum.Axes < 2 ? Open : (round.Proven ? "" : "≥") + reader.Figure(round.OutOfRound, Toward.Greater),
            round.Proven
                ? Words.Say("measure.provenLargestAt", Words.Clock(Math.Round(round.LargestAxis!.Value / 15) * 15))
                : Words.Say("measure.notProven")
        );
    }
}
