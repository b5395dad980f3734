using Microsoft.EntityFrameworkCore;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Tests;

/// <summary>What Core names by code has its words.</summary>
public class WordsTests
{
    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    [Fact]
    public void Everything_that_core_names_has_words()
    {
        List<Step> steps = [];
        List<Note> notes = [];
        var rules = ShopRules.Default with { SetUp = ShopRules.Default.SetUp with { AcceptHalfRoundScratch = true } };
        foreach (var (places, known) in new[] { (1, 0), (3, 1), (8, 2) })
        {
            var rotor = new RotorMeasurement
            {
                Limits = Limits.Create(PartKind.Rotor, null, null, Mm(23), rules).Limits!,
                Uncertainty = Mm(0.006m),
                EdgeRadius = Mm(150),
                Readings =
                [
                    .. Enumerable
                        .Range(0, places)
                        .Select(i => new Reading(ClockAngle.FromDegrees(i * 360m / places), null, Mm(24 + i % 3 * 0.05m))),
                ],
                Faces = new(
                    new(known > 0 ? Mm(0.3m) : null, Mm(0.05m), default, Mm(120)),
                    new(known > 1 ? Mm(0.02m) : null, default, default)
                ),
            };
            var figures = RotorAssessment.Assess(rotor, rules);
            (steps, notes) = ([.. steps, .. figures.Steps], [.. notes, .. figures.Notes]);
            var request = PlanRequest.For(rotor, figures, new(Mm(0.01m), false, Mm(0.01m), known == 2), rules) with
            {
                MachineTo = Mm(23.8m - known * 0.3m),
                TwinCutter = known == 2,
                SecondChuckingRunout = Mm(0.05m),
            };
            Add(PassPlanner.Plan(request), request);
            Add(
                Judgement.Of(
                    new()
                    {
                        Limits = rotor.Limits,
                        Readings = rotor.Readings,
                        Uncertainty = rotor.Uncertainty,
                        DepthUncertainty = Mm(0.02m * known),
                    },
                    rules
                )
            );
        }
        foreach (var axes in new[] { 1, 2, 4 })
        {
            var drum = new DrumMeasurement
            {
                Limits = Limits.Create(PartKind.Drum, null, null, Mm(230), rules).Limits!,
                Uncertainty = Mm(0.02m),
                Readings =
                [
                    .. Enumerable
                        .Range(0, axes * 3)
                        .Select(i => new Reading(
                            ClockAngle.FromDegrees(i % axes * 180m / axes),
                            Mm(10 + 10 * (i / axes)),
                            Mm(229.5m + i % axes * 0.1m + i / axes % 2 * 0.1m)
                        )),
                ],
            };
            var figures = DrumAssessment.Assess(drum, rules);
            (steps, notes) = ([.. steps, .. figures.Steps], [.. notes, .. figures.Notes]);
            Add(
                Judgement.Of(
                    new()
                    {
                        Limits = drum.Limits,
                        Readings = drum.Readings,
                        Uncertainty = drum.Uncertainty,
                        TurnedBright = axes == 2,
                        GrooveLeft = Mm(0.1m),
                        ReliefLeft = Mm(0.02m),
                    },
                    rules
                )
            );
        }
        // A bore with a depth on one axis only, and a worst place that was read twice.
        Reading At(int axis, int depth, decimal mm) => new(ClockAngle.FromDegrees(axis), Mm(depth), Mm(mm));
        var bore = new DrumMeasurement
        {
            Limits = Limits.Create(PartKind.Drum, null, null, Mm(230), rules).Limits!,
            Uncertainty = Mm(0.02m),
            Readings = [At(0, 20, 229m), At(45, 20, 229.02m), At(90, 20, 229m), At(135, 20, 229m), At(0, 40, 229.01m), At(45, 20, 229.03m)],
        };
        steps.AddRange([
            .. DrumAssessment.Assess(bore, rules).Steps,
            .. Judgement
                .Of(
                    new()
                    {
                        Limits = bore.Limits,
                        Readings = bore.Readings,
                        Uncertainty = bore.Uncertainty,
                        AsksForSecondReading = true,
                    },
                    rules
                )
                .Steps,
        ]);
        RunoutMark Scratch(int at, int arc) => RunoutMark.Scratch(ClockAngle.FromDegrees(at), arc, Mm(0.02m));
        foreach (
            var check in new[]
            {
                SetUpCheck.Of(PartKind.Drum, 180, Mm(0.025m), Mm(0.01m), Scratch(0, 120), Scratch(60, 150)),
                SetUpCheck.Of(PartKind.Drum, 180, Mm(0.001m), Mm(0.01m), Scratch(0, 360), Scratch(60, 60)),
                SetUpCheck.Of(
                    PartKind.Drum,
                    180,
                    Mm(0.025m),
                    Mm(0.01m),
                    RunoutMark.Direction(ClockAngle.FromDegrees(0), 90),
                    RunoutMark.Direction(ClockAngle.FromDegrees(90), 90)
                ),
                SetUpCheck.OfFirstScratch(Scratch(0, 200), rules),
                SetUpCheck.OfFirstScratch(Scratch(0, 100), rules),
                SetUpCheck.OfOval(90, 90),
                SetUpCheck.OfOval(150, 40),
                SetUpCheck.OfOval(20, 20),
            }
        )
            (steps, notes) = ([.. steps, .. check.Steps], [.. notes, .. check.Notes]);
        steps.AddRange([
            .. new ZeroCheck(Mm(25), Mm(25.1m), Mm(0.01m)).Steps,
            .. new ZeroCheck(Mm(25), Mm(25), Mm(0.01m)).Steps,
            .. Shop.New("x").Lathes[0].Profile.Run(PassKind.Rough, PartKind.Rotor, Mm(300), Mm(50)).Steps,
        ]);
        steps.AddRange(
            ReadingUncertainty
                .Of(
                    new(GaugeKind.Micrometer, Mm(0.001m), Mm(0.002m), null, Mm(0.001m)),
                    Mm(24),
                    3,
                    rules,
                    3,
                    Repeatability.Of([
                        [Mm(24), Mm(24.001m), Mm(24.002m)],
                    ])
                )
                .Steps
        );
        var life = LifeLeft.Of(Limits.Create(PartKind.Rotor, Mm(26), null, Mm(23), rules).Limits!, null, new(40_000, Mm(24)), Mm(24))!;
        steps.AddRange([
            .. life.Steps,
            .. WorthIt.Of(true, 20, 60, life.DistanceLeft, rules).Steps,
            .. PairCheck.Of(new(Mm(24), true), new(Mm(24), false), rules).Steps,
        ]);

        var limits = Limits.Create(PartKind.Rotor, Mm(26), null, Mm(23), rules).Limits!;
        steps.AddRange([
            .. WearCurve.Of(limits, [new(10_000, Mm(25.5m), null), new(40_000, Mm(25), Mm(24.8m))]).Steps,
            .. ShapeCheck.Of(PartKind.Rotor, new(Mm(0.01m), true, Mm(-0.2m), Mm(0.02m), Mm(0.3m)), null, null, rules).Steps,
            .. ShapeCheck.Of(PartKind.Drum, new(Mm(0.3m), false, Mm(0.01m)), null, null, rules).Steps,
        ]);

        foreach (var step in steps)
        {
            Words.SayOr("step." + step.Quantity, "").ShouldNotBeEmpty(step.Quantity);
            Words.How(step, LengthUnit.Inch).ShouldNotBeEmpty(step.Quantity);
            if (step.Result.Name is { } state)
                Words.SayOr("state." + state, "").ShouldNotBeEmpty(state);
            Words.Of(step).ShouldNotContain("{");
        }
        foreach (var note in notes)
            Words.Of(note, LengthUnit.Millimetre).ShouldNotContain("{");
        steps.Select(s => s.Quantity).Distinct().Count().ShouldBeGreaterThan(70);
        foreach (
            var state in Names<Verdict>()
                .Concat(Names<Decision>())
                .Concat(Names<SetUpVerdict>())
                .Concat(Names<PlanRefusal>())
                .Concat(Names<PlanStart>())
                .Concat(Names<Worth>())
                .Concat(Names<PairState>())
        )
            Words.SayOr("state." + state, "").ShouldNotBeEmpty(state);

        foreach (
            var name in Enum.GetNames<ShapeQuantity>()
                .Select(n => "shape." + n)
                .Concat(Enum.GetNames<ShapeState>().Select(n => "shape.state." + n))
                .Concat(Enum.GetNames<Objection>().Select(n => "objection." + n))
                .Concat(Enum.GetNames<ScrapCause>().Select(n => "scrapCause." + n))
                .Concat(Enum.GetNames<OutcomeKind>().Select(n => "outcome." + n))
                .Concat(Enum.GetNames<AgainRefusal>().Select(n => "again." + n))
                .Concat(Enum.GetNames<StoredRule>().Select(n => "rule." + n))
        )
            Words.SayOr(name, "").ShouldNotBeEmpty(name);

        static IEnumerable<string> Names<T>()
            where T : struct, Enum => Enum.GetNames<T>().Select(n => char.ToLowerInvariant(n[0]) + n[1..]);

        void Add(object result, PlanRequest? request = null)
        {
            if (result is Judgement judged)
            {
                (steps, notes) = ([.. steps, .. judged.Steps], [.. notes, .. judged.Notes]);
                return;
            }
            var plan = (PassPlan)result;
            foreach (var remedy in plan.Remedies)
                Words.Say("remedy." + remedy.Code, "0.01 mm").ShouldNotContain("{");
            (steps, notes) = (
                [.. steps, .. plan.Steps, .. plan.Scuff!.Steps, .. plan.Options.SelectMany(o => o.Steps)],
                [.. notes, .. plan.Options.SelectMany(o => o.Notes)]
            );
            foreach (var option in plan.Options.Where(o => o.Passes.Count > 0))
            foreach (var bright in new[] { true, false })
            {
                var after = AfterPass.Read(
                    request!,
                    [option.Passes[0]],
                    [.. option.Passes.Skip(1)],
                    [new(6, null), new(1, null)],
                    new(option.Passes[0].SizeAfter - Mm(bright ? 0.5m : 0), bright),
                    rules
                );
                (steps, notes) = ([.. steps, .. after.Steps], [.. notes, .. after.Notes]);
            }
        }
    }
}
