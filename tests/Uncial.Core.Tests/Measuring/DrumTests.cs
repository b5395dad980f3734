using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

/// <summary>Drums from measuring to judgement on true shapes, which share no formula with the planner.</summary>
public class DrumTests
{
    private static readonly Dial Dial = new(Mm.Of(0.01m), false, Mm.Of(0.01m), true);

    /// <summary>A bore as metal: radius over the angle about the drum's own middle.</summary>
    private sealed record TrueBore(double[] Radius, double Eccentricity, double EccentricAt)
    {
        private const int Steps = 720;

        public static TrueBore Random(Random random)
        {
            var (oval, phase) = (random.NextDouble() * 0.12, random.NextDouble() * 7);
            double[] radius = [.. Enumerable.Range(0, Steps).Select(i => 114.4 + oval * Math.Cos(2 * (i * 2 * Math.PI / Steps - phase)))];
            return new(radius, random.NextDouble() * 0.03, random.NextDouble() * 7);
        }

        public decimal Across(double degrees, Random random, double u)
        {
            var i = (int)Math.Round(degrees * 2) % Steps;
            return (decimal)
                Math.Round(Radius[i] + Radius[(i + Steps / 2) % Steps] + (random.NextDouble() + random.NextDouble() - 1) * u, 2);
        }

        /// <summary>The tool turns about the spindle and takes away all that stands inside its circle, from the first touch on.</summary>
        public (double Largest, bool Clean) After(double depth)
        {
            var fromSpindle = Enumerable
                .Range(0, Steps)
                .Select(i => Radius[i] + Eccentricity * Math.Cos(i * 2 * Math.PI / Steps - EccentricAt))
                .ToArray();
            var tool = fromSpindle.Min() + depth;
            double[] left = [.. Enumerable.Range(0, Steps).Select(i => Radius[i] + Math.Max(0, tool - fromSpindle[i]))];
            return (Enumerable.Range(0, Steps / 2).Max(i => left[i] + left[i + Steps / 2]), tool >= fromSpindle.Max() - 0.002);
        }
    }

    [Fact]
    public void The_bound_holds_and_the_planned_depth_cleans_on_random_bores()
    {
        var random = new Random(20261123);
        var (planned, past, dark) = (0, 0, 0);
        for (var n = 0; n < 2000; n++)
        {
            var bore = TrueBore.Random(random);
            var drum = new DrumMeasurement
            {
                Limits = Mm.Drum(231.0m, 230.4m, 228.6m),
                Uncertainty = Mm.Of(0.02m),
                Eccentricity = Mm.Of((decimal)Math.Round(bore.Eccentricity, 3)),
                Readings = [.. new[] { 0, 45, 90, 135 }.Select(a => Mm.At(a, bore.Across(a, random, 0.02)))],
            };
            var plan = PassPlanner.Plan(PlanRequest.For(drum, DrumAssessment.Assess(drum, ShopRules.Default), Dial, ShopRules.Default));
            if (plan.Recommended is null)
                continue;
            planned++;
            var passes = plan.Options.Single(o => o.Key == plan.Recommended).Passes;
            var set = (double)passes.Aggregate(Length.Zero, (d, p) => d + p.Depth[0]).Millimetres;
            var (largest, clean) = bore.After(set + (random.NextDouble() - 0.5) * 0.01);
            if (largest > (double)passes[^1].BoundAfter.Millimetres)
                past++;
            if (!clean)
                dark++;
        }
        planned.ShouldBeGreaterThan(1800);
        past.ShouldBeLessThan(planned / 50);
        dark.ShouldBeLessThan(planned / 4); // the reading's own error decides the rest, which the next pass takes
    }

