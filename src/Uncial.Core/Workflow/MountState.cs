using Uncial.Core.Lengths;

namespace Uncial.Core.Workflow;

/// <summary>How a surface is on its lathe, and what the checks of its set-up said.</summary>
public sealed class MountState
{
    private readonly SurfaceFacts facts;

    internal MountState(SurfaceFacts facts, Workshop shop)
    {
        this.facts = facts;
        Mount = facts.Mounts.Newest() is { } mount && facts.Confirmations.All(c => !c.IsAfter(mount)) ? mount : null;
        SetUps = Mount is null ? [] : [.. facts.SetUps.Where(c => c.MountId == Mount.Id).Ordered()];
        Lathe =
            (Mount?.LatheId ?? facts.Passes.MaxBy(p => p.Cut)?.LatheId) is { } id
            && shop.Lathes.FirstOrDefault(l => l.Id == id) is { } lathe
                ? lathe
                : shop.LatheFor(facts.Kind, facts.Diameter);
    }

    /// <summary>The lathe that it is on, was cut on, or will go on unless another is picked.</summary>
    public WorkshopLathe Lathe { get; }

    /// <summary>How it is mounted; null where it is not on a lathe, or was confirmed since.</summary>
    public MountFact? Mount { get; }

    /// <summary>Checks of this mounting, the oldest first. The last one counts.</summary>
    public IReadOnlyList<SetUpFact> SetUps { get; }

    /// <summary>The check that counts, or null.</summary>
    public SetUpFact? SetUp => SetUps.Count == 0 ? null : SetUps[^1];

    /// <summary>That it may be cut as it is mounted; a check made afterwards asks anew.</summary>
    public SetUpDecisionFact? Decision =>
        Mount is not null
        && facts.SetUpDecisions.Where(d => d.MountId == Mount.Id).Newest() is { } decision
        && (SetUp is null || decision.CheckId == SetUp.Id)
            ? decision
            : null;

    /// <summary>It went on against its check, or without one: the reasons, the oldest first.</summary>
    public IReadOnlyList<SetUpDecisionFact> WentOnAnyway => [.. facts.SetUpDecisions.Where(d => d.Reason is not null).Ordered()];

    /// <summary>The mounting in which the first cut was made; null where nothing was cut.</summary>
    internal MountFact? FirstCutIn =>
        facts.Passes.MinBy(p => p.Cut) is { } first ? facts.Mounts.Where(m => first.IsAfter(m)).Newest() : null;

    /// <summary>The newest mounting after a pass and before the next one; null where the part stayed on.</summary>
    internal MountFact? MountedBetween(PassFact pass, PassFact? next) =>
        facts.Mounts.Where(m => m.IsAfter(pass) && (next is null || next.IsAfter(m))).Newest();

    /// <summary>The mounting that followed one; null for the newest.</summary>
    internal MountFact? After(MountFact mount) => facts.Mounts.Where(m => m.IsAfter(mount)).Ordered().FirstOrDefault();

    /// <summary>
    /// What it runs out at most in the mounting in which it was, or will be, cut first; null where no scratch that goes all round says so.
    /// </summary>
    internal Length? RunsOutAtMost => FirstCutIn is { } first && first.Id != Mount?.Id ? null : SetUp?.RunsOutAtMost;

    /// <summary>
    /// A run-out as it holds for a mounting. One that was read in an earlier mounting had that set-up in it: what the check found to be the
    /// part's own is left of it, or nothing is known.
    /// </summary>
    internal Length? RunoutIn(MountFact? mount, ReadingFact? figure)
    {
        if (figure is null)
            return null;
        if (mount is null || figure.IsAfter(mount) || facts.Mounts.Where(m => figure.IsAfter(m)).Newest() is not { } earlier)
            return figure.Value;
        var part = facts.SetUps.Where(c => c.MountId == earlier.Id).Newest()?.PartRunout;
        return figure.Kind switch
        {
            ReadingKind.RunoutOuter => part,
            ReadingKind.Eccentricity => part / 2,
            _ => null,
        };
    }
}
