using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Release;

/// <summary>What may go wrong with a technique.</summary>
public enum PlanRisk
{
    /// <summary>It could reach past machine-to, so it is measured in between, or may not be started.</summary>
    Measure,

    /// <summary>A pass is so shallow that the bit rubs and heats.</summary>
    Rubs,

    /// <summary>A fine feed at a large diameter, or a thin rotor: it may chatter.</summary>
    Chatters,

    /// <summary>Its finishing feed cuts a thread into a drum.</summary>
    Threads,

    /// <summary>The second face stands on the first: its set-up adds a run-out.</summary>
    SecondChucking,

    /// <summary>Variation or out-of-round stays, above what its papers allow: it is felt at the pedal.</summary>
    Pulses,

    /// <summary>Grooves stay.</summary>
    Grooves,
}

/// <summary>A way that may be gone with a part, and what it costs.</summary>
/// <param name="Key">Technique's key, or <c>scuff</c>, <c>none</c> (no machining), <c>new</c> (a new part).</param>
/// <param name="Metal">Metal that it takes; null for a new part.</param>
/// <param name="LeftToDiscard">What is left to discard after it; null where not known.</param>
/// <param name="Kilometres">How far it goes then; null where not known.</param>
/// <param name="Minutes">Minutes at the bench; null where not known.</param>
/// <param name="Cost">What it costs in the shop's money; null where not known.</param>
/// <param name="Roughness">Ra in µm, about; null where nothing is cut.</param>
/// <param name="Risks">What may go wrong.</param>
public sealed record ComparedWay(
    string Key,
    Length? Metal,
    Length? LeftToDiscard,
    decimal? Kilometres,
    decimal? Minutes,
    decimal? Cost,
    double? Roughness,
    IReadOnlyList<PlanRisk> Risks
);

/// <summary>What is known of a part besides its plan when its ways are compared.</summary>
public sealed record ComparedPart
{
    /// <summary>Its limits.</summary>
    public required Limits Limits { get; init; }

    /// <summary>Its worst size now.</summary>
    public required Length Worst { get; init; }

    /// <summary>Largest diameter cut; 0 where not known.</summary>
    public Length Diameter { get; init; }

    /// <summary>Width of the swept band; 0 where not known.</summary>
    public Length Band { get; init; }

    /// <summary>How far it has gone since new, or null.</summary>
    public decimal? Kilometres { get; init; }

    /// <summary>Price of a new one, or null.</summary>
    public decimal? NewPartPrice { get; init; }

    /// <summary>Variation or out-of-round and run-out are measured and within what its papers allow.</summary>
    public bool WithinItsPapers { get; init; }
}

/// <summary>Techniques, scuffing, no machining and a new part beside each other, in metal, life, time and money.</summary>
public static class PlanComparison
{
    /// <summary>Scuffing alone.</summary>
    public const string Scuff = "scuff";

    /// <summary>No machining.</summary>
    public const string None = "none";

    /// <summary>A new part.</summary>
    public const string NewPart = "new";

