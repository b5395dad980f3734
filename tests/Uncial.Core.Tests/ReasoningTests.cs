using System.Globalization;
using CsCheck;
using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;

namespace Uncial.Core.Tests;

/// <summary>
/// What is shown as the way to a result must lead to that result: every step is computed again, by a calculator of the test's own.
/// </summary>
public class ReasoningTests
{
    private static readonly Gen<decimal> Small = Gen.Int[0, 120].Select(i => i / 1000m);

    [Fact]
    public void Every_step_of_a_rotor_comes_to_what_it_says() =>
        Gen.Select(
                Gen.Int[0, 10].SelectMany(n => Gen.Int[-60, 60].Array[n]),
                Small.Array[6],
                Gen.Int[0, 3],
                Gen.Int[0, 12],
                Gen.Int[-20, 90]
            )
            .Sample(
                (sizes, f, known, clean, stock) =>
                {
                    var rotor = new RotorMeasurement
                    {
                        Limits = Mm.Rotor(24m - stock / 100m, stock % 3 == 0 ? null : 24.2m - stock / 100m),
                        Uncertainty = Mm.Of(0.006m),
                        Readings = Mm.Around([.. sizes.Select(s => 24m + s / 1000m)]),
                        EdgeRadius = Mm.Of(140),
                        Faces = new(
                            new(known % 2 == 0 ? Mm.Of(f[0]) : null, Mm.Of(f[1]), Mm.Of(f[2]), Mm.Of(100)),
                            new(known < 2 ? Mm.Of(f[3]) : null, Mm.Of(f[4]), Mm.Of(f[5]))
                        ),
                    };
                    var figures = RotorAssessment.Assess(rotor, ShopRules.Default);
                    AllTrue(figures.Steps);
                    if (sizes.Length == 0)
                        return;
                    AllTrue(
                        Judgement
                            .Of(
                                new()
                                {
                                    Limits = rotor.Limits,
                                    Readings = rotor.Readings,
                                    Uncertainty = rotor.Uncertainty,
                                    GrooveLeft = Mm.Of(f[1]),
                                    ReliefLeft = known == 1 ? null : Mm.Of(f[2]),
                                    TurnedBright = known == 2,
                                    AsksForSecondReading = known > 1,
                                },
                                ShopRules.Default
                            )
                            .Steps
                    );
                    PlanAndCut(
                        PlanRequest.For(rotor, figures, new(Mm.Of(0.01m), false, Mm.Of(0.01m), known != 1), ShopRules.Default) with
                        {
                            TwinCutter = clean % 2 == 0,
                            SecondChuckingRunout = Mm.Of(0.05m),
                        },
                        clean
                    );
                    figures.Steps.ShouldContain(s => s.Quantity == "touch" && s.Result == (Term)figures.Touch!.Value);
                }
            );

    [Fact]
    public void Every_step_of_a_drum_comes_to_what_it_says() =>
        Gen.Select(Gen.Int[1, 6].SelectMany(n => Gen.Int[-90, 90].Array[n]), Gen.Int[1, 3], Small, Small, Gen.Int[0, 12])
            .Sample(
                (sizes, depths, e, groove, clean) =>
                {
                    var drum = new DrumMeasurement
                    {
                        Limits = Mm.Drum(230.1m, nominal: 228.6m),
                        Uncertainty = Mm.Of(0.02m),
                        Eccentricity = Mm.Of(e),
                        Groove = Mm.Of(groove),
                        Readings =
                        [
                            .. Enumerable
                                .Range(0, depths)
                                .SelectMany(d =>
                                    sizes.Select((s, i) => Mm.At(i * 180m / sizes.Length, 229m + (s + 20 * d) / 1000m, 10 + 20 * d))
                                ),
                        ],
                    };
                    var figures = DrumAssessment.Assess(drum, ShopRules.Default);
                    AllTrue(figures.Steps);
                    AllTrue(
                        Judgement
                            .Of(
                                new()
                                {
                                    Limits = drum.Limits,
                                    Readings = drum.Readings,
                                    Uncertainty = drum.Uncertainty,
                                    TurnedBright = clean > 6,
                                    GrooveLeft = Mm.Of(groove),
                                    ReliefLeft = Length.Zero,
                                },
                                ShopRules.Default
                            )
                            .Steps
                    );
                    PlanAndCut(PlanRequest.For(drum, figures, new(Mm.Of(0.02m), true, Mm.Of(0.01m), true), ShopRules.Default), clean);
                }
            );

    private static void PlanAndCut(PlanRequest request, int clean)
    {
        var plan = PassPlanner.Plan(request);
        AllTrue(plan.Steps);
        AllTrue(plan.Scuff!.Steps);
        foreach (var option in plan.Options)
        {
            AllTrue(option.Steps);
            option
                .Steps.Where(s => s.Quantity == "boundAfter")
                .Select(s => s.Result)
                .ShouldBe(
                    option.Passes.Count > 0
                        ? option.Passes.Select(p => (Term)p.BoundAfter)
                        : option.Steps.Where(s => s.Quantity == "boundAfter").Select(s => s.Result)
                );
            if (option.Passes.Count == 0)
                continue;
            var passes = option.Passes;
            var after = AfterPass.Read(
                request,
                [passes[0]],
                [.. passes.Skip(1)],
                [.. request.Sides.Select(_ => new SideSeen(clean, null))],
                clean % 3 == 0 ? new SizeSeen(passes[0].SizeAfter + Mm.Of(0.012m), clean % 2 == 0) : null,
                ShopRules.Default
            );
            AllTrue(after.Steps);
        }
    }

