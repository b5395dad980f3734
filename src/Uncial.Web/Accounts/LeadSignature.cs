using Microsoft.AspNetCore.Mvc.ModelBinding;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Accounts;

/// <summary>A signature in a transaction that its decision is saved in. Leaving it undone takes it back.</summary>
/// <param name="Ids">Number of the signature for each decision.</param>
/// <param name="SignedById">Who signed.</param>
/// <param name="Transaction">Commit it after the decision is saved.</param>
public sealed record LeadSigned(IReadOnlyList<long> Ids, int SignedById, IDbContextTransaction Transaction) : IAsyncDisposable
{
    /// <summary>The signature, where there is one decision.</summary>
    public long Id => Ids[0];

    public ValueTask DisposeAsync() => Transaction.DisposeAsync();
}

/// <summary>A lead signs with a PIN at whatever enrolled screen the part is on; whoever is signed in there stays so.</summary>
public sealed class LeadSignature(UncialDb db, PinDesk pins, Reader reader, IHttpContextAccessor context)
{
    public const string WhoField = "Lead";
    public const string PinField = "LeadPin";

    /// <summary>Those who may sign, by name.</summary>
    public async Task<IReadOnlyList<Operator>> LeadsAsync(CancellationToken cancel = default) =>
        await db
            .Operators.AsNoTracking()
            .Where(o => o.DisabledAt == null && (o.Role == Roles.Lead || o.Role == Roles.Owner))
            .OrderBy(o => o.DisplayName)
            .ToListAsync(cancel);

    /// <summary>
    /// Asks the database for a lead's signature; what is wrong stands at its field. The PIN is asked for last, so that another field's
    /// fault
    /// does not cost a try.
    /// </summary>
    /// <returns>The signature in its transaction, or null.</returns>
    public Task<LeadSigned?> SignAsync(
        int? who,
        string? pin,
        int? part,
        SignedFor purpose,
        string subject,
        string reason,
        ModelStateDictionary wrong,
        CancellationToken cancel
    ) => SignAsync(who, pin, part, purpose, [subject], reason, wrong, cancel);

    /// <summary>The same for several decisions that are made at once.</summary>
    public async Task<LeadSigned?> SignAsync(
        int? who,
        string? pin,
        int? part,
        SignedFor purpose,
        IReadOnlyList<string> subjects,
        string reason,
        ModelStateDictionary wrong,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(subjects);
        ArgumentNullException.ThrowIfNull(wrong);
        var lead = (await LeadsAsync(cancel)).FirstOrDefault(l => l.Id == who);
        if (lead is null)
        {
            wrong.AddModelError(WhoField, Words.Say("sign.pickWhoSigns"));
            return null;
        }
        if (string.IsNullOrEmpty(pin))
        {
            wrong.AddModelError(PinField, Words.Say("sign.pinOf", lead.DisplayName));
            return null;
        }
        var http = context.HttpContext!;
        List<PinAttempt> attempts = [];
        foreach (var _ in subjects)
        {
            var attempt = await pins.BeginAsync(
                lead.Id,
                pin,
                ScreenCookie.Of(http.Request),
                ScreenCookie.AddressOf(http),
                purpose.ToString(),
                cancel
            );
            if (attempt.Try is null)
            {
                wrong.AddModelError(PinField, Wait(attempt.WaitSeconds));
                return null;
            }
            attempts.Add(attempt);
        }
        var transaction = await db.Database.BeginTransactionAsync(cancel);
        try
        {
            List<long> ids = [];
            foreach (var (subject, attempt) in subjects.Zip(attempts))
                if (await pins.SignAsync(reader.SessionToken, attempt, part, purpose, subject, reason, cancel) is { } id)
                    ids.Add(id);
                else
                    break;
            if (ids.Count == subjects.Count)
                return new(ids, lead.Id, transaction);
            // The miss stays on record; a signature without its decision does not.
            if (ids.Count == 0)
                await transaction.CommitAsync(cancel);
        }
        catch
        {
            await transaction.DisposeAsync();
            throw;
        }
        await transaction.DisposeAsync();
        wrong.AddModelError(PinField, Words.Say("sign.thatIsNotThePin"));
        return null;
    }

    /// <summary>What is said while a PIN has to wait.</summary>
    public static string Wait(int seconds) =>
        seconds < 90
            ? $"Too many misses. Wait {seconds} s, or let a lead unlock it."
            : $"Too many misses. Wait {(seconds + 59) / 60} min, or let a lead unlock it.";
}

/// <summary>The fields in which a lead signs.</summary>
/// <param name="Leads">Those who may.</param>
/// <param name="Who">Who is picked.</param>
/// <param name="WrongWho">What is wrong with the name, or null.</param>
/// <param name="WrongPin">What is wrong with the PIN, or null.</param>
public sealed record LeadFields(IReadOnlyList<Operator> Leads, int? Who, string? WrongWho, string? WrongPin);
