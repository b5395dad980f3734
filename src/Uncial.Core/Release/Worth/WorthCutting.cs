using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;

namespace Uncial.Core.Release;

/// <summary>Whether a part is worth cutting, in one word.</summary>
public enum WorthWord
{
    /// <summary>Beyond discard: scrap.</summary>
    Beyond,

    /// <summary>A drum with less stock than the shop starts with.</summary>
    BelowFloor,

    /// <summary>It is within what its papers allow, uncut: leave it, or scuff the glaze off.</summary>
    Leave,

    /// <summary>No way to cut it inside its limits.</summary>
    CannotBeCut,

    /// <summary>It would reach discard too soon after the cut.</summary>
    TooShortALife,

    /// <summary>A new part costs no more.</summary>
    NewPartIsCheaper,

    /// <summary>Cut it.</summary>
    Cut,
}

/// <summary>What is known of a part besides its readings when one asks whether it is worth cutting.</summary>
/// <param name="KilometresSinceNew">How far it has gone, or null.</param>
/// <param name="NewPartPrice">Price of a new one in the shop's money, or null.</param>
/// <param name="CutMinutes">Minutes of the passes, 0 or more.</param>
/// <param name="WithinItsPapers">Variation and run-out are measured and within what its papers allow, and no groove asks for a cut.</param>
public readonly record struct WorthFacts(decimal? KilometresSinceNew, decimal? NewPartPrice, decimal CutMinutes, bool WithinItsPapers);

/// <summary>Stock, least cut, what is left and for how long, and the price, put together.</summary>
/// <param name="Word">The verdict.</param>
/// <param name="Option">The way to cut that it speaks of; null where there is none.</param>
/// <param name="LeftAfter">To discard after that cut; null where there is none.</param>
/// <param name="DistanceUncut">Kilometres to discard as it is; null where not known.</param>
/// <param name="DistanceAfter">Kilometres to discard after the cut; null where not known.</param>
/// <param name="Money">Bench time against a new part.</param>
/// <param name="Steps">How it was worked out, in order.</param>
public sealed record WorthCutting(
    WorthWord Word,
    PlanOption? Option,
    Length? LeftAfter,
    decimal? DistanceUncut,
    decimal? DistanceAfter,
    WorthIt Money,
    IReadOnlyList<Step> Steps
)
{
    /// <summary>Weighs a part up. What is not known speaks neither for nor against.</summary>
    /// <param name="limits">Its limits.</param>
    /// <param name="worst">Its worst size.</param>
    /// <param name="verdict">Worst size against discard.</param>
    /// <param name="belowFloor">It has less stock than the shop starts a drum with.</param>
    /// <param name="plan">The ways to cut it.</param>
    /// <param name="facts">What else is known.</param>
    /// <param name="rules">The shop's rules.</param>
    public static WorthCutting Of(
        Limits limits,
        Length worst,
        Verdict verdict,
        bool belowFloor,
        PassPlan plan,
        WorthFacts facts,
        ShopRules rules
    )
    {
        ArgumentNullException.ThrowIfNull(limits);
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(rules);
        var option = plan.Options.FirstOrDefault(o => o.Key == plan.Recommended);
        if (verdict == Verdict.Beyond || belowFloor)
            option = null;
        // Where readings and run-outs do not agree the forecast may come out better than the worst reading: no cut adds metal.
        var after = option?.Passes is [.., var last]
            ? (limits.Kind == PartKind.Rotor ? Length.Min(worst, last.SizeAfter) : Length.Max(worst, last.SizeAfter))
            : (Length?)null;
        LifeLeft? Life(Length from) => facts.KilometresSinceNew is { } km ? LifeLeft.Of(limits, null, new(km, worst), from) : null;
        var (uncut, cut) = (Life(worst), after is { } size ? Life(size) : null);
        var money = WorthIt.Of(
            option is not null,
            rules.Cost.MountMinutes + facts.CutMinutes,
            facts.NewPartPrice,
            cut?.DistanceLeft,
            rules
        );
        var word =
            verdict == Verdict.Beyond ? WorthWord.Beyond
            : belowFloor ? WorthWord.BelowFloor
            : facts.WithinItsPapers ? WorthWord.Leave
            : money.Verdict switch
            {
                Worth.Cut => WorthWord.Cut,
                Worth.TooShortALife => WorthWord.TooShortALife,
                Worth.NewPartIsCheaper => WorthWord.NewPartIsCheaper,
                _ => WorthWord.CannotBeCut,
            };
        return new(
            word,
            option,
            after is { } left ? Limits.Margin(limits.Kind, left, limits.Discard) : null,
            uncut?.DistanceLeft,
            cut?.DistanceLeft,
            money,
            [.. uncut?.Steps ?? [], .. (cut?.Steps ?? []).Where(s => s.Quantity is "stockToDiscard" or "distanceLeft"), .. money.Steps]
        );
    }
}
