using Uncial.Core.Lengths;

namespace Uncial.Core;

/// <content>Notes of planning.</content>
public abstract partial record Note
{
    /// <summary>A side would stay dark.</summary>
    public sealed record StaysDark(Length By, string Face) : Note(length: By, subject: Face);

    /// <summary>A pass is shallower than the technique.</summary>
    public sealed record PassShallow(Length Depth, Length Least, string Pass) : Note(length: Depth, second: Least, subject: Pass);

    /// <summary>A pass is deeper than the technique.</summary>
    public sealed record PassDeep(Length Depth, Length Most, string Pass) : Note(length: Depth, second: Most, subject: Pass);

    /// <summary>Turned round for its second face it may vary.</summary>
    public sealed record TurnedRound(Length? Runout) : Note(length: Runout);

    /// <summary>Takes more than another technique would.</summary>
    public sealed record MoreThanNeeded(Length Over, Length? Least, string Technique)
        : Note(length: Over, second: Least, subject: Technique);

    /// <summary>Can be started, and will hardly come clean.</summary>
    public sealed record ShortAtCheckpoint(Length Lacking) : Note(length: Lacking);

    /// <summary>Nobody measured a run-out: the first pass shows it.</summary>
    public sealed record ProbeExpects(Length Expected, Length Most) : Note(length: Expected, second: Most);

    /// <summary>Nothing more can be cut safely.</summary>
    public sealed record NoWayOn(Length? Needed, Length? Available) : Note(length: Needed, second: Available);

    /// <summary>What will be left to machine-to.</summary>
    public sealed record WillBeLeft(Length Left) : Note(length: Left);

    /// <summary>A lead signed for a first pass that could end past machine-to.</summary>
    public sealed record SignedByLead(string Reason) : Note(subject: Reason);

    /// <summary>Planned anew for another division of the dial.</summary>
    public sealed record DialChanged(Length Was, Length Is) : Note(length: Was, second: Is);

    /// <summary>Something that the plan rested on has changed; the name of a <c>PlanChange</c>.</summary>
    public sealed record PlanOutlived(string Change) : Note(subject: Change);
}
