using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Workflow;

/// <summary>A step that made a limit laxer, and whose signature it stands on.</summary>
/// <param name="Kind">Which limit.</param>
/// <param name="Was">The limit before.</param>
/// <param name="Is">The limit since.</param>
/// <param name="Why">The reason that was given.</param>
/// <param name="By">Who stated it.</param>
/// <param name="SignedBy">The lead who signed; null for one from before signatures were kept.</param>
/// <param name="At">When.</param>
/// <param name="ByRules">The shop's rules were changed, not a statement about this part.</param>
public sealed record LaxerLimit(
    LimitKind Kind,
    Length Was,
    Length Is,
    string? Why,
    string? By,
    string? SignedBy,
    DateTimeOffset At,
    bool ByRules
);

/// <summary>What is stated about the limits of a surface, and which of it holds.</summary>
public sealed class ReceiveState
{
    private readonly SurfaceFacts facts;
    private readonly Workshop shop;

    internal ReceiveState(SurfaceFacts facts, Workshop shop)
    {
        (this.facts, this.shop) = (facts, shop);
        Limits = After(int.MaxValue, shop.Rules);
    }

    private PartKind Part => facts.Kind;

    /// <summary>The limits that hold; null where they are missing or contradict one another.</summary>
    public Limits? Limits { get; }

    /// <summary>The newest statement of a limit from each of its sources.</summary>
    public IReadOnlyList<LimitFact> Stated(LimitKind kind) => StatedOf(kind, facts.Limits);

    /// <summary>
    /// What a lead said of which source of a limit holds; null where there is none, or a source was read anew since.
    /// </summary>
    public LimitSettlementFact? Settlement(LimitKind kind) => SettlementOf(kind, facts.Limits, facts.Settlements);

    /// <summary>
    /// The statement that holds: what a lead settled, otherwise the strictest; of a new size the newest. Null where nothing is stated.
    /// </summary>
    public LimitFact? Held(LimitKind kind) => Held(kind, int.MaxValue);

    /// <summary>The sources of a limit do not say the same, and nobody has settled it.</summary>
    public bool IsDisputed(LimitKind kind) => HeldLimit.Differ(Stated(kind).Select(l => l.Value)) && Settlement(kind) is null;

    /// <summary>Steps that made machine-to or discard laxer than it was, the oldest first.</summary>
    public IReadOnlyList<LaxerLimit> LaxerSteps
    {
        get
        {
            List<LaxerLimit> steps = [];
            foreach (var fact in facts.Limits.Where(l => l.SignatureId is not null).Cast<PartFact>().Concat(facts.Settlements).Ordered())
            {
                var (reason, signedBy) = fact switch
                {
                    LimitFact l => (l.SignedReason, l.SignedByName),
                    LimitSettlementFact t => (t.Reason, t.SignedByName),
                    _ => default,
                };
                foreach (var (kind, was, now) in Laxer(fact.Place()))
                    steps.Add(new(kind, was, now, reason, fact.ByName, signedBy, fact.At, false));
            }
            if (Limits is { MachineToDerived: true })
                steps.AddRange(LaxerByRules());
            return steps;
        }
    }

    /// <summary>What a statement that is not stored yet makes laxer: such a one takes a lead's signature.</summary>
    /// <param name="kind">Which limit it states.</param>
    /// <param name="value">The limit.</param>
    /// <param name="source">Where it was read.</param>
    /// <param name="before">Statements that are made together with it, before it.</param>
    public IReadOnlyList<(LimitKind Kind, Length Was, Length Is)> WouldLoosen(
        LimitKind kind,
        Length value,
        LimitSource source,
        IReadOnlyList<LimitFact> before
    )
    {
        ArgumentNullException.ThrowIfNull(before);
        LimitFact stated = new()
        {
            Kind = kind,
            Value = value,
            Source = source,
            Typed = "",
        };
        return [.. Compare(HeldBy([.. facts.Limits, .. before]), HeldBy([.. facts.Limits, .. before, stated]))];

        Func<LimitKind, Length?> HeldBy(IReadOnlyList<LimitFact> entries) =>
            asked => HeldOf(asked, entries, [.. facts.Settlements.Where(s => before.All(b => b.Kind != s.Kind))])?.Value;
    }

