using CsCheck;
using Uncial.Core.Inspection;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

public class WorthTests
{
    private static readonly ShopRules Rules = ShopRules.Default with
    {
        Cost = new()
        {
            MountMinutes = 20,
            BenchMinutePrice = 1,
            ConsumablesPrice = 3,
            LeastDistanceAfterCut = 20_000,
        },
    };

    private static WorthCutting Weigh(decimal[] sizes, WorthFacts facts, decimal runout = 0.05m)
    {
        var rotor = new RotorMeasurement
        {
            Limits = Mm.Rotor(23.0m, 23.4m, 26.0m),
            Readings = Mm.Around(sizes),
            Uncertainty = Mm.Of(0.007m),
            Faces = new(new(Mm.Of(runout), Length.Zero, Length.Zero), new(Mm.Of(runout), Length.Zero, Length.Zero)),
        };
        var figures = RotorAssessment.Assess(rotor, Rules);
        var plan = PassPlanner.Plan(PlanRequest.For(rotor, figures, new Dial(Mm.Of(0.01m), false, Mm.Of(0.01m), true), ShopRules.Default));
        return WorthCutting.Of(rotor.Limits, figures.Least!.Value, figures.DiscardVerdict, false, plan, facts, Rules);
    }

    private static decimal[] Sizes(decimal least) => [.. Enumerable.Range(0, 8).Select(i => least + i % 4 * 0.01m)];

    [Fact]
    public void Each_verdict_has_its_case()
    {
        Weigh(Sizes(24.3m), new(60_000, 84, 4, false))
            .ShouldSatisfyAllConditions(
                w => w.Word.ShouldBe(WorthWord.Cut),
                w => w.Money.CostOfCutting.ShouldBe(27m),
                w => w.Money.Saved.ShouldBe(57m),
                // 1.7 worn in 60 000 km, and what is left after the cut goes as fast.
                w => w.DistanceUncut!.Value.ShouldBe(45_882m),
                w => w.DistanceAfter!.Value.ShouldBe(Math.Floor(w.LeftAfter!.Value.Millimetres * 60_000 / 1.7m))
            );
        Weigh(Sizes(24.3m), new(60_000, 27, 4, false)).Word.ShouldBe(WorthWord.NewPartIsCheaper);
        Weigh(Sizes(23.6m), new(60_000, 84, 4, false)).Word.ShouldBe(WorthWord.TooShortALife);
        Weigh(Sizes(23.42m), new(null, null, 4, false))
            .ShouldSatisfyAllConditions(
                w => w.Word.ShouldBe(WorthWord.CannotBeCut),
                w => w.Option.ShouldBeNull(),
                w => w.LeftAfter.ShouldBeNull()
            );
        Weigh(Sizes(22.9m), new(null, null, 0, false)).Word.ShouldBe(WorthWord.Beyond);
        Weigh(Sizes(24.3m), new(null, null, 4, true)).Word.ShouldBe(WorthWord.Leave);
        Weigh(Sizes(24.3m), new(null, null, 4, false))
            .ShouldSatisfyAllConditions(
                w => w.Word.ShouldBe(WorthWord.Cut),
                w => w.DistanceAfter.ShouldBeNull(),
                w => w.Money.Saved.ShouldBeNull()
            );
    }

