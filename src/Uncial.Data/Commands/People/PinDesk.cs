using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;

namespace Uncial.Data.Commands;

/// <summary>A PIN that is being tried: counted already, judged once.</summary>
/// <param name="Try">Number of the try; null where it has to wait.</param>
/// <param name="Pin">What was typed.</param>
/// <param name="Nonce">Goes into the hash that names the PIN.</param>
/// <param name="WaitSeconds">Seconds until the next try is taken; 0 where this one was.</param>
public sealed record PinAttempt(long? Try, string Pin, byte[] Nonce, int WaitSeconds);

/// <summary>Somebody who is signed in at a screen.</summary>
public sealed record SignedIn(long Session, int Operator, string Name, string Role, int Screen, string ScreenName);

/// <summary>What became of an act on a person's account.</summary>
public enum PeopleResult
{
    Done,
    SignedOut,
    NotAllowed,
    WrongPin,
    WeakPin,
    NoName,
    NotFound,
    LastOwner,
}

/// <summary>
/// Asks the database to check PINs, sessions and screens. The hashes are out of the application's reach: it hands over what was typed and
/// gets an answer. See docs/security.md for why a try is counted in a transaction of its own.
/// </summary>
public sealed class PinDesk(UncialDb db)
{
    private const int LongestPin = 8;

    private sealed record BegunTry(long? Try, int? Wait);

    private sealed record FoundSession(long? Session, int? Operator, string? Name, string? Role, int? Screen, string? ScreenName);

    private sealed record Founded(string? ScreenToken, string? Token, string? Refusal);

    /// <summary>Counts a try. Must run outside any transaction, so that it stays counted.</summary>
    public async Task<PinAttempt> BeginAsync(
        int person,
        string pin,
        string? screenToken,
        string? address,
        string purpose,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(pin);
        if (db.Database.CurrentTransaction is not null)
            throw new InvalidOperationException("A PIN is tried outside any transaction.");
        var typed = pin.Length > LongestPin ? pin[..LongestPin] + "…" : pin.Replace("\0", "", StringComparison.Ordinal);
        var nonce = RandomNumberGenerator.GetBytes(16);
        var commitment = SHA256.HashData([.. nonce, .. Encoding.UTF8.GetBytes(typed)]);
        var begun = await db
            .Database.SqlQuery<BegunTry>(
                $"select t.try, t.wait from begin_try({person}, {screenToken ?? ""}, {address}, {commitment}, {purpose}) t"
            )
            .SingleAsync(cancel);
        return new(begun.Try, typed, nonce, begun.Try is null ? Math.Max(1, begun.Wait ?? 1) : 0);
    }

    /// <summary>Whether a screen's token is of an enrolled one.</summary>
    public async Task<bool> IsEnrolledAsync(string? screenToken, CancellationToken cancel) =>
        screenToken is not null && await db.Database.SqlQuery<bool>($"select is_enrolled({screenToken}) as \"Value\"").SingleAsync(cancel);

    /// <summary>Signs in at an enrolled screen.</summary>
    /// <returns>The token of the session, or null where the PIN is wrong or the screen is not enrolled.</returns>
    public async Task<string?> SignInAsync(PinAttempt attempt, string screenToken, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        return await db
            .Database.SqlQuery<string?>($"select sign_in({attempt.Try}, {attempt.Pin}, {attempt.Nonce}, {screenToken}) as \"Value\"")
            .SingleAsync(cancel);
    }

    /// <summary>Whose session a token is of; null for none that is open.</summary>
    public async Task<SignedIn?> SessionAsync(string token, CancellationToken cancel)
    {
        var s = await db
            .Database.SqlQuery<FoundSession>(
                $"select s.session, s.operator, s.name, s.role, s.screen, s.screen_name from session_of({token}) s"
            )
            .SingleAsync(cancel);
        return s is { Session: { } session, Operator: { } person, Name: { } name, Role: { } role, Screen: { } screen }
            ? new(session, person, name, role, screen, s.ScreenName ?? "")
            : null;
    }

