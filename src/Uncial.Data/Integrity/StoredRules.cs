using System.Globalization;

namespace Uncial.Data.Integrity;

/// <summary>The error codes that the database's guards raise, and the rules that they stand for.</summary>
public static class StoredRules
{
    /// <summary>Codes <c>UN001</c> onwards, in their order.</summary>
    private static readonly StoredRule[] InOrder =
    [
        StoredRule.FactsStay,
        StoredRule.PartHasLeft,
        StoredRule.ScrapReason,
        StoredRule.BeyondDiscardIsScrap,
        StoredRule.AllConfirmed,
        StoredRule.MeasuredSince,
        StoredRule.LeadReleases,
        StoredRule.RefusalReason,
        StoredRule.StoppedPart,
        StoredRule.CutHere,
        StoredRule.ShelfPlace,
        StoredRule.ScrapStays,
        StoredRule.LeadRecalls,
        StoredRule.ReadingsOfFile,
        StoredRule.ReceivedAgain,
        StoredRule.LimitOfSource,
        StoredRule.LeadLoosens,
        StoredRule.OwnerSetsRules,
        StoredRule.LimitsChangedSince,
        StoredRule.WithdrawalReason,
        StoredRule.ReadAgainFirst,
        StoredRule.LeadWithdraws,
        StoredRule.LeadTakesBack,
        StoredRule.LeadSignsFirstPass,
        StoredRule.JobNumber,
        StoredRule.SuspectByCheck,
        StoredRule.NotLookedAt,
        StoredRule.PlanOutdated,
        StoredRule.NoNegativeRule,
        StoredRule.LookedAtBeforeStart,
        StoredRule.EyesToday,
        StoredRule.LeadSetsHours,
        StoredRule.OwnerSetsDays,
        StoredRule.PinOfPartHere,
        StoredRule.UsableHours,
        StoredRule.GaugeTakenOver,
    ];

    /// <summary>The rule that an error code stands for; null for any other code.</summary>
    public static StoredRule? Of(string? code) =>
        code is ['U', 'N', .. var digits]
        && int.TryParse(digits, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        && number >= 1
        && number <= InOrder.Length
            ? InOrder[number - 1]
            : null;

    /// <summary>The error code of a rule.</summary>
    public static string CodeOf(StoredRule rule) => FormattableString.Invariant($"UN{Array.IndexOf(InOrder, rule) + 1:000}");
}
