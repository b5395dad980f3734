using CsCheck;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

public class JudgementTests
{
    private static readonly FinishedPart Rotor = new()
    {
        Limits = Mm.Rotor(23.0m, 23.4m),
        Uncertainty = Mm.Of(0.006m),
        GrooveLeft = Length.Zero,
        ReliefLeft = Length.Zero,
        DepthUncertainty = Length.Zero,
        Readings = Mm.Around(24.13m, 24.13m, 24.14m, 24.13m, 24.13m, 24.12m, 24.13m, 24.13m),
    };

    private static Judgement Judge(FinishedPart part) => Judgement.Of(part, ShopRules.Default);

    [Fact]
    public void Inside_both_limits_is_released()
    {
        var judgement = Judge(Rotor);
        judgement.Decision.ShouldBe(Decision.Release);
        judgement.Worst.ShouldBe(Mm.Of(24.12m));
        judgement.LeftToDiscard.ShouldBe(Mm.Of(1.12m));
        judgement.Allowance.ShouldBe(Mm.Of(0.01m)); // a sixth of 0.02 is less than eight places cannot see
        judgement.ProbabilityWithinDiscard.ShouldBe(0.999); // one place does not speak for the whole part
        Judge(Rotor with { Readings = Mm.Around(24.13m, 24.13m, 24.25m, 24.13m, 24.13m, 24.13m, 24.13m, 24.13m) })
            .Allowance.ShouldBe(Mm.Of(0.02m));
    }

    [Theory]
    [InlineData(22.999, Decision.Never)] // a hair under
    [InlineData(23.0, Decision.MeasureAgain)] // at the limit with an uncertain gauge
    [InlineData(23.0159, Decision.MeasureAgain)]
    [InlineData(23.016, Decision.LeadOnly)] // 0.006 of the gauge and 0.01 of what was not read
    [InlineData(23.4159, Decision.LeadOnly)]
    [InlineData(23.416, Decision.Release)]
    public void A_rotor_of_one_thickness_is_decided_to_the_last_digit(decimal thickness, Decision decision) =>
        Judge(Rotor with { Readings = Mm.Around([.. Enumerable.Repeat(thickness, 8)]) }).Decision.ShouldBe(decision);

    [Fact]
    public void What_nobody_looked_at_is_not_nothing()
    {
        void Asks(FinishedPart part, params string[] subjects) =>
            Judge(part)
                .ShouldSatisfyAllConditions(
                    j => j.Decision.ShouldBe(Decision.MeasureAgain),
                    j => j.ProbabilityWithinDiscard.ShouldBeNull(),
                    j => j.Notes.Where(n => n is Note.NotLookedAt).Select(n => n.Subject).ShouldBe(subjects)
                );
        Asks(Rotor with { GrooveLeft = null }, "groove");
        Asks(Rotor with { ReliefLeft = null }, "relief");
        Asks(
            Rotor with
            {
                GrooveLeft = null,
                ReliefLeft = null,
                NotLookedAt = ["grooveInner", "reliefOuter"],
            },
            "grooveInner",
            "reliefOuter"
        );
        Asks(Rotor with { GrooveLeft = null, TurnedBright = true }, "groove"); // on bright metal too
        Judge(Rotor with { ReliefLeft = null, TurnedBright = true }).Decision.ShouldBe(Decision.Release);
        // Beyond is beyond, looked at or not.
        Judge(Rotor with { ReliefLeft = null, Readings = Mm.Around([.. Enumerable.Repeat(22.9m, 8)]) }).Decision.ShouldBe(Decision.Never);
    }

