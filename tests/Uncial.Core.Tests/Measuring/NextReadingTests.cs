using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

/// <summary>Where a reading more tells most, what depths measured three times are worth, and a first pass that tells the run-out.</summary>
public class NextReadingTests
{
    private static NextReading? Of(decimal limit, params (decimal Degrees, decimal Size)[] spots) =>
        NextReading.Of(
            PartKind.Rotor,
            [.. spots.Select(s => (s.Degrees, Mm.Of(s.Size)))],
            Mm.Of(0.003m),
            Mm.Of(limit),
            ShapePrior.Usual(PartKind.Rotor)
        );

    [Fact]
    public void It_goes_to_the_widest_gap_beside_the_worst_and_ends_where_nothing_can_be_past_the_limit()
    {
        // Three even places of 23.02 say nothing of the gaps; the limit is close.
        var gap = Of(23.00m, (0, 23.02m), (120, 23.02m), (240, 23.02m)).ShouldNotBeNull();
        gap.IsEnough.ShouldBeFalse();
        (gap.At.Degrees % 120).ShouldBe(60);
        // One low place draws it to itself: its neighbours are likelier to be low than the far side.
        var low = Of(23.00m, (0, 23.06m), (90, 23.06m), (180, 23.01m), (270, 23.06m)).ShouldNotBeNull();
        low.At.Degrees.ShouldBeInRange(135, 225);
        // Far from the limit no place is worth a reading; past it everywhere, one is.
        Of(22.00m, (0, 23.02m), (120, 23.02m), (240, 23.02m)).ShouldNotBeNull().IsEnough.ShouldBeTrue();
        Of(24.00m, (0, 23.02m), (120, 23.02m), (240, 23.02m)).ShouldNotBeNull().ChanceOfBeyond.ShouldBeGreaterThan(0.999);
        Of(23.00m, (0, 23.02m)).ShouldBeNull();
    }

    [Fact]
    public void Every_reading_makes_it_surer_and_a_shop_of_rounder_parts_asks_for_fewer()
    {
        List<(decimal, decimal)> read = [(0, 23.02m), (180, 23.02m)];
        var chance = 1.0;
        for (var i = 0; i < 8; i++)
        {
            var next = Of(23.00m, [.. read]).ShouldNotBeNull();
            next.ChanceOfBeyond.ShouldBeLessThanOrEqualTo(chance + 1e-9);
            (chance, _) = (next.ChanceOfBeyond, 0);
            read.Select(r => r.Item1).ShouldNotContain(next.At.Degrees);
            read.Add((next.At.Degrees, 23.02m));
        }
        chance.ShouldBeLessThan(0.001);
        var round = ShapePrior.From(PartKind.Rotor, [.. Enumerable.Range(0, 20).SelectMany(_ => new[] { (1, 0.001), (2, 0.001) })]);
        round.Waves[0].Deviation.ShouldBe(0.001 / Math.Sqrt(2), 1e-9);
        round.Waves[2].ShouldBe(ShapePrior.Usual(PartKind.Rotor).Waves[2]);
        ShapePrior.From(PartKind.Rotor, [(1, 0.001)]).Waves.ShouldBe(ShapePrior.Usual(PartKind.Rotor).Waves); // one part says nothing
        // Its own waves: one of 0.04, read at eight places.
        var amplitudes = ShapePrior.AmplitudesOf(
            PartKind.Rotor,
            [.. Enumerable.Range(0, 8).Select(i => (i * 45m, Mm.Of(24m + (decimal)(0.02 * Math.Cos(i * Math.PI / 4)))))]
        );
        amplitudes[0].Amplitude.ShouldBe(0.02, 1e-6);
        amplitudes[1].Amplitude.ShouldBe(0, 1e-6);
    }

