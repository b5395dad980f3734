using Uncial.Core.Lengths;

namespace Uncial.Core.Parts;

/// <summary>What is wrong with a set of limits.</summary>
public enum LimitFault
{
    /// <summary>Neither a discard nor a machine-to limit is known.</summary>
    DiscardMissing,

    /// <summary>Machine-to lies on the wrong side of discard.</summary>
    MachineToPastDiscard,

    /// <summary>New size lies on the wrong side of machine-to.</summary>
    NominalPastMachineTo,

    /// <summary>New size lies on the wrong side of discard.</summary>
    NominalPastDiscard,
}

/// <summary>
/// The limits of one work surface. Rotor, thickness: nominal ≥ machine-to ≥ discard. Drum, diameter: nominal ≤ machine-to ≤ discard.
/// </summary>
public sealed record Limits
{
    private Limits(PartKind kind, Length? nominal, Length machineTo, Length discard, bool machineToDerived, bool discardDerived) =>
        (Kind, Nominal, MachineTo, Discard, MachineToDerived, DiscardDerived) = (
            kind,
            nominal,
            machineTo,
            discard,
            machineToDerived,
            discardDerived
        );

    /// <summary>Rotor (thickness) or drum (diameter).</summary>
    public PartKind Kind { get; }

    /// <summary>Size when new, if known.</summary>
    public Length? Nominal { get; }

    /// <summary>How far machining may go, so that wear is left for the road.</summary>
    public Length MachineTo { get; }

    /// <summary>The size at which the part is scrap.</summary>
    public Length Discard { get; }

    /// <summary>Machine-to was not given but made from discard by the shop's rule.</summary>
    public bool MachineToDerived { get; }

    /// <summary>Discard was not given; machine-to stands in for it, which is the stricter reading.</summary>
    public bool DiscardDerived { get; }

    /// <summary>+1 for a rotor, −1 for a drum: the sign that makes "inside the limit" positive.</summary>
    public static int Sign(PartKind kind) => kind == PartKind.Rotor ? 1 : -1;

    /// <summary>Distance from a size to a limit, positive inside, negative beyond.</summary>
    public static Length Margin(PartKind kind, Length size, Length limit) => kind == PartKind.Rotor ? size - limit : limit - size;

    /// <summary>
    /// Machine-to and discard as they hold a part back, also where they contradict one another: machine-to is then as strict as discard.
    /// Two
    /// states of the same surface are compared by it: which one is laxer.
    /// </summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="nominal">Size when new, or null.</param>
    /// <param name="machineTo">Machine-to, or null: then derived from discard.</param>
    /// <param name="discard">Discard, or null: then machine-to stands in for it.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <returns>Machine-to; null where neither limit is known.</returns>
    public static Length? EffectiveMachineTo(PartKind kind, Length? nominal, Length? machineTo, Length? discard, ShopRules rules)
    {
        ArgumentNullException.ThrowIfNull(rules);
        if ((discard ?? machineTo) is not { } end)
            return null;
        var derived = end + Sign(kind) * rules.Limits.MachineToFromDiscard(kind);
        if (nominal is { } clamp && Margin(kind, clamp, derived) < Length.Zero)
            derived = clamp;
        return HeldLimit.Strictest(kind, [machineTo ?? derived, end]);
    }

    /// <summary>Puts the limits together and derives the one that is missing.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="nominal">Size when new, or null.</param>
    /// <param name="machineTo">Machine-to, or null: then derived from discard by the shop's rule, clamped at nominal.</param>
    /// <param name="discard">Discard, or null: then machine-to stands in for it.</param>
    /// <param name="rules">The shop's rules.</param>
    /// <returns>The limits, or what is wrong with them.</returns>
    public static (Limits? Limits, LimitFault? Fault) Create(
        PartKind kind,
        Length? nominal,
        Length? machineTo,
        Length? discard,
        ShopRules rules
    )
    {
        ArgumentNullException.ThrowIfNull(rules);
        if (discard is null && machineTo is null)
            return (null, LimitFault.DiscardMissing);
        var end = discard ?? machineTo!.Value;
        if (nominal is { } n && Margin(kind, n, end) < Length.Zero)
            return (null, LimitFault.NominalPastDiscard);
        var derived = end + Sign(kind) * rules.Limits.MachineToFromDiscard(kind);
        if (nominal is { } clamp && Margin(kind, clamp, derived) < Length.Zero)
            derived = clamp;
        var target = machineTo ?? derived;
        if (Margin(kind, target, end) < Length.Zero)
            return (null, LimitFault.MachineToPastDiscard);
        if (nominal is { } fresh && Margin(kind, fresh, target) < Length.Zero)
            return (null, LimitFault.NominalPastMachineTo);
        return (new(kind, nominal, target, end, machineTo is null, discard is null), null);
    }
}