    [Fact]
    public void Four_axes_never_release_a_drum_whose_oval_reaches_past_discard()
    {
        var random = new Random(5);
        for (var n = 0; n < 3000; n++)
        {
            var (mean, amplitude, at) = (229.9 + random.NextDouble() * 0.2, random.NextDouble() * 0.15, random.NextDouble() * 180);
            var readings = new[] { 0.0, 45, 90, 135 }
                .Select(a => Mm.At((decimal)a, (decimal)Math.Round(mean + amplitude * Math.Cos(2 * (a - at) * Math.PI / 180), 4)))
                .ToArray();
            Reading[] along =
            [
                .. readings.Select(r => r with { Station = Mm.Of(10) }),
                .. readings.Select(r => r with { Station = Mm.Of(40) }),
            ];
            var judged = Judgement.Of(
                new()
                {
                    Limits = Mm.Drum(230.1m, 229.6m),
                    Uncertainty = Mm.Of(0.02m),
                    Readings = along,
                    GrooveLeft = Length.Zero,
                    ReliefLeft = Length.Zero,
                    DepthUncertainty = Length.Zero,
                },
                ShopRules.Default
            );
            if (mean + amplitude > 230.1 - 0.0195)
                judged.Decision.ShouldNotBeOneOf(Decision.Release, Decision.LeadOnly);
            if (mean + amplitude < 230.1 - 0.0205)
                judged.Decision.ShouldBe(Decision.LeadOnly);
        }
    }

    [Fact]
    public void A_drum_that_two_axes_call_round_is_planned_once_four_have_found_the_oval()
    {
        DrumMeasurement Read(params (int Axis, decimal Size)[] sizes) =>
            new()
            {
                Limits = Mm.Drum(205.2m, nominal: 203.2m),
                Uncertainty = Mm.Of(0.02m),
                Readings = [.. sizes.Select(s => Mm.At(s.Axis, s.Size))],
            };
        var two = DrumAssessment.Assess(Read((0, 203.62m), (90, 203.62m)), ShopRules.Default);
        (two.Roundness!.Proven, two.Roundness.OutOfRound, two.Need).ShouldBe((false, Length.Zero, Length.Zero));
        two.Notes.ShouldContain(n => n is Note.RoundnessNotProven);
        var four = DrumAssessment.Assess(Read((0, 203.62m), (45, 203.86m), (90, 203.62m), (135, 203.38m)), ShopRules.Default);
        four.Need.ShouldBe(Mm.Of(0.24m));
        four.TouchCareful.ShouldBe(Mm.Of(203.38m));
    }

    [Fact]
    public void An_eccentricity_that_nobody_read_is_planned_for_and_one_that_was_read_as_none_is_not()
    {
        PlanRequest Request(decimal? e)
        {
            var drum = new DrumMeasurement
            {
                Limits = Mm.Drum(205.2m, nominal: 203.2m),
                Uncertainty = Mm.Of(0.02m),
                Eccentricity = e is { } read ? Mm.Of(read) : null,
                Groove = Mm.Of(0.05m),
                Readings = Mm.Axes(203.62m, 203.86m, 203.62m, 203.38m),
            };
            return PlanRequest.For(drum, DrumAssessment.Assess(drum, ShopRules.Default), Dial, ShopRules.Default);
        }

        // Out-of-round 0.48 makes a need of 0.24, with the groove 0.29; twice an eccentricity of 0.025 is the run-out that the shop
        // assumes.
        Request(e: 0).Sides[0].ShouldBe(new(Mm.Of(0.29m), Mm.Of(0.05m), Mm.Of(0.24m), UnreadRelief: Length.Zero));
        Request(e: null).Sides[0].ShouldBe(new(Mm.Of(0.34m), Mm.Of(0.05m), Mm.Of(0.29m), RunoutAssumed: true, UnreadRelief: Length.Zero));
        Request(e: 0.025m).Sides[0].Need.ShouldBe(Request(e: null).Sides[0].Need);
        // First touch is where it was read, and so is what is sure of it.
        (Request(e: null).Touch, Request(e: null).TouchBound).ShouldBe((Request(e: 0).Touch, Request(e: 0).TouchBound));
        PassPlanner.Plan(Request(e: null)).Options.ShouldNotContain(o => o.Key == ProbePass.Key);
    }

