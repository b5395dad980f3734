using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>How far the record has got with a pass, for the lathe's read-out to be held against.</summary>
public enum CutStage
{
    /// <summary>The pass is due and was not started.</summary>
    Ready,

    /// <summary>It was started and not stopped.</summary>
    Cutting,

    /// <summary>It was stopped.</summary>
    Stopped,
}

/// <summary>What the lathe does otherwise than the record says, the most dangerous first.</summary>
public enum ReadOutFault
{
    /// <summary>The feed runs inwards; every cut runs outwards, or out of the drum.</summary>
    FeedsInwards,

    /// <summary>A dial stands deeper than the pass is planned.</summary>
    TooDeep,

    /// <summary>The feed is in, and no pass was started.</summary>
    FeedsUnstarted,

    /// <summary>A pass was started, and the spindle stands.</summary>
    SpindleStands,

    /// <summary>A pass was started and the spindle turns, but the feed is out.</summary>
    FeedOut,

    /// <summary>A dial stands shallower than the pass is planned.</summary>
    TooShallow,
}

/// <summary>Holds what a lathe's read-out says against what the record says is being done.</summary>
/// <param name="Fault">What differs.</param>
/// <param name="Side">The dial that differs, from 0; null where it is none of a dial.</param>
/// <param name="Off">How far that dial is off, above 0; null where it is none of a dial.</param>
public sealed record ReadOutCheck(ReadOutFault Fault, int? Side = null, Length? Off = null)
{
    /// <summary>
    /// The most dangerous thing that the lathe does otherwise; null where they agree. A dial counts where its pass was started or its
    /// feed is in:
    /// before that it is being set.
    /// </summary>
    /// <param name="line">What the read-out says now.</param>
    /// <param name="stage">How far the record has got.</param>
    /// <param name="targets">Where each dial shall stand for the pass, in the order of the read-out's dials.</param>
    /// <param name="division">One division of the dials, above 0: within half of it a dial is where it shall stand.</param>
    public static ReadOutCheck? Of(LatheLine line, CutStage stage, IReadOnlyList<Length> targets, Length division)
    {
        ArgumentNullException.ThrowIfNull(line);
        ArgumentNullException.ThrowIfNull(targets);
        if (line is { Feeds: true, FeedsInwards: true })
            return new(ReadOutFault.FeedsInwards);
        var cuts = stage == CutStage.Cutting || (stage == CutStage.Ready && line.Feeds);
        var off = (cuts ? line.Dials.Zip(targets) : [])
            .Select((d, side) => (Side: side, Position: DialPosition.Of(d.First, d.Second, division)))
            .Where(d => d.Position.ToGo > Length.Zero)
            .OrderByDescending(d => d.Position.ToGo)
            .ToList();
        if (off.Find(d => d.Position.Word == "past") is { Position.ToGo: { } deeper } deep)
            return new(ReadOutFault.TooDeep, deep.Side, deeper);
        if (stage != CutStage.Cutting)
            return line.Feeds ? new(ReadOutFault.FeedsUnstarted) : null;
        if (!line.SpindleTurns)
            return new(ReadOutFault.SpindleStands);
        if (!line.Feeds)
            return new(ReadOutFault.FeedOut);
        return off.Count > 0 ? new(ReadOutFault.TooShallow, off[0].Side, off[0].Position.ToGo) : null;
    }
}