    [Fact]
    public void Every_step_of_gauges_set_ups_and_money_comes_to_what_it_says() =>
        Gen.Select(
                Gen.Int[1, 20],
                Gen.Int[0, 9].SelectMany(n => Gen.Int[-4, 4].Array[n]),
                Gen.Int[30, 359],
                Gen.Int[31, 329],
                Gen.Int[1, 90_000]
            )
            .Sample(
                (resolution, repeats, arc, turned, km) =>
                {
                    var gauge = new GaugeFacts(
                        (GaugeKind)(km % 4),
                        Mm.Of(resolution / 1000m),
                        km % 2 == 0 ? Mm.Of(0.004m) : null,
                        km % 3 == 0 ? Mm.Of(0.005m) : null,
                        km % 5 == 0 ? Mm.Of(0.002m) : null
                    );
                    AllTrue(
                        ReadingUncertainty
                            .Of(
                                gauge,
                                Mm.Of(24),
                                repeats.Length + 1,
                                ShopRules.Default,
                                arc % 3,
                                Repeatability.Of([
                                    [.. repeats.Select(r => Mm.Of(24 + r / 1000m))],
                                ])
                            )
                            .Steps
                    );
                    AllTrue(new ZeroCheck(Mm.Of(25m), Mm.Of(25m + resolution / 1000m), Mm.Of(0.01m)).Steps);
                    var lathe = new Lathe
                    {
                        Name = "L",
                        Division = Mm.Of(0.01m),
                        DialAllowance = Mm.Of(0.01m),
                        Feeds = [new("1", Mm.Of(resolution / 50m))],
                        RoughFeed = "1",
                        FinishFeed = "1",
                        Speeds = [60m, 150m],
                        NoseRadius = Mm.Of(0.8m),
                        FastestSurface = arc / 2.0,
                    };
                    AllTrue(lathe.Run(PassKind.Finish, PartKind.Drum, Mm.Of(arc + 100), Mm.Of(45)).Steps);
                    RunoutMark Scratch(int at, int extent) => RunoutMark.Scratch(ClockAngle.FromDegrees(at), extent, Mm.Of(0.02m));
                    AllTrue(
                        SetUpCheck.Of(PartKind.Drum, turned, Mm.Of(0.025m), Mm.Of(0.01m), Scratch(40, arc), Scratch(km % 360, 200)).Steps
                    );
                    AllTrue(
                        SetUpCheck.Of(PartKind.Rotor, turned, Mm.Of(0.025m), Mm.Of(0.01m), Scratch(40, 360), Scratch(km % 360, arc)).Steps
                    );
                    AllTrue(
                        SetUpCheck
                            .Of(
                                PartKind.Rotor,
                                turned,
                                Mm.Of(0.025m),
                                Mm.Of(0.01m),
                                RunoutMark.Direction(ClockAngle.FromDegrees(40), 100),
                                RunoutMark.Direction(ClockAngle.FromDegrees(km % 360), arc)
                            )
                            .Steps
                    );
                    var life = LifeLeft.Of(Mm.Rotor(22m, nominal: 26m), null, new(km, Mm.Of(25m - repeats.Length / 10m)), Mm.Of(24m))!;
                    AllTrue(life.Steps);
                    AllTrue(WorthIt.Of(true, 25, km % 2 == 0 ? 60 : null, life.DistanceLeft, ShopRules.Default).Steps);
                    AllTrue(PairCheck.Of(new(Mm.Of(24), true), new(Mm.Of(24 + km % 90 / 100m), km % 2 == 0), ShopRules.Default).Steps);
                }
            );

    [Fact]
    public void A_step_is_written_in_the_readers_unit()
    {
        var figures = RotorAssessment.Assess(
            new()
            {
                Limits = Mm.Rotor(23m),
                Uncertainty = Mm.Of(0.006m),
                Readings = Mm.Around(24.31m, 24.33m, 24.36m, 24.38m, 24.37m, 24.35m, 24.32m, 24.30m),
                Faces = new(new(Mm.Of(0.09m), Mm.Of(0.05m), default), new(Mm.Of(0.05m), Mm.Of(0.02m), default)),
            },
            ShopRules.Default
        );
        var touch = figures.Steps.Single(s => s.Quantity == "touch");
        (touch.Arithmetic(LengthUnit.Millimetre), touch.Outcome(LengthUnit.Millimetre)).ShouldBe(("24.34 + (0.09 + 0.05)/2", "24.41 mm"));
        (touch.Arithmetic(LengthUnit.Inch), touch.Outcome(LengthUnit.Inch)).ShouldBe(("0.958268 + (0.003543 + 0.001969)/2", "0.961024 in"));
        figures
            .Steps.Select(s => s.Quantity)
            .ShouldBe([
                "least",
                "thicknessVariation",
                "stockToDiscard",
                "discardVerdict",
                "machineToDerived",
                "stockToMachineTo",
                "machineToVerdict",
                "fitMean",
                "need",
                "need",
                "touch",
                "touchCareful",
                "touchBound",
                "leastFinished",
                "figuresAgree",
            ]);
    }