    [Theory]
    [InlineData(WorthWord.Beyond, "scuff", "Scrap")]
    [InlineData(WorthWord.Cut, "", "Mount Leave")]
    [InlineData(WorthWord.Cut, "scuff", "Mount Leave Scuff")]
    [InlineData(WorthWord.Leave, "scuff", "Leave Scuff Mount")]
    [InlineData(WorthWord.CannotBeCut, "scuff", "Scuff Leave Shelve Scrap Mount")]
    [InlineData(WorthWord.CannotBeCut, "", "Leave Shelve Scrap Mount")]
    [InlineData(WorthWord.CannotBeCut, "scuff varies", "Scrap Scuff Leave Mount")]
    // Nobody has looked for grooves: what scuffing leaves is not known, so it is not the best.
    [InlineData(WorthWord.CannotBeCut, "scuff unseen", "Leave Scuff Shelve Scrap Mount")]
    [InlineData(WorthWord.BelowFloor, "", "Leave Shelve Scrap")]
    [InlineData(WorthWord.BelowFloor, "scuff varies", "Scrap Scuff Leave")]
    [InlineData(WorthWord.TooShortALife, "", "Scrap Leave Mount")]
    [InlineData(WorthWord.NewPartIsCheaper, "scuff", "Scrap Scuff Leave Mount")]
    // Too close to call: what to read next, as long as a reading may still tell.
    [InlineData(WorthWord.CannotBeCut, "close helps", "ReadMore Leave Shelve Scrap Mount")]
    [InlineData(WorthWord.CannotBeCut, "close", "Leave Shelve Scrap Mount")]
    [InlineData(WorthWord.CannotBeCut, "helps", "Leave Shelve Scrap Mount")]
    [InlineData(WorthWord.Beyond, "close helps", "Scrap")]
    // Both of an axle are measured before one is mounted; what else becomes of this one may be decided at once.
    [InlineData(WorthWord.Cut, "other", "MeasureOther Mount Leave")]
    [InlineData(WorthWord.CannotBeCut, "other", "Leave Shelve Scrap Mount MeasureOther")]
    [InlineData(WorthWord.Beyond, "other", "Scrap")]
    public void What_may_be_done_follows_the_verdict_the_best_first(WorthWord word, string known, string moves) =>
        string.Join(
                ' ',
                MeasuredMoves.Of(
                    word,
                    new(
                        known.Contains("close"),
                        known.Contains("helps"),
                        known.Contains("varies"),
                        known.Contains("scuff"),
                        !known.Contains("unseen"),
                        known.Contains("other")
                    )
                )
            )
            .ShouldBe(moves);

    [Fact]
    public void A_drum_under_the_floor_is_not_started()
    {
        var drum = new DrumMeasurement
        {
            Limits = Mm.Drum(230.1m, 229.6m, 228.6m),
            Readings = Mm.Axes(229.4m, 229.42m, 229.4m, 229.38m),
            Uncertainty = Mm.Of(0.02m),
            Eccentricity = Length.Zero,
        };
        var figures = DrumAssessment.Assess(drum, Rules);
        figures.BelowFloor.ShouldBeTrue();
        var plan = PassPlanner.Plan(PlanRequest.For(drum, figures, new Dial(Mm.Of(0.01m), false, Mm.Of(0.01m), true), ShopRules.Default));
        WorthCutting
            .Of(drum.Limits, figures.Largest!.Value, figures.DiscardVerdict, figures.BelowFloor, plan, default, Rules)
            .ShouldSatisfyAllConditions(w => w.Word.ShouldBe(WorthWord.BelowFloor), w => w.Option.ShouldBeNull());
    }

    [Fact]
    public void A_part_is_never_said_worth_cutting_that_is_beyond_or_cannot_be_cut() =>
        Gen.Select(Gen.Int[22_500, 26_000], Gen.Int[0, 300_000], Gen.Int[0, 200], Gen.Int[0, 300])
            .Sample(
                (least, km, price, runout) =>
                {
                    var worth = Weigh(Sizes(least / 1000m), new(km, price, 4, false), runout / 1000m);
                    if (least < 23_000)
                        worth.Word.ShouldBe(WorthWord.Beyond);
                    if (worth.Word == WorthWord.Cut)
                    {
                        worth.Option!.CanStart.ShouldBeTrue();
                        worth.LeftAfter!.Value.Millimetres.ShouldBeGreaterThan(0.4m);
                        (worth.DistanceAfter ?? decimal.MaxValue).ShouldBeGreaterThanOrEqualTo(20_000);
                        worth.Money.Saved!.Value.ShouldBeGreaterThan(0);
                    }
                    if (worth is { DistanceUncut: { } uncut, DistanceAfter: { } after })
                        after.ShouldBeLessThanOrEqualTo(uncut);
                }
            );

    [Fact]
    public void A_crack_is_scrap_and_what_must_not_be_turned_is_refused_and_nothing_else_ends_a_workflow()
    {
        foreach (var kind in Enum.GetValues<FindingKind>())
        {
            Findings.StopsThePart(kind).ShouldBe(kind is FindingKind.Crack or FindingKind.NoTurn);
            (Findings.Means(kind) == Consequence.None).ShouldBe(kind == FindingKind.Nothing);
        }
        Findings.Means(FindingKind.Crack).ShouldBe(Consequence.Scrap);
        Findings.Means(FindingKind.NoTurn).ShouldBe(Consequence.Refuse);
        Findings.CanBeOn(FindingKind.Fins, PartKind.Drum).ShouldBeFalse();
    }
}
