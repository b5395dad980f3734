using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Core.Workflow;

namespace Uncial.Core.Settings;

/// <summary>What other rules would make of a finished part.</summary>
public enum RuleEffect
{
    /// <summary>It left, and would be held back.</summary>
    HeldBack,

    /// <summary>It could not leave, and could.</summary>
    LetGo,

    /// <summary>It would need a lead, and did not.</summary>
    NeedsLead,

    /// <summary>It needed a lead, and would not.</summary>
    NeedsNoLead,

    /// <summary>It would take a reason to go on, and took none.</summary>
    TakesReason,

    /// <summary>It took a reason to go on, and would take none.</summary>
    TakesNoReason,

    /// <summary>It was cut, and would not be started: a drum below the floor.</summary>
    NotStarted,

    /// <summary>Its set-up was taken as true, and would be remounted.</summary>
    Remounted,

    /// <summary>Its set-up was to be remounted, and would be taken as true.</summary>
    SetUpAccepted,
}

/// <summary>
/// What a change of the rules would have changed in parts that are finished, worked out anew from their facts. What the records of a head
/// say is left out on both sides; plans are not made again.
/// </summary>
/// <param name="Parts">Parts that were looked at.</param>
/// <param name="Effects">How many of them it would have concerned, by what; only what concerns any.</param>
public sealed record RulePreview(int Parts, IReadOnlyDictionary<RuleEffect, int> Effects)
{
    /// <summary>So many of the newest parts are looked at.</summary>
    public const int LooksAt = 50;

    /// <summary>How a surface stands under a set of rules.</summary>
    private readonly record struct Standing(bool Goes, bool TakesLead, bool TakesReason, bool MayStart, bool IsTrue);

    /// <summary>Compares parts under two sets of rules.</summary>
    /// <param name="parts">For each part its surfaces, under the rules that hold and under the others.</param>
    public static RulePreview Of(IEnumerable<IReadOnlyList<(SurfaceState Now, SurfaceState Then)>> parts)
    {
        ArgumentNullException.ThrowIfNull(parts);
        var (count, effects) = (0, new SortedDictionary<RuleEffect, int>());
        foreach (var surfaces in parts)
        {
            count++;
            var (now, then) = (Of(surfaces.Select(s => s.Now)), Of(surfaces.Select(s => s.Then)));
            foreach (var effect in Between(now, then))
                effects[effect] = effects.GetValueOrDefault(effect) + 1;
        }
        return new(count, effects);
    }

    private static IEnumerable<RuleEffect> Between(Standing now, Standing then)
    {
        if (now.Goes && !then.Goes)
            yield return RuleEffect.HeldBack;
        if (!now.Goes && then.Goes)
            yield return RuleEffect.LetGo;
        if (now.Goes && then.Goes && now.TakesLead != then.TakesLead)
            yield return then.TakesLead ? RuleEffect.NeedsLead : RuleEffect.NeedsNoLead;
        if (now.TakesReason != then.TakesReason)
            yield return then.TakesReason ? RuleEffect.TakesReason : RuleEffect.TakesNoReason;
        if (now.MayStart && !then.MayStart)
            yield return RuleEffect.NotStarted;
        if (now.IsTrue != then.IsTrue)
            yield return then.IsTrue ? RuleEffect.SetUpAccepted : RuleEffect.Remounted;
    }

    /// <summary>A whole part stands as its worst surface.</summary>
    private static Standing Of(IEnumerable<SurfaceState> surfaces)
    {
        var all = surfaces.Select(Of).ToList();
        return new(
            all.TrueForAll(s => s.Goes),
            all.Exists(s => s.TakesLead),
            all.Exists(s => s.TakesReason),
            all.TrueForAll(s => s.MayStart),
            all.TrueForAll(s => s.IsTrue)
        );
    }

    private static Standing Of(SurfaceState surface)
    {
        var rules = surface.Shop.Rules;
        if (surface.Receiving.Limits is not { } limits || surface.Measuring.Sizes.Count == 0)
            return new(false, false, false, true, true);
        var decision = surface.Confirming.Judge(readingsAreFit: true).Decision;
        var needsLead = decision == Decision.LeadOnly;
        return new(
            decision == Decision.Release || (needsLead && rules.Limits.LeadMayReleaseBetweenLimits),
            needsLead,
            surface.Confirming.Objections(pair: null).Count > 0,
            surface.Kind == PartKind.Rotor
                || surface.CutsDone == 0
                || surface.Measuring.WorstBefore is not { } before
                || Limits.Margin(surface.Kind, before, limits.Discard) >= rules.Limits.DrumFloor,
            surface.Facts.SetUps.Where(c => c.SetUpRunout is not null).Newest() is not { SetUpRunout: { } runout }
                || SetUpCheck.Accepts(runout, rules.SetUp.SetUpTolerance)
        );
    }
}
