using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Data;

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

/// <summary>What is stated about the limits of a surface, in the order in which it was stated.</summary>
public sealed partial class SurfaceRecord
{
    /// <summary>The newest statement of a limit from each of its sources.</summary>
    public IReadOnlyList<LimitEntry> Stated(LimitKind kind) => Stated(kind, int.MaxValue);

    /// <summary>The word of a lead that settles which source of a limit holds; null where there is none, or a source was read anew since.</summary>
    public LimitSettlement? Settlement(LimitKind kind) => Settlement(kind, int.MaxValue);

    /// <summary>The statement that holds: what a lead settled, otherwise the strictest; of a new size the newest. Null where nothing is stated.</summary>
    public LimitEntry? Held(LimitKind kind) => Held(kind, int.MaxValue);

    /// <summary>Steps that made machine-to or discard laxer than it was, the oldest first.</summary>
    public IReadOnlyList<LaxerLimit> LaxerLimits
    {
        get
        {
            List<LaxerLimit> steps = [];
            foreach (
                var fact in Surface
                    .LimitEntries.Where(l => l.SignatureId is not null)
                    .Cast<PartFact>()
                    .Concat(Surface.Settlements)
                    .Ordered()
            )
            {
                var (signature, reason) = fact switch
                {
                    LimitEntry l => (l.Signature, l.Signature?.Reason),
                    LimitSettlement t => (t.Signature, t.Reason),
                    _ => default,
                };
                foreach (var (kind, was, now) in Laxer(fact.Place()))
                    steps.Add(new(kind, was, now, reason, fact.By?.DisplayName, signature?.SignedBy?.DisplayName, fact.At, false));
            }
            if (Limits is { MachineToDerived: true })
            {
                var stated = Surface.LimitEntries.Select(l => l.RulesId ?? 0).DefaultIfEmpty().Min();
                foreach (var change in Shop.LaxerRules.Where(c => c.Id > stated).OrderBy(c => c.Id))
                    if (
                        LimitsAfter(int.MaxValue, change.Before!) is { } was
                        && LimitsAfter(int.MaxValue, change.After) is { } now
                        && Limits.Margin(Kind, was.MachineTo, now.MachineTo) > Length.Zero
                    )
                        steps.Add(
                            new(
                                LimitKind.MachineTo,
                                was.MachineTo,
                                now.MachineTo,
                                change.Reason,
                                change.By?.DisplayName,
                                change.Signature?.SignedBy?.DisplayName,
                                change.At,
                                true
                            )
                        );
            }
            return steps;
        }
    }

    /// <summary>What a statement that is not stored yet makes laxer: such a one takes a lead's signature.</summary>
    public IReadOnlyList<(LimitKind Kind, Length Was, Length Is)> WouldLoosen(
        LimitKind kind,
        Length value,
        LimitSource source,
        IReadOnlyList<LimitEntry> before
    )
    {
        ArgumentNullException.ThrowIfNull(before);
        var (was, now) = (
            new List<LimitEntry>([.. Surface.LimitEntries, .. before]),
            new List<LimitEntry>([
                .. Surface.LimitEntries,
                .. before,
                new()
                {
                    Kind = kind,
                    Value = value,
                    Source = source,
                    Typed = "",
                },
            ])
        );
        return [.. Compare(Held(was), Held(now))];

        Func<LimitKind, Length?> Held(List<LimitEntry> entries) =>
            asked => HeldOf(Kind, asked, entries, [.. Surface.Settlements.Where(s => before.All(b => b.Kind != s.Kind))])?.Value;
    }

    private IEnumerable<(LimitKind Kind, Length Was, Length Is)> Laxer(int number) =>
        Compare(kind => Held(kind, number - 1)?.Value, kind => Held(kind, number)?.Value);

    private IEnumerable<(LimitKind Kind, Length Was, Length Is)> Compare(Func<LimitKind, Length?> was, Func<LimitKind, Length?> now)
    {
        Length? Of(Func<LimitKind, Length?> held) =>
            Limits.EffectiveMachineTo(Kind, held(LimitKind.Nominal), held(LimitKind.MachineTo), held(LimitKind.Discard), Shop.Rules);
        var (before, after) = (Of(was), Of(now));
        if (was(LimitKind.Discard) is { } d && now(LimitKind.Discard) is { } e && Limits.Margin(Kind, d, e) > Length.Zero)
            yield return (LimitKind.Discard, d, e);
        if (before is { } m && after is { } n && Limits.Margin(Kind, m, n) > Length.Zero)
            yield return (LimitKind.MachineTo, m, n);
    }

    /// <summary>The limits as they were after a numbered fact of the part, by some rules; null where they are missing or contradict one another.</summary>
    private Limits? LimitsAfter(int number, ShopRules rules) =>
        Limits
            .Create(
                Kind,
                Held(LimitKind.Nominal, number)?.Value,
                Held(LimitKind.MachineTo, number)?.Value,
                Held(LimitKind.Discard, number)?.Value,
                rules
            )
            .Limits;

    private IReadOnlyList<LimitEntry> Stated(LimitKind kind, int number) =>
        StatedOf(kind, Surface.LimitEntries.Where(l => l.Place() <= number));

    private LimitSettlement? Settlement(LimitKind kind, int number) =>
        SettlementOf(
            kind,
            [.. Surface.LimitEntries.Where(l => l.Place() <= number)],
            [.. Surface.Settlements.Where(s => s.Place() <= number)]
        );

    private LimitEntry? Held(LimitKind kind, int number) =>
        HeldOf(
            Kind,
            kind,
            [.. Surface.LimitEntries.Where(l => l.Place() <= number)],
            [.. Surface.Settlements.Where(s => s.Place() <= number)]
        );

    private static IReadOnlyList<LimitEntry> StatedOf(LimitKind kind, IEnumerable<LimitEntry> entries) =>
        [.. entries.Where(l => l.Kind == kind).GroupBy(l => l.Source).Select(g => g.Newest()!).OrderBy(l => l.Source)];

    private static LimitSettlement? SettlementOf(LimitKind kind, List<LimitEntry> entries, List<LimitSettlement> settlements) =>
        settlements.Where(s => s.Kind == kind).Newest() is { } settled && entries.All(l => l.Kind != kind || !l.IsAfter(settled))
            ? settled
            : null;

    private static LimitEntry? HeldOf(PartKind part, LimitKind kind, List<LimitEntry> entries, List<LimitSettlement> settlements)
    {
        var stated = StatedOf(kind, entries);
        if (stated.Count == 0)
            return null;
        if (SettlementOf(kind, entries, settlements) is { } settled && entries.Find(l => l.Id == settled.EntryId) is { } chosen)
            return chosen;
        if (kind == LimitKind.Nominal)
            return stated.Newest();
        var strictest = HeldLimit.Strictest(part, stated.Select(l => l.Value));
        return stated.First(l => l.Value == strictest);
    }
}
