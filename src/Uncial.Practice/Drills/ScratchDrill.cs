using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Simulation;

namespace Uncial.Practice.Drills;

/// <summary>
/// Two scratches on the part, which was turned on the arbor between them. What belongs to the part stays where it is on the part; what
/// belongs to the set-up moves back by the turn.
/// </summary>
internal static class ScratchDrill
{
    private enum Whose
    {
        Part,
        SetUp,
        Both,
    }

    public static ChoiceItem Item(Chance chance)
    {
        var part = chance.Happens(0.6) ? PartKind.Rotor : PartKind.Drum;
        var turned = chance.OneOf<int>([180, 180, 90, 270]);
        var whose = chance.OneOf<Whose>([Whose.Part, Whose.SetUp, Whose.Both]);
        var size = Math.Round(chance.Between(0.05, 0.12), 2);
        var (ofPart, ofSetUp) = whose switch
        {
            Whose.Part => (size, chance.Between(0, 0.004)),
            Whose.SetUp => (chance.Between(0, 0.006), size),
            _ => (size, Math.Round(size * chance.Between(0.8, 1.2), 2)),
        };
        // Neither scratch may vanish: it would run once round and say nothing of a direction.
        double first,
            firstAt,
            second,
            secondAt;
        do
        {
            var (partAt, setUpAt) = (chance.Direction(), chance.Direction());
            (first, firstAt) = Sum(ofPart, partAt, ofSetUp, setUpAt);
            (second, secondAt) = Sum(ofPart, partAt, ofSetUp, setUpAt - turned * Math.PI / 180);
        } while (Math.Min(first, second) < 0.04);
        var (shown1, shown2) = (Mm(first), Mm(second));
        var check = SetUpCheck.Of(
            part,
            turned,
            Mm(0.025),
            Mm(0.01),
            RunoutMark.Indicated(Clock(firstAt), shown1),
            RunoutMark.Indicated(Clock(secondAt), shown2)
        );
        var found = Length.FromMillimetres(Math.Round(check.SetUpRunout!.Value.Millimetres, 2));
        var all = Length.Max(shown1, shown2);
        var half = Length.FromMillimetres(Math.Round(all.Millimetres / 2, 2));
        Choice[] choices =
        [
            new Choice.ThePart(
                whose switch
                {
                    Whose.Part => MistakeCause.None,
                    Whose.SetUp => MistakeCause.PartBlamed,
                    _ => MistakeCause.ShareOverlooked,
                }
            ),
            new Choice.TheSetUp(
                all,
                whose switch
                {
                    Whose.SetUp => MistakeCause.None,
                    Whose.Part => MistakeCause.SetUpBlamed,
                    _ => MistakeCause.ShareOverlooked,
                }
            ),
            new Choice.Both(
                whose == Whose.Both ? found : half,
                whose switch
                {
                    Whose.Both => MistakeCause.None,
                    Whose.Part => MistakeCause.SetUpBlamed,
                    _ => MistakeCause.PartBlamed,
                }
            ),
        ];
        return new(new Ask.Scratches(turned, shown1, shown2), choices)
        {
            Picture = new DrillPicture.Scratches(part, Degrees(firstAt), Arc(first), Degrees(secondAt), Arc(second)),
        };
    }

    private static (double Size, double At) Sum(double a, double aAt, double b, double bAt)
    {
        var (x, y) = (a * Math.Cos(aAt) + b * Math.Cos(bAt), a * Math.Sin(aAt) + b * Math.Sin(bAt));
        return (Math.Sqrt(x * x + y * y), Math.Atan2(y, x));
    }

    /// <summary>
    /// How far a scratch 0.02 deep runs on a wobble of so much, degrees: the part of a turn that stands within 0.02 of the top.
    /// </summary>
    private static decimal Arc(double runout) =>
        runout <= 0.02 ? 360 : (decimal)Math.Round(2 * Math.Acos(1 - 0.04 / runout) * 180 / Math.PI);

    private static decimal Degrees(double at) => Clock(at).Degrees;

    private static ClockAngle Clock(double at) => ClockAngle.FromDegrees(Math.Round((decimal)(at * 180 / Math.PI)));

    private static Length Mm(double mm) => Length.FromMillimetres((decimal)Math.Round(mm, 2));
}