    [Fact]
    public void What_was_not_read_is_allowed_for()
    {
        // Three places that vary by 0.02 may hide 0.03 between them.
        var three = Rotor with { Readings = Mm.Around(23.42m, 23.44m, 23.43m) };
        Judge(three).ShouldSatisfyAllConditions(j => j.Allowance.ShouldBe(Mm.Of(0.03m)), j => j.Decision.ShouldBe(Decision.LeadOnly));
        Judge(Rotor with { Readings = Mm.Around(23.42m, 23.48m, 23.43m) }).Allowance.ShouldBe(Mm.Of(0.06m));
        // Three lobes at 0/120/240: all three read alike, and no less is hidden.
        Judge(three with { Limits = Mm.Rotor(23.4m, 23.4m), Readings = Mm.Around(23.43m, 23.43m, 23.43m) })
            .Decision.ShouldBe(Decision.MeasureAgain);
        // Four places on a square are blind to two lobes.
        var square = Judge(Rotor with { Readings = Mm.Around(24.1m, 24.1m, 24.1m, 24.1m) });
        (square.Allowance, square.Decision).ShouldBe((null, Decision.MeasureAgain));
        Judge(Rotor with { Readings = [Mm.At(0, 24.1m), Mm.At(90, 24.1m), Mm.At(180, 24.1m), Mm.At(270, 24.1m), Mm.At(1, 24.1m)] })
            .Allowance.ShouldBeNull();
        // All on one side.
        Judge(Rotor with { Readings = [Mm.At(0, 24.1m), Mm.At(60, 24.1m), Mm.At(120, 24.1m)] }).Decision.ShouldBe(Decision.MeasureAgain);
    }