    [Fact]
    public void Three_depths_alike_are_surer_and_others_are_not()
    {
        Length? Of(params decimal[] depths) => RepeatedDepth.Of([.. depths.Select(Mm.Of)], ShopRules.Default);
        Of(0.05m, 0.06m).ShouldBeNull();
        Of(0.05m, 0.06m, 0.04m).ShouldBe(Mm.Of(0.05m));
        Of(0.20m, 0.05m, 0.06m, 0.04m).ShouldBe(Mm.Of(0.05m)); // the newest three
        Of(0.05m, 0.06m, 0.09m).ShouldBeNull();
        FaceLeft Face(string side, bool repeated) =>
            new(side, Mm.Of(0.05m), Length.Zero, false) { GrooveIsRepeated = repeated, ReliefIsRepeated = repeated };
        DepthsLeft.Of([Face("outer", true), Face("inner", true)], ShopRules.Default).Uncertainty.ShouldBe(Mm.Of(0.02m));
        DepthsLeft.Of([Face("outer", false), Face("inner", false)], ShopRules.Default).Uncertainty.ShouldBe(Mm.Of(0.06m));
    }

    [Fact]
    public void None_by_eye_is_enough_far_from_discard_and_not_near_it()
    {
        Judgement Of(decimal least, params string[] byEye) =>
            Judgement.Of(
                new()
                {
                    Limits = Mm.Rotor(23m, 23.4m),
                    Readings = Mm.Around([.. Enumerable.Repeat(least, 8)]),
                    Uncertainty = Mm.Of(0.006m),
                    GrooveLeft = Length.Zero,
                    ReliefLeft = Length.Zero,
                    SaidByEye = byEye,
                },
                ShopRules.Default
            );
        Of(23.30m, "grooveOuter").Notes.ShouldContain(n => n is Note.LookAgain && n.Subject == "grooveOuter");
        Of(23.30m, "grooveOuter").Decision.ShouldBe(Decision.MeasureAgain);
        Of(23.30m).Decision.ShouldBe(Decision.LeadOnly);
        Of(23.80m, "grooveOuter").Decision.ShouldBe(Decision.Release);
        // Too close to call whatever the gauge shows: looking again is not asked for.
        Of(23.03m, "grooveOuter").Notes.ShouldNotContain(n => n is Note.LookAgain);
    }

    [Fact]
    public void Probe_first_is_offered_where_a_run_out_is_assumed_and_takes_less_than_the_worst_case()
    {
        PlanRequest Request(bool outer, bool inner)
        {
            var rotor = new RotorMeasurement
            {
                Limits = Mm.Rotor(23m, 23.4m),
                Readings = Mm.Around(24.31m, 24.32m, 24.33m, 24.33m, 24.32m, 24.31m, 24.30m, 24.30m),
                Uncertainty = Mm.Of(0.006m),
                Faces = new(
                    new(outer ? Mm.Of(0.04m) : null, Mm.Of(0.05m), default(Length)),
                    new(inner ? Mm.Of(0.05m) : null, Mm.Of(0.02m), default(Length))
                ),
            };
            return PlanRequest.For(
                rotor,
                RotorAssessment.Assess(rotor, ShopRules.Default),
                new(Mm.Of(0.01m), false, Mm.Of(0.01m), true),
                ShopRules.Default
            );
        }
        PassPlanner.Plan(Request(true, true)).Options.ShouldNotContain(o => o.Key == ProbePass.Key);
        foreach (var request in new[] { Request(true, false), Request(false, false) })
        {
            var plan = PassPlanner.Plan(request);
            var probe = plan.Options[^1];
            (probe.Key, probe.CanStart).ShouldBe((ProbePass.Key, true));
            plan.Recommended.ShouldBe("working"); // it is offered, not imposed
            var expects = probe.Notes.Single(n => n is Note.ProbeExpects);
            expects.Length!.Value.ShouldBeLessThan(probe.Metal!.Value);
            probe.Passes.ShouldAllBe(p => p.BoundAfter >= Mm.Of(23m));
            // What it has cut is gone: it is not offered again.
            PassPlanner
                .Plan(request with { Sides = [.. request.Sides.Select(s => s with { Done = Mm.Of(0.05m) })] })
                .Options.ShouldNotContain(o => o.Key == ProbePass.Key);
        }
    }
}