    /// <summary>Compares. What is not known is left open, never guessed.</summary>
    /// <param name="plan">The ways to cut it.</param>
    /// <param name="request">What they rest on.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="part">The part.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <returns>Feasible techniques in the order of the plan, then scuffing where it is allowed, no machining, a new part.</returns>
    public static IReadOnlyList<ComparedWay> Of(PassPlan plan, PlanRequest request, Lathe lathe, ComparedPart part, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(request);
        ArgumentNullException.ThrowIfNull(lathe);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(rules);
        var limits = part.Limits;
        Length LeftFrom(Length size) => Limits.Margin(limits.Kind, size, limits.Discard);
        decimal? Goes(Length from) => part.Kilometres is { } km ? LifeLeft.Of(limits, null, new(km, part.Worst), from)?.DistanceLeft : null;
        decimal Costs(decimal minutes) => WorthIt.Of(true, minutes, null, null, rules).CostOfCutting;

        List<ComparedWay> ways = [];
        foreach (var option in plan.Options.Where(o => o.Feasible && o.Passes.Count > 0))
            ways.Add(Of(option, request, lathe, part, rules));
        var grooves = request.Sides.Any(s => s.Groove > Length.Zero);
        PlanRisk[] stays =
        [
            .. !part.WithinItsPapers ? [PlanRisk.Pulses] : Array.Empty<PlanRisk>(),
            .. grooves ? [PlanRisk.Grooves] : Array.Empty<PlanRisk>(),
        ];
        if (plan.Scuff is { Allowed: true })
            ways.Add(
                new(
                    Scuff,
                    Length.Zero,
                    LeftFrom(part.Worst),
                    Goes(part.Worst),
                    rules.Cost.MountMinutes,
                    Costs(rules.Cost.MountMinutes),
                    null,
                    stays
                )
            );
        ways.Add(new(None, Length.Zero, LeftFrom(part.Worst), Goes(part.Worst), 0, 0, null, stays));
        ways.Add(
            new(
                NewPart,
                null,
                limits.Nominal is { } fresh ? LeftFrom(fresh) : null,
                limits.Nominal is { } nominal ? Goes(nominal) : null,
                null,
                part.NewPartPrice,
                null,
                []
            )
        );
        return ways;
    }

    /// <summary>One way of cutting, also one that was set by hand.</summary>
    public static ComparedWay Of(PlanOption option, PlanRequest request, Lathe lathe, ComparedPart part, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(option);
        ArgumentNullException.ThrowIfNull(request);
        ArgumentNullException.ThrowIfNull(lathe);
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(rules);
        var limits = part.Limits;
        // No cut adds metal, whatever the figures forecast.
        var after =
            option.Passes.Count == 0 ? part.Worst
            : limits.Kind == PartKind.Rotor ? Length.Min(part.Worst, option.Passes[^1].SizeAfter)
            : Length.Max(part.Worst, option.Passes[^1].SizeAfter);
        var kilometres = part.Kilometres is { } km ? LifeLeft.Of(limits, null, new(km, part.Worst), after)?.DistanceLeft : null;
        PassRun? Run(PassKind kind) =>
            part.Diameter > Length.Zero && part.Band > Length.Zero ? lathe.Run(kind, limits.Kind, part.Diameter, part.Band) : null;
        decimal? minutes = Run(PassKind.Finish) is null
            ? null
            : Math.Ceiling(rules.Cost.MountMinutes + option.Passes.Sum(p => Run(p.Kind)!.Minutes));
        var last = option.Passes.Count == 0 ? null : Run(option.Passes[^1].Kind);
        List<PlanRisk> risks = [];
        if (option.Start != PlanStart.Free || option.Passes.Any(p => p.MeasureFirst && !p.TurnFirst))
            risks.Add(PlanRisk.Measure);
        if (lathe.Kind != LatheKind.Grinder)
        {
            var depths = option.Passes.SelectMany(p => p.Depth).Where(d => d > Length.Zero).ToList();
            if (depths.Count > 0 && depths.Min() < rules.Cutting.RubbingDepth)
                risks.Add(PlanRisk.Rubs);
            var chatter = Chatter.Of(
                new()
                {
                    Kind = limits.Kind,
                    Pass = PassKind.Finish,
                    Depth = rules.Cutting.RubbingDepth,
                    Diameter = part.Diameter,
                    Thickness = limits.Kind == PartKind.Rotor ? after : null,
                },
                rules
            );
            if (chatter.Reasons.Count > 0)
                risks.Add(PlanRisk.Chatters);
        }
        if (last is { Threads: true })
            risks.Add(PlanRisk.Threads);
        if (option.Passes.Any(p => p.TurnFirst))
            risks.Add(PlanRisk.SecondChucking);
        return new(
            option.Key,
            option.Metal,
            Limits.Margin(limits.Kind, after, limits.Discard),
            kilometres,
            minutes,
            minutes is { } m ? WorthIt.Of(true, m, null, null, rules).CostOfCutting : null,
            lathe.Kind == LatheKind.Grinder ? null : last?.RoughnessMean,
            risks
        );
    }
}