    [Fact]
    public void Each_radius_has_its_own_allowance()
    {
        Reading[] Ring(decimal radius, params decimal[] sizes) => [.. Mm.Around(sizes).Select(r => r with { Station = Mm.Of(radius) })];
        var full = Ring(120, 24.10m, 24.10m, 24.10m, 24.10m, 24.10m, 24.10m, 24.10m, 24.10m);
        // Three places at another radius that vary by 0.09: a sixth of that would be 0.015, and more lies between them.
        Judge(Rotor with { Readings = [.. full, .. Ring(100, 24.10m, 24.19m, 24.13m)] }).Allowance.ShouldBe(Mm.Of(0.09m));
        // One or two places there take the shape of the full round, wherever they lie in height.
        Judge(Rotor with { Readings = [.. full, Mm.At(10, 24.05m, 100)] })
            .ShouldSatisfyAllConditions(
                j => j.Allowance.ShouldBe(Mm.Of(0.01m)),
                j => j.Worst.ShouldBe(Mm.Of(24.05m)),
                j => j.Decision.ShouldBe(Decision.Release)
            );
        // Two that do not fit that shape ask to be read around.
        Judge(Rotor with { Readings = [.. full, Mm.At(10, 24.05m, 100), Mm.At(100, 24.09m, 100)] })
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.Single(n => n is Note.ReadAround).Length.ShouldBe(Mm.Of(100))
            );
    }

    [Fact]
    public void A_surface_turned_bright_hides_no_lobes_but_may_run_out_of_parallel()
    {
        var bright = Rotor with { TurnedBright = true, ReliefLeft = null, DepthUncertainty = null };
        Judge(bright).Allowance!.Value.Millimetres.ShouldBe(0.02m / 6 + 0.02m, 0.0000001m);
        Judge(bright with { Parallelism = Mm.Of(0.005m), Readings = Mm.Around(24.13m, 24.14m, 24.13m) }).Allowance.ShouldBe(Mm.Of(0.015m));
        // What was read over half of the band is not hidden.
        Judge(
            bright with
            {
                Band = Mm.Of(40),
                Readings =
                [
                    .. Mm.Around([.. Enumerable.Repeat(24.13m, 8)])
                        .SelectMany(r => new[] { r with { Station = Mm.Of(100) }, r with { Station = Mm.Of(120) } }),
                ],
            }
        )
            .Allowance.ShouldBe(Mm.Of(0.01m));
        // A groove that stays still counts, without the uncertainty of low lands: 24.12 − 23.4 = 0.72.
        Judge(bright with { GrooveLeft = Mm.Of(0.69m) }).Decision.ShouldBe(Decision.Release);
        Judge(bright with { GrooveLeft = Mm.Of(0.691m) }).Decision.ShouldBe(Decision.LeadOnly);
    }

    [Fact]
    public void Grooves_missing_uncertainty_and_a_warm_part_hold_it_back()
    {
        Judge(Rotor with { Uncertainty = Length.Zero }).Notes.ShouldContain(n => n is Note.NoUncertainty);
        Judge(Rotor with { ReadingsAreFit = false }).Decision.ShouldBe(Decision.MeasureAgain);
        Judge(Rotor with { GrooveLeft = Mm.Of(0.8m) }).Decision.ShouldBe(Decision.LeadOnly); // reaches past machine-to, not discard
        Judge(Rotor with { GrooveLeft = Mm.Of(1.2m) })
            .ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.MeasureAgain), j => j.Notes.ShouldContain(n => n is Note.Groove));
        Judge(Rotor with { Readings = [] }).Decision.ShouldBe(Decision.MeasureAgain);
        Judge(Rotor with { Readings = [Mm.At(0, 24.1m)] })
            .ShouldSatisfyAllConditions(j => j.Discard.ShouldBe(Verdict.NotEnough), j => j.Decision.ShouldBe(Decision.MeasureAgain));
        // Nobody said how deep things may be misread: 0.06 for two faces. 23.47 − 23.4 = 0.07 is enough for that and 0.006 alone, not with
        // 0.01 unread.
        Judge(Rotor with { DepthUncertainty = null, Readings = Mm.Around([.. Enumerable.Repeat(23.47m, 8)]) })
            .Decision.ShouldBe(Decision.LeadOnly);
        Judge(Rotor with { DepthUncertainty = null, Readings = Mm.Around([.. Enumerable.Repeat(23.471m, 8)]) })
            .Decision.ShouldBe(Decision.Release);
    }

    [Fact]
    public void Near_a_limit_the_worst_place_is_read_twice()
    {
        var near = Rotor with
        {
            AsksForSecondReading = true,
            Readings = Mm.Around(23.55m, 23.56m, 23.57m, 23.56m, 23.56m, 23.56m, 23.56m, 23.56m),
        };
        Judge(near)
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.Single(n => n is Note.ReadTwice).Degrees.ShouldBe(0)
            );
        Judge(near with { Readings = [.. near.Readings, Mm.At(0, 23.556m)] })
            .ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.Release), j => j.Worst.ShouldBe(Mm.Of(23.553m)));
        // Two readings of one place that cannot be of one size: the worse one stands until one of them is withdrawn.
        Judge(near with { Readings = [.. near.Readings, Mm.At(0, 23.57m)] })
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.ShouldContain(n => n is Note.RepeatsDisagree),
                j => j.Worst.ShouldBe(Mm.Of(23.55m))
            );
        // 0.16 to machine-to: far enough
        Judge(near with { Readings = Mm.Around([.. Enumerable.Repeat(23.56m, 8)]) }).Decision.ShouldBe(Decision.Release);
        // far from both limits
        Judge(near with { Readings = Mm.Around([.. Enumerable.Repeat(23.2m, 8)]) }).Decision.ShouldBe(Decision.LeadOnly);
        // near discard
        Judge(near with { Readings = Mm.Around([.. Enumerable.Repeat(23.1m, 8)]) }).Decision.ShouldBe(Decision.MeasureAgain);
        Judge(near with { Readings = Mm.Around([.. Enumerable.Repeat(22.9m, 8)]) }).Decision.ShouldBe(Decision.Never);
    }

    private static readonly FinishedPart Drum = new()
    {
        Limits = Mm.Drum(230.1m, 229.6m),
        Uncertainty = Mm.Of(0.02m),
        GrooveLeft = Length.Zero,
        ReliefLeft = Length.Zero,
        DepthUncertainty = Length.Zero,
        Readings = [],
    };

    private static Reading[] At(decimal depth, params decimal[] sizes) =>
        [.. Mm.Axes(sizes).Select(r => r with { Station = Mm.Of(depth) })];

    [Fact]
    public void A_drum_needs_proven_roundness_along_its_band_or_one_chucking()
    {
        var two = Drum with { Readings = [Mm.At(0, 229.0m), Mm.At(90, 229.01m)] };
        Judge(two)
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.ShouldContain(n => n is Note.RoundnessNotProven)
            );
        Judge(two with { TurnedBright = true })
            .ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.Release), j => j.Allowance.ShouldBe(Mm.Of(0.03m)));
        // Four axes at one depth say nothing of a bell-mouth.
        var one = Drum with { Readings = Mm.Axes(229.0m, 229.01m, 229.0m, 229.0m) };
        Judge(one)
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.ShouldContain(n => n is Note.ReadMoreDepths)
            );
        Judge(one with { TurnedBright = true })
            .ShouldSatisfyAllConditions(j => j.Decision.ShouldBe(Decision.Release), j => j.Allowance.ShouldBe(Mm.Of(0.02m)));
        var six = Drum with
        {
            Band = Mm.Of(40),
            Readings = [.. At(25, 229.0m, 229.01m, 229.0m, 229.0m), Mm.At(0, 229.03m, 12), Mm.At(0, 228.99m, 38)],
        };
        Judge(six)
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.Release),
                j => j.Allowance.ShouldBe(Length.Zero),
                j => j.Worst!.Value.ShouldBeGreaterThan(Mm.Of(229.03m))
            );
        // Depths 20 apart leave half of the band of 40 unread.
        Judge(six with { Readings = [.. At(25, 229.0m, 229.01m, 229.0m, 229.0m), Mm.At(0, 229.03m, 12), Mm.At(0, 228.99m, 32)] })
            .Decision.ShouldBe(Decision.MeasureAgain);
        // Bell-mouthed by 0.18: its own axes are asked for there, and beyond is beyond.
        Judge(six with { Readings = [.. six.Readings.Take(4), Mm.At(0, 229.18m, 12), six.Readings[5]] })
            .ShouldSatisfyAllConditions(
                j => j.Decision.ShouldBe(Decision.MeasureAgain),
                j => j.Notes.Single(n => n is Note.ReadAround).Length.ShouldBe(Mm.Of(12))
            );
        Judge(six with { Readings = [.. six.Readings.Take(4), Mm.At(0, 230.18m, 12), six.Readings[5]] }).Decision.ShouldBe(Decision.Never);
        Judge(Drum with { Readings = Mm.Axes(230.0m, 230.0m, 230.12m, 230.0m) }).Decision.ShouldBe(Decision.Never);
        Judge(
            six with
            {
                Readings = [.. At(12, 229.0m, 229.0m, 229.0m, 229.0m), .. At(38, 229.0m, 229.0m, 229.0m, 229.0m)],
                GrooveLeft = Mm.Of(0.3m),
            }
        )
            .Decision.ShouldBe(Decision.LeadOnly); // twice the groove
    }

    [Fact]
    public void A_shape_that_is_moved_to_another_depth_is_less_sure()
    {
        // Oval of 0.2 with its largest at 0: read at the open edge across the narrow axis, it is as oval there.
        var bore = Drum with
        {
            Limits = Mm.Drum(229.35m, 229.2m),
            Readings = [.. At(25, 229.1m, 229.0m, 228.9m, 229.0m), Mm.At(90, 228.93m, 10)],
        };
        Judge(bore)
            .ShouldSatisfyAllConditions(
                j => j.Worst!.Value.Millimetres.ShouldBe(229.13m, 0.0001m),
                j => j.Decision.ShouldBe(Decision.Release)
            );
        // 0.03 left: inside by more than one uncertainty, not by the two that a moved shape takes.
        Judge(bore with { Limits = Mm.Drum(229.35m, 229.16m) }).Decision.ShouldBe(Decision.LeadOnly);
    }

    [Fact]
    public void Axes_that_lie_close_together_make_the_oval_unsure()
    {
        // 0/60/120 is as sure as a reading; 0/30/60/90 by 1.73 less. Ovals of 0.04 with their largest, 229.02, on axis 0.
        decimal Size(decimal axis) => 229.0m + 0.02m * (decimal)Math.Cos((double)axis * Math.PI / 90);
        Reading[] On(params decimal[] axes) => [.. axes.SelectMany(a => new[] { Mm.At(a, Size(a), 10), Mm.At(a, Size(a), 40) })];
        decimal Needs(params decimal[] axes)
        {
            for (var room = 0m; ; room += 0.001m)
                if (Judge(Drum with { Limits = Mm.Drum(229.02m + room, 229.02m + room), Readings = On(axes) }).Decision == Decision.Release)
                    return room;
        }
        Needs(0, 60, 120).ShouldBe(0.02m, 0.0011m);
        Needs(0, 45, 90, 135).ShouldBe(0.02m, 0.0011m);
        Needs(0, 30, 60, 90).ShouldBe(0.0346m, 0.0011m);
        Needs(0, 30, 90).ShouldBe(0.0392m, 0.0011m);
    }

    [Fact]
    public void One_more_good_reading_never_takes_a_release_away() =>
        Gen.Select(Gen.Int[3, 9].SelectMany(n => Gen.Int[0, 40].Array[n]), Gen.Int[0, 359], Gen.Double[0, 1], Gen.Bool)
            .Sample(
                (sizes, at, between, bright) =>
                {
                    var part = Rotor with { TurnedBright = bright, Readings = Mm.Around([.. sizes.Select(s => 23.45m + s / 1000m)]) };
                    var before = Judge(part);
                    var (least, greatest) = (sizes.Min() / 1000m, sizes.Max() / 1000m);
                    var more = Judge(
                        part with
                        {
                            Readings = [.. part.Readings, Mm.At(at, 23.45m + Math.Round(least + (greatest - least) * (decimal)between, 3))],
                        }
                    );
                    if (before.Decision is Decision.Release or Decision.LeadOnly)
                        more.Decision.ShouldBeOneOf(Decision.Release, Decision.LeadOnly);
                }
            );

    [Fact]
    public void A_part_that_is_let_go_is_never_beyond_and_a_worse_part_never_judged_better()
    {
        Gen.Int[22_980, 23_450]
            .Array[3, 12]
            .Select(Gen.Int[1, 30], Gen.Int[0, 60])
            .Sample(
                (thousandths, u, groove) =>
                {
                    var part = Rotor with
                    {
                        Readings = Mm.Around([.. thousandths.Select(t => t / 1000m)]),
                        Uncertainty = Mm.Of(u / 1000m),
                        GrooveLeft = Mm.Of(groove / 1000m),
                    };
                    var judged = Judge(part);
                    var worst = thousandths.Min() / 1000m;
                    if (judged.Decision is Decision.Release or Decision.LeadOnly)
                        (
                            worst - part.Uncertainty.Millimetres - judged.Allowance!.Value.Millimetres - part.GrooveLeft!.Value.Millimetres
                        ).ShouldBeGreaterThanOrEqualTo(23.0m);
                    if (worst < 23.0m)
                        judged.Decision.ShouldBe(Decision.Never);
                    var thinner = Judge(part with { Readings = [.. part.Readings.Select(r => r with { Size = r.Size - Mm.Of(0.01m) })] });
                    ((int)thinner.Decision).ShouldBeGreaterThanOrEqualTo((int)judged.Decision);
                }
            );
    }

    [Theory]
    [InlineData(0.01, 0.01, 0.97725)]
    [InlineData(0, 0.01, 0.5)]
    [InlineData(0.02, 0.01, 0.99997)]
    [InlineData(-0.03, 0.01, 0.000000001)]
    [InlineData(0, 0, 0.5)]
    [InlineData(0.001, 0, 1)]
    public void Probability_is_the_normal_one(decimal margin, decimal u, double probability) =>
        Conformity.ProbabilityWithin(Mm.Of(margin), Mm.Of(u)).ShouldBe(probability, 0.00003);
}