    private IEnumerable<LaxerLimit> LaxerByRules()
    {
        var stated = facts.Limits.Select(l => l.RulesId ?? 0).DefaultIfEmpty().Min();
        foreach (var change in shop.LaxerRules.Where(c => c.Id > stated).OrderBy(c => c.Id))
            if (
                After(int.MaxValue, change.Before) is { } was
                && After(int.MaxValue, change.After) is { } now
                && Limits.Margin(Part, was.MachineTo, now.MachineTo) > Length.Zero
            )
                yield return new(
                    LimitKind.MachineTo,
                    was.MachineTo,
                    now.MachineTo,
                    change.Reason,
                    change.ByName,
                    change.SignedByName,
                    change.At,
                    true
                );
    }

    private IEnumerable<(LimitKind Kind, Length Was, Length Is)> Laxer(int number) =>
        Compare(kind => Held(kind, number - 1)?.Value, kind => Held(kind, number)?.Value);

    private IEnumerable<(LimitKind Kind, Length Was, Length Is)> Compare(Func<LimitKind, Length?> was, Func<LimitKind, Length?> now)
    {
        Length? Of(Func<LimitKind, Length?> held) =>
            Limits.EffectiveMachineTo(Part, held(LimitKind.Nominal), held(LimitKind.MachineTo), held(LimitKind.Discard), shop.Rules);
        var (before, after) = (Of(was), Of(now));
        if (was(LimitKind.Discard) is { } d && now(LimitKind.Discard) is { } e && Limits.Margin(Part, d, e) > Length.Zero)
            yield return (LimitKind.Discard, d, e);
        if (before is { } m && after is { } n && Limits.Margin(Part, m, n) > Length.Zero)
            yield return (LimitKind.MachineTo, m, n);
    }

    /// <summary>The limits as they were after a numbered fact of the part, by some rules.</summary>
    private Limits? After(int number, ShopRules rules) =>
        Limits
            .Create(
                Part,
                Held(LimitKind.Nominal, number)?.Value,
                Held(LimitKind.MachineTo, number)?.Value,
                Held(LimitKind.Discard, number)?.Value,
                rules
            )
            .Limits;

    private LimitFact? Held(LimitKind kind, int number) =>
        HeldOf(kind, [.. facts.Limits.Where(l => l.Place() <= number)], [.. facts.Settlements.Where(s => s.Place() <= number)]);

    private static IReadOnlyList<LimitFact> StatedOf(LimitKind kind, IEnumerable<LimitFact> entries) =>
        [.. entries.Where(l => l.Kind == kind).GroupBy(l => l.Source).Select(g => g.Newest()!).OrderBy(l => l.Source)];

    private static LimitSettlementFact? SettlementOf(
        LimitKind kind,
        IReadOnlyList<LimitFact> entries,
        IReadOnlyList<LimitSettlementFact> settlements
    ) =>
        settlements.Where(s => s.Kind == kind).Newest() is { } settled && entries.All(l => l.Kind != kind || !l.IsAfter(settled))
            ? settled
            : null;

    private LimitFact? HeldOf(LimitKind kind, IReadOnlyList<LimitFact> entries, IReadOnlyList<LimitSettlementFact> settlements)
    {
        var stated = StatedOf(kind, entries);
        if (stated.Count == 0)
            return null;
        if (SettlementOf(kind, entries, settlements) is { } settled && entries.FirstOrDefault(l => l.Id == settled.EntryId) is { } chosen)
            return chosen;
        if (kind == LimitKind.Nominal)
            return stated.Newest();
        var strictest = HeldLimit.Strictest(Part, stated.Select(l => l.Value));
        return stated.First(l => l.Value == strictest);
    }
}