    public Task SignOutAsync(string token, CancellationToken cancel) => db.Database.ExecuteSqlAsync($"select sign_out({token})", cancel);

    /// <summary>Asks for a lead's signature, in the transaction of the decision that rests on it.</summary>
    /// <returns>Its number, or null where the PIN is wrong.</returns>
    public async Task<long?> SignAsync(
        string token,
        PinAttempt attempt,
        int? part,
        SignedFor purpose,
        string subject,
        string reason,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(attempt);
        if (db.Database.CurrentTransaction is null)
            throw new InvalidOperationException("A signature is of the transaction of its decision.");
        var name = purpose.ToString();
        return await db
            .Database.SqlQuery<long?>(
                $"""
                select give_signature({token}, {attempt.Try}, {attempt.Pin}, {attempt.Nonce}, {part}, {name}, {subject}, {reason})
                    as "Value"
                """
            )
            .SingleAsync(cancel);
    }

    /// <summary>Enrols a screen by a lead's PIN.</summary>
    /// <returns>The token that the screen keeps, or null.</returns>
    public async Task<string?> EnrolAsync(PinAttempt attempt, string name, string? address, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        return await db
            .Database.SqlQuery<string?>(
                $"select enrol_screen({attempt.Try}, {attempt.Pin}, {attempt.Nonce}, {name}, {address}) as \"Value\""
            )
            .SingleAsync(cancel);
    }

    /// <summary>Enrols a screen of the demo; null in a shop that is none.</summary>
    public async Task<string?> EnrolForDemoAsync(string? address, CancellationToken cancel) =>
        await db.Database.SqlQuery<string?>($"select enrol_demo_screen({address}) as \"Value\"").SingleAsync(cancel);

    /// <summary>The first to come to an empty shop becomes its owner.</summary>
    /// <returns>Tokens of screen and session, or what was refused: <c>weakPin</c> or <c>notEmpty</c>.</returns>
    public async Task<(string? ScreenToken, string? Token, string? Refusal)> FoundAsync(
        string shop,
        string owner,
        string pin,
        string? address,
        CancellationToken cancel
    )
    {
        var f = await db
            .Database.SqlQuery<Founded>($"select f.screen_token, f.token, f.refusal from found_shop({shop}, {owner}, {pin}, {address}) f")
            .SingleAsync(cancel);
        return (f.ScreenToken, f.Token, f.Refusal);
    }

    /// <summary>Does something to an account. Where it takes the own PIN, an attempt for it comes along.</summary>
    public async Task<PeopleResult> ManageAsync(
        string token,
        PinAttempt? attempt,
        PeopleAct act,
        int? target,
        string? name,
        string? role,
        string? newPin,
        CancellationToken cancel
    )
    {
        var (what, nonce) = (act.ToString(), attempt?.Nonce ?? []);
        var result = await db
            .Database.SqlQuery<string>(
                $"""
                select manage_person({token}, {attempt?.Try}, {attempt?.Pin}, {nonce}, {what}, {target}, {name}, {role}, {newPin})
                    as "Value"
                """
            )
            .SingleAsync(cancel);
        return Enum.Parse<PeopleResult>(result, ignoreCase: true);
    }

    /// <summary>Says at which lathe a screen stands; null for none.</summary>
    public async Task<PeopleResult> PinScreenAsync(string token, int screen, int? lathe, CancellationToken cancel) =>
        Enum.Parse<PeopleResult>(
            await db.Database.SqlQuery<string>($"select pin_screen({token}, {screen}, {lathe}) as \"Value\"").SingleAsync(cancel),
            ignoreCase: true
        );

    /// <summary>A screen signs nobody in any more.</summary>
    public async Task<PeopleResult> RetireScreenAsync(string token, int screen, CancellationToken cancel) =>
        Enum.Parse<PeopleResult>(
            await db.Database.SqlQuery<string>($"select retire_screen({token}, {screen}) as \"Value\"").SingleAsync(cancel),
            ignoreCase: true
        );
}