    private static void AllTrue(IReadOnlyList<Step> steps)
    {
        foreach (var step in steps)
        {
            step.Arithmetic(LengthUnit.Inch).ShouldNotContain("{");
            if (step.Formula.Length == 0 || step.Formula.Contains('×') || step.Formula.StartsWith('Φ'))
                continue;
            var text = Written(step);
            var value = new Calculator(text).Value();
            if (step.Result.Kind == TermKind.Name)
                value.ShouldBe(1, $"{step.Quantity}: {text} does not hold");
            else
                value.ShouldBe(
                    (double)step.Result.Value,
                    5e-6 + Math.Abs(value) * 1e-4 * (step.Formula.Contains("cos") ? 1 : 0),
                    $"{step.Quantity}: {text}"
                );
        }
    }

    private static string Written(Step step)
    {
        string Raw(Term t) => "(" + t.Value.ToString(CultureInfo.InvariantCulture) + ")";
        var text = step.Formula.Replace("{…}", string.Join(",", step.Terms.Select(Raw)), StringComparison.Ordinal);
        for (var i = 0; i < step.Terms.Count; i++)
            text = text.Replace("{" + i + "}", Raw(step.Terms[i]), StringComparison.Ordinal);
        return text;
    }

    /// <summary>Reads sums as they are written on paper.</summary>
    private sealed class Calculator(string text)
    {
        private readonly string s = text.Replace(" ", "", StringComparison.Ordinal)
            .Replace('−', '-')
            .Replace('·', '*')
            .Replace("°", "*0.017453292519943295", StringComparison.Ordinal);
        private int at;

        /// <summary>The number, or 1 or 0 for a chain of comparisons.</summary>
        public double Value()
        {
            var (left, holds, compared) = (Sum(), true, false);
            while (at < s.Length && "≤≥<>".Contains(s[at]))
            {
                var sign = s[at++];
                var right = Sum();
                holds &= sign switch
                {
                    '≤' => left <= right + 1e-9,
                    '≥' => left >= right - 1e-9,
                    '<' => left < right + 1e-9,
                    _ => left > right - 1e-9,
                };
                (left, compared) = (right, true);
            }
            at.ShouldBe(s.Length, s);
            return compared
                ? holds
                    ? 1
                    : 0
                : left;
        }

        private double Sum()
        {
            var value = Product();
            while (at < s.Length && s[at] is '+' or '-')
                value += s[at++] == '+' ? Product() : -Product();
            return value;
        }

        private double Product()
        {
            var value = Factor();
            while (at < s.Length && s[at] is '*' or '/')
                value = s[at++] == '*' ? value * Factor() : value / Factor();
            return value;
        }

        private double Factor()
        {
            double value;
            var from = at;
            switch (s[at])
            {
                case '-':
                    at++;
                    return -Factor();
                case '(':
                    at++;
                    value = Sum();
                    at++;
                    break;
                case '|':
                    at++;
                    value = Math.Abs(Sum());
                    at++;
                    break;
                case '⌈':
                    at++;
                    value = Math.Ceiling(Math.Round(Sum(), 9));
                    at++;
                    break;
                case '⌊':
                    at++;
                    value = Math.Floor(Math.Round(Sum(), 9));
                    at++;
                    break;
                case '√':
                    at++;
                    value = Math.Sqrt(Factor());
                    break;
                case 'π':
                    at++;
                    value = Math.PI;
                    break;
                case >= 'a' and <= 'z':
                    value = Function();
                    break;
                default:
                    while (at < s.Length && (char.IsAsciiDigit(s[at]) || s[at] == '.'))
                        at++;
                    value = double.Parse(s.AsSpan(from, at - from), CultureInfo.InvariantCulture);
                    break;
            }
            if (at >= s.Length || s[at] != '²')
                return value;
            at++;
            return value * value;
        }

        private double Function()
        {
            var name = new string([.. s.Skip(at).TakeWhile(char.IsAsciiLetterLower)]);
            at += name.Length + 1;
            List<double> of = [Sum()];
            while (s[at] == ',')
            {
                at++;
                of.Add(Sum());
            }
            at++;
            return name switch
            {
                "min" => of.Min(),
                "max" => of.Max(),
                "mean" => of.Average(),
                "sin" => Math.Sin(of[0]),
                "cos" => Math.Cos(of[0]),
                "s" => Math.Sqrt(of.Sum(x => Math.Pow(x - of.Average(), 2)) / (of.Count - 1)),
                _ => throw new FormatException(name),
            };
        }
    }
}
