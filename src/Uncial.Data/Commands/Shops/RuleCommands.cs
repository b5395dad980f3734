using Uncial.Core;
using Uncial.Core.Planning;
using Uncial.Core.Times;

namespace Uncial.Data.Commands;

/// <summary>What a shop prefers; none of it is a rule that a judgement rests on.</summary>
/// <param name="Technique">Key of the technique that is tried first.</param>
/// <param name="TimeZone">Name of its time zone; null for that of the server.</param>
/// <param name="DateStyle">How dates and times are written.</param>
/// <param name="Address">Where it is found on the network; null for what the server was started with.</param>
/// <param name="LockAfterMinutes">A screen that nobody has touched for so long is locked; null for never.</param>
public sealed record ShopPreferences(string Technique, string? TimeZone, DateStyle DateStyle, string? Address, int? LockAfterMinutes);

/// <summary>The rules of the shop are changed.</summary>
public static class RuleCommands
{
    /// <summary>
    /// Puts rules in force; those that derive a laxer machine-to take a signature and a reason. The database writes them to the shop.
    /// </summary>
    /// <param name="action">The action.</param>
    /// <param name="shop">The shop, tracked.</param>
    /// <param name="rules">The rules that are to hold.</param>
    /// <param name="preferences">What the shop prefers beside them.</param>
    /// <param name="reason">Why they are made laxer.</param>
    /// <param name="typed">The signature as typed.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Refusal?> KeepAsync(
        ShopAction action,
        Shop shop,
        ShopRules rules,
        ShopPreferences preferences,
        string? reason,
        SignatureTyped typed,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(shop);
        ArgumentNullException.ThrowIfNull(rules);
        ArgumentNullException.ThrowIfNull(preferences);
        if (!action.Actor.IsAtLeast(Role.Owner))
            return new Refusal.NeedsRole(Role.Owner);
        if (action.Seen != shop.Turn)
            return new Refusal.Outdated(null);
        LeadSigned? signed = null;
        if (rules.Limits.DeriveLaxerThan(shop.Rules.Limits))
        {
            if (Text.Trimmed(reason) is null)
                return new Refusal.Missing(Answer.Reason);
            var given = await action.Db.SignAsync(
                typed,
                new(null, SignedFor.LaxerRules, [Signature.OfRules(shop.RulesId)], reason!),
                cancel
            );
            if (given.Refusal is { } unsigned)
                return unsigned;
            signed = given.Value;
        }
        await using var transaction = signed?.Transaction ?? await action.Db.Database.BeginTransactionAsync(cancel);
        if (rules != shop.Rules)
            action.Db.RuleChanges.Add(
                new()
                {
                    After = rules,
                    Reason = signed is null ? null : Text.Trimmed(reason),
                    SignatureId = signed?.Id,
                    At = action.Actor.At,
                    ById = action.Actor.Id,
                }
            );
        (shop.DefaultTechnique, shop.TimeZone) = (preferences.Technique, preferences.TimeZone);
        (shop.DateStyle, shop.Address) = (preferences.DateStyle, preferences.Address);
        shop.LockAfterMinutes = preferences.LockAfterMinutes;
        shop.Turn++;
        if (await action.Db.TrySaveAsync(cancel) is { } refusal)
            return refusal;
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>Enters a technique of the shop's own or changes it.</summary>
    /// <param name="action">The action.</param>
    /// <param name="shop">The shop, with its techniques.</param>
    /// <param name="technique">The technique; null for a new one.</param>
    /// <param name="spec">What it is.</param>
    /// <param name="retired">It is not used any more.</param>
    /// <param name="cancel">Cancels.</param>
    public static Task<Result<ShopTechnique>> KeepTechniqueAsync(
        ShopAction action,
        Shop shop,
        ShopTechnique? technique,
        Technique spec,
        bool retired,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(shop);
        return action.RunAsync<ShopTechnique>(
            Role.Owner,
            technique?.Turn ?? 0,
            () =>
            {
                if (technique is null)
                    shop.OwnTechniques.Add(technique = new() { ShopId = shop.Id, Spec = spec });
                technique.Spec = spec;
                technique.RetiredAt = retired ? technique.RetiredAt ?? action.Actor.At : null;
                technique.Turn++;
                return technique;
            },
            cancel
        );
    }
}
