using BenchmarkDotNet.Attributes;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;

namespace Uncial.Bench;

/// <summary>
/// What the pages wait for: an assessment of eight readings, a plan over all techniques, a judgement; each with its reasoning.
/// </summary>
[InProcess, MemoryDiagnoser, MedianColumn]
public class CoreBenchmarks
{
    private static readonly Dial Dial = new(Mm(0.01m), false, Mm(0.01m), true);
    private readonly RotorMeasurement rotor;
    private readonly DrumMeasurement drum;
    private readonly PlanRequest rotorPlan;
    private readonly PlanRequest drumPlan;
    private readonly FinishedPart finished;

    public CoreBenchmarks()
    {
        decimal[] sizes = [24.31m, 24.33m, 24.36m, 24.38m, 24.37m, 24.35m, 24.32m, 24.30m];
        rotor = new()
        {
            Limits = Limits.Create(PartKind.Rotor, Mm(26m), Mm(23.4m), Mm(23m), ShopRules.Default).Limits!,
            Uncertainty = Mm(0.006m),
            Readings = [.. sizes.Select((s, i) => new Reading(ClockAngle.FromDegrees(i * 45), null, Mm(s)))],
            Faces = new(new(Mm(0.09m), Mm(0.05m), default), new(Mm(0.05m), Mm(0.02m), default)),
        };
        decimal[] diameters = [228.62m, 228.74m, 228.62m, 228.50m, 228.60m, 228.72m, 228.61m, 228.49m];
        drum = new()
        {
            Limits = Limits.Create(PartKind.Drum, Mm(228.6m), null, Mm(230.1m), ShopRules.Default).Limits!,
            Uncertainty = Mm(0.02m),
            Groove = Mm(0.05m),
            Readings = [.. diameters.Select((s, i) => new Reading(ClockAngle.FromDegrees(i % 4 * 45), Mm(i < 4 ? 10 : 40), Mm(s)))],
        };
        rotorPlan = PlanRequest.For(rotor, RotorAssessment.Assess(rotor, ShopRules.Default), Dial, ShopRules.Default);
        drumPlan = PlanRequest.For(drum, DrumAssessment.Assess(drum, ShopRules.Default), Dial, ShopRules.Default);
        finished = new()
        {
            Limits = rotor.Limits,
            Readings = rotor.Readings,
            Uncertainty = rotor.Uncertainty,
            GrooveLeft = Length.Zero,
            ReliefLeft = Length.Zero,
        };
    }

    [Benchmark]
    public RotorFigures AssessRotorOfEight() => RotorAssessment.Assess(rotor, ShopRules.Default);

    [Benchmark]
    public DrumFigures AssessDrumOfEight() => DrumAssessment.Assess(drum, ShopRules.Default);

    [Benchmark]
    public PassPlan PlanRotorAllTechniques() => PassPlanner.Plan(rotorPlan);

    [Benchmark]
    public PassPlan PlanDrumAllTechniques() => PassPlanner.Plan(drumPlan);

    [Benchmark]
    public Judgement JudgeRotorOfEight() => Judgement.Of(finished, ShopRules.Default);

    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);
}
