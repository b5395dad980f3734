using Uncial.Practice.Drills;
using Uncial.Practice.Lessons;

namespace Uncial.Practice.Debriefs;

/// <summary>What a line of a debrief is about.</summary>
public enum DebriefOf
{
    /// <summary>A limit that was entered.</summary>
    Limit,

    /// <summary>A reading.</summary>
    Reading,

    /// <summary>What was found, and what there was to find.</summary>
    Findings,

    /// <summary>The set-up that was accepted.</summary>
    SetUp,

    /// <summary>Metal taken over what the part needed.</summary>
    Metal,

    /// <summary>The face as it was left.</summary>
    Face,

    /// <summary>The verdict.</summary>
    Verdict,
}

/// <summary>What most likely led to a step that is off.</summary>
public enum JobCause
{
    /// <summary>Nothing is off.</summary>
    None,

    /// <summary>The scale was misread: see the cause of the reading.</summary>
    ScaleMisread,

    /// <summary>Across the rust ridge.</summary>
    OnTheRidge,

    /// <summary>Not at the turning point.</summary>
    NotRocked,

    /// <summary>Screwed on beyond the touch, or not down to it.</summary>
    NotByTheRatchet,

    /// <summary>Every reading is off by as much: the datum was shifted and nobody checked it.</summary>
    DatumNotChecked,

    /// <summary>The part was still warm from the cut.</summary>
    WarmPart,

    /// <summary>The limit of the other kind.</summary>
    OtherLimit,

    /// <summary>The figure of the other unit.</summary>
    OtherUnit,

    /// <summary>Rounded to the unsafe side, or misread.</summary>
    LimitMisread,

    /// <summary>No limit was entered.</summary>
    LimitMissing,

    /// <summary>A crack was there and was not found.</summary>
    CrackOverlooked,

    /// <summary>A crack was reported where there is none.</summary>
    CrackImagined,

    /// <summary>Cut with a wobble of the set-up.</summary>
    WobbleAccepted,

    /// <summary>Nobody looked whether the set-up is true.</summary>
    SetUpNotChecked,

    /// <summary>More metal than it needed.</summary>
    TooMuchMetal,

    /// <summary>Cut although nothing was to be cured, or nothing could be.</summary>
    CutForNothing,

    /// <summary>The part was ruined.</summary>
    Ruined,

    /// <summary>Released while not clean.</summary>
    LeftDark,

    /// <summary>The verdict does not follow from the trainee's own readings and limits.</summary>
    VerdictAgainstOwnData,

    /// <summary>A verdict without a finding, or without a reading since the last cut and a limit.</summary>
    NothingToGoBy,

    /// <summary>The verdict follows from readings or limits that were off.</summary>
    FollowsFromBefore,

    /// <summary>Nothing that is known explains it.</summary>
    Unknown,
}

/// <summary>A line of a debrief: what the trainee had, what was true, and why they differ.</summary>
/// <param name="Of">What it is about.</param>
/// <param name="Skill">The skill that it counts for.</param>
/// <param name="Step">The step of the job, from 0 on; the last one for what the whole job came to.</param>
/// <param name="Yours">What the trainee had, mm; null where it is no size.</param>
/// <param name="True">What was true, mm.</param>
/// <param name="Share">How right it was, 0 … 1; null for what is told and does not count.</param>
/// <param name="Cause">What most likely led to it.</param>
/// <param name="Misread">How a scale was misread.</param>
public sealed record DebriefLine(
    DebriefOf Of,
    Skill Skill,
    int Step,
    double? Yours,
    double? True,
    double? Share,
    JobCause Cause,
    Causes.MistakeCause Misread = Causes.MistakeCause.None
)
{
    /// <summary>The work surface that it is about, from 1 on; the part as a whole for a verdict.</summary>
    public int Surface { get; init; } = 1;
}

/// <summary>What the part would have done on the road, or cost.</summary>
public enum Outcome
{
    /// <summary>The right thing was done.</summary>
    Right,

    /// <summary>A part beyond discard, or cracked, went back on a vehicle.</summary>
    WouldHaveFailed,

    /// <summary>A good part was scrapped.</summary>
    GoodPartScrapped,

    /// <summary>Metal went that need not have gone.</summary>
    MetalWasted,

    /// <summary>It went out as it should not have: not clean, or without the lead that it needed.</summary>
    NotAsItShould,

    /// <summary>The decision happens to be right; nothing that was looked at or read says so.</summary>
    Guessed,

    /// <summary>It was not ended.</summary>
    NotEnded,
}