    [Fact]
    public void After_a_pass_a_drum_goes_on_from_twice_the_depth()
    {
        var drum = new DrumMeasurement
        {
            Limits = Mm.Drum(205.2m, nominal: 203.2m),
            Uncertainty = Mm.Of(0.02m),
            Eccentricity = Length.Zero,
            Groove = Mm.Of(0.05m),
            Readings = Mm.Axes(203.62m, 203.86m, 203.62m, 203.38m),
        };
        var request = PlanRequest.For(drum, DrumAssessment.Assess(drum, ShopRules.Default), Dial, ShopRules.Default);
        var passes = PassPlanner.Plan(request).Options[0].Passes;
        AfterPass After(int dark, decimal? groove, SizeSeen? size = null) =>
            AfterPass.Read(
                request,
                [passes[0]],
                [.. passes.Skip(1)],
                [new(12 - dark, groove is { } g ? Mm.Of(g) : null)],
                size,
                ShopRules.Default
            );

        var on = After(dark: 5, groove: null);
        on.Next.ShouldBe(NextStep.GoOn);
        on.Request.Touch.ShouldBe(request.Touch + 2 * passes[0].Depth[0]);
        on.Request.Sides[0].Need.ShouldBe(request.Sides[0].Need - passes[0].Depth[0]);
        // Clean all round and no groove left: more is offered, not imposed.
        After(dark: 0, groove: 0).Next.ShouldBe(NextStep.Finished);
        // The dial counts diameter where depth was thought: half the metal, and it is said.
        var half = After(dark: 5, groove: null, new(request.Touch + passes[0].Depth[0], true));
        half.Notes.ShouldContain(n => n is Note.DialFactorOfTwo);
        half.Next.ShouldBe(NextStep.PlanAnew);
        // The reverse has taken twice the metal: stop.
        After(dark: 5, groove: null, new(request.Touch + 4 * passes[0].Depth[0], true)).Next.ShouldBe(NextStep.Stop);
    }

    [Fact]
    public void A_plan_carried_on_pass_by_pass_never_gives_a_depth_that_could_end_past_discard()
    {
        var random = new Random(11);
        for (var n = 0; n < 400; n++)
        {
            var stock = random.Next(5, 120) / 100m;
            var request = new PlanRequest
            {
                Kind = PartKind.Drum,
                Touch = Mm.Of(229.0m),
                TouchBound = Mm.Of(229.02m),
                Worst = Mm.Of(229.0m + random.Next(0, 40) / 100m),
                Uncertainty = Mm.Of(0.02m),
                MachineTo = Mm.Of(229.0m + stock),
                Discard = Mm.Of(229.3m + stock),
                Sides = [new(Mm.Of(random.Next(0, 30) / 100m), RunoutAssumed: true)],
                Dial = Dial with { Confirmed = random.Next(2) == 0 },
            };
            for (var round = 0; round < 8; round++)
            {
                var plan = PassPlanner.Plan(request);
                if (plan.Recommended is null)
                    break;
                var option = plan.Options.Single(o => o.Key == plan.Recommended);
                var passes = option.Passes;
                option.Given(request).ShouldAllBe(p => p.BoundAfter <= request.Discard!.Value);
                passes[0].BoundAfter.ShouldBeLessThanOrEqualTo(request.MachineTo);
                var after = AfterPass.Read(
                    request,
                    [passes[0]],
                    [.. passes.Skip(1)],
                    [new(random.Next(0, 13), null)],
                    null,
                    ShopRules.Default
                );
                if (after.Next == NextStep.Finished)
                    break;
                after.Request.Touch.ShouldBeGreaterThan(request.Touch);
                request = after.Request;
            }
        }
    }
}
