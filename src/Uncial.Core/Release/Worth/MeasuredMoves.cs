namespace Uncial.Core.Release;

/// <summary>What may be done with a part once it is measured.</summary>
public enum MeasuredMove
{
    /// <summary>Read where it tells most: the readings do not decide yet.</summary>
    ReadMore,

    /// <summary>Measure the other part of the axle first: both are mounted one after the other.</summary>
    MeasureOther,

    /// <summary>Mount it, to be cut.</summary>
    Mount,

    /// <summary>Leave it as it is, without a cut.</summary>
    Leave,

    /// <summary>Take the glaze off and leave the grooves.</summary>
    Scuff,

    /// <summary>Lay it on the shelf as a spare.</summary>
    Shelve,

    /// <summary>Scrap it.</summary>
    Scrap,
}

/// <summary>What is known besides whether it is worth cutting.</summary>
/// <param name="TooClose">A limit lies within the uncertainty of the worst reading.</param>
/// <param name="ReadingMoreHelps">A reading more may still decide it.</param>
/// <param name="ShapeIsOver">
/// It varies, runs out or tapers by more than the limit book allows, or the shop where the book is silent: left uncut it goes on doing so.
/// </param>
/// <param name="ScuffAllowed">It may leave scuffed as far as size and the grooves that were looked for go.</param>
/// <param name="GroovesLookedAt">Somebody has looked for grooves on every side.</param>
/// <param name="OtherIsNext">The other part of the axle waits to be measured.</param>
public readonly record struct MeasuredFacts(
    bool TooClose,
    bool ReadingMoreHelps,
    bool ShapeIsOver,
    bool ScuffAllowed,
    bool GroovesLookedAt = true,
    bool OtherIsNext = false
);

/// <summary>Orders what may be done with a measured part by what its readings say.</summary>
public static class MeasuredMoves
{
    /// <summary>
    /// What the rules allow, the best first. Mounting stands last where nothing speaks for a cut: it stays an exception that somebody
    /// may make. A part that is surely beyond discard is scrapped, and nothing else.
    /// </summary>
    /// <param name="word">Whether it is worth cutting.</param>
    /// <param name="facts">What else is known.</param>
    public static IReadOnlyList<MeasuredMove> Of(WorthWord word, MeasuredFacts facts)
    {
        if (word == WorthWord.Beyond)
            return [MeasuredMove.Scrap];
        // What scuffing leaves is known only where somebody has looked for grooves.
        MeasuredMove[] uncut =
            !facts.ScuffAllowed ? [MeasuredMove.Leave]
            : facts.GroovesLookedAt ? [MeasuredMove.Scuff, MeasuredMove.Leave]
            : [MeasuredMove.Leave, MeasuredMove.Scuff];
        IEnumerable<MeasuredMove> moves = word switch
        {
            WorthWord.Cut => [MeasuredMove.Mount, MeasuredMove.Leave, .. uncut.Except([MeasuredMove.Leave])],
            WorthWord.Leave => [MeasuredMove.Leave, .. uncut.Except([MeasuredMove.Leave]), MeasuredMove.Mount],
            WorthWord.TooShortALife or WorthWord.NewPartIsCheaper => [MeasuredMove.Scrap, .. uncut, MeasuredMove.Mount],
            // Such a shape is put right by a cut alone, and there is none: a new part.
            _ when facts.ShapeIsOver => [MeasuredMove.Scrap, .. uncut, MeasuredMove.Mount],
            _ => [.. uncut, MeasuredMove.Shelve, MeasuredMove.Scrap, MeasuredMove.Mount],
        };
        // A drum below the shop's floor is not started by anybody.
        if (word == WorthWord.BelowFloor)
            moves = moves.Where(m => m != MeasuredMove.Mount);
        // Both of an axle are measured before one goes on the lathe; what else becomes of this one may be decided at once.
        if (facts.OtherIsNext)
            moves = word == WorthWord.Cut ? [MeasuredMove.MeasureOther, .. moves] : [.. moves, MeasuredMove.MeasureOther];
        return facts is { TooClose: true, ReadingMoreHelps: true } ? [MeasuredMove.ReadMore, .. moves] : [.. moves];
    }
}
