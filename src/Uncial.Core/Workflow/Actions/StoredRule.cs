namespace Uncial.Core.Workflow;

/// <summary>A rule that the stored facts keep, whoever writes them.</summary>
public enum StoredRule
{
    /// <summary>Facts are added, never changed.</summary>
    FactsStay,

    /// <summary>Nothing is added to a part that has left.</summary>
    PartHasLeft,

    /// <summary>Scrapping takes a reason.</summary>
    ScrapReason,

    /// <summary>A part beyond discard leaves only as scrap.</summary>
    BeyondDiscardIsScrap,

    /// <summary>Every surface is confirmed before the part is released.</summary>
    AllConfirmed,

    /// <summary>It was measured again after it was confirmed.</summary>
    MeasuredSince,

    /// <summary>Between the limits only a lead releases.</summary>
    LeadReleases,

    /// <summary>Refusing takes a reason.</summary>
    RefusalReason,

    /// <summary>A part with a crack, or one that must not be turned, is scrapped or refused.</summary>
    StoppedPart,

    /// <summary>What was cut here is not refused.</summary>
    CutHere,

    /// <summary>Shelving takes a place and a preservative.</summary>
    ShelfPlace,

    /// <summary>Scrap is never recalled.</summary>
    ScrapStays,

    /// <summary>Only a lead recalls a part.</summary>
    LeadRecalls,

    /// <summary>Readings that came with a file release no part.</summary>
    ReadingsOfFile,

    /// <summary>The part was received again since.</summary>
    ReceivedAgain,

    /// <summary>A limit of the book or of the visit before is repeated as it stands.</summary>
    LimitOfSource,

    /// <summary>A laxer limit takes a lead's signature.</summary>
    LeadLoosens,

    /// <summary>The owner changes the rules of the shop.</summary>
    OwnerSetsRules,

    /// <summary>Limits or rules were changed after it was confirmed.</summary>
    LimitsChangedSince,

    /// <summary>A reading is withdrawn with a reason.</summary>
    WithdrawalReason,

    /// <summary>A reading that decides is read again before it is withdrawn.</summary>
    ReadAgainFirst,

    /// <summary>A lead withdraws a reading beyond discard.</summary>
    LeadWithdraws,

    /// <summary>A lead takes a crack back.</summary>
    LeadTakesBack,

    /// <summary>A lead signs for a first pass that could end past machine-to.</summary>
    LeadSignsFirstPass,

    /// <summary>A job number has up to seven digits.</summary>
    JobNumber,

    /// <summary>A reading is made suspect by a check that its gauge failed.</summary>
    SuspectByCheck,

    /// <summary>Grooves or low lands were not inspected.</summary>
    NotLookedAt,

    /// <summary>The plan rests on what is not so any more.</summary>
    PlanOutdated,

    /// <summary>No rule of the shop is negative.</summary>
    NoNegativeRule,

    /// <summary>Locks, lever and damping are looked at before each start.</summary>
    LookedAtBeforeStart,

    /// <summary>Eyes, guard and sleeves are seen to once for each person, lathe and day.</summary>
    EyesToday,

    /// <summary>A lead sets the hours of a single day.</summary>
    LeadSetsHours,

    /// <summary>The owner settles hours, breaks and times of the shop's days.</summary>
    OwnerSetsDays,

    /// <summary>Only a part that is in the shop is pinned on the board.</summary>
    PinOfPartHere,

    /// <summary>Settled hours are those of seven days, minutes lie within their range.</summary>
    UsableHours,

    /// <summary>A reading that a gauge sent is stored by the instance that is connected to it now.</summary>
    GaugeTakenOver,
}
