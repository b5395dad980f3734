using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Core.Lengths;
using Uncial.Practice.Drills;

namespace Uncial.Data.Practice;

/// <summary>Why something of practice is not done.</summary>
public enum PracticeRefusal
{
    /// <summary>More guests or drills than one address or person may begin.</summary>
    TooMany,
}

/// <summary>What becomes of an answer.</summary>
/// <param name="Marked">How it was marked; null where it could not be read.</param>
/// <param name="Fault">What is wrong with a size that was typed.</param>
/// <param name="NotOffered">It is none of the choices.</param>
public sealed record AnswerGiven(Marked? Marked, LengthFault? Fault = null, bool NotOffered = false);

/// <summary>Who practises, and the drills that they go through.</summary>
public sealed class PracticeDesk(PracticeDb db, TimeProvider time)
{
    private const string Quota = "UP011",
        OutOfOrder = "UP012";

    /// <summary>How long a guest and the guest's results are kept.</summary>
    public static TimeSpan GuestsStay { get; } = TimeSpan.FromHours(12);

    /// <summary>The guest of a token, or null.</summary>
    public async Task<Learner?> GuestAsync(string? token, CancellationToken cancel)
    {
        if (token is not { Length: > 0 and <= 100 })
            return null;
        var (hash, now) = (Hash(token), time.GetUtcNow());
        return await db.Learners.AsNoTracking().SingleOrDefaultAsync(l => l.TokenHash == hash && l.ExpiresAt > now, cancel);
    }

    /// <summary>A new guest, with the token that stays with them.</summary>
    public async Task<(Learner? Guest, string Token, PracticeRefusal? Refusal)> NewGuestAsync(string? address, CancellationToken cancel)
    {
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        var now = time.GetUtcNow();
        Learner guest = new()
        {
            TokenHash = Hash(token),
            Address = address,
            CreatedAt = now,
            ExpiresAt = now + GuestsStay,
        };
        db.Learners.Add(guest);
        return await SaveAsync(cancel) ? (guest, token, null) : (null, "", PracticeRefusal.TooMany);
    }

    /// <summary>The person of the shop who practises under the own name.</summary>
    public async Task<Learner> MemberAsync(int operatorId, string name, CancellationToken cancel)
    {
        if (await db.Learners.AsNoTracking().SingleOrDefaultAsync(l => l.OperatorId == operatorId, cancel) is { } known)
            return known;
        db.Learners.Add(
            new()
            {
                OperatorId = operatorId,
                Name = name,
                CreatedAt = time.GetUtcNow(),
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            // Two pages of one person at once: the other made the row.
        }
        db.ChangeTracker.Clear();
        return await db.Learners.AsNoTracking().SingleAsync(l => l.OperatorId == operatorId, cancel);
    }

    /// <summary>Begins a drill.</summary>
    public async Task<(DrillRun? Run, PracticeRefusal? Refusal)> BeginAsync(Learner learner, DrillKind kind, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(learner);
        DrillRun run = new()
        {
            LearnerId = learner.Id,
            Kind = kind,
            Seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
            StartedAt = time.GetUtcNow(),
        };
        db.DrillRuns.Add(run);
        return await SaveAsync(cancel) ? (run, null) : (null, PracticeRefusal.TooMany);
    }

    /// <summary>A drill of somebody with its answers, or null where it is nobody's or another's.</summary>
    public async Task<DrillRun?> RunAsync(Learner? learner, long id, CancellationToken cancel) =>
        learner is null
            ? null
            : await db
                .DrillRuns.AsNoTracking()
                .Include(r => r.Answers.OrderBy(a => a.Number))
                .SingleOrDefaultAsync(r => r.Id == id && r.LearnerId == learner.Id, cancel);

    /// <summary>Every drill of somebody, the newest first.</summary>
    public async Task<IReadOnlyList<DrillRun>> RunsAsync(Learner? learner, CancellationToken cancel) =>
        learner is null
            ? []
            : await db
                .DrillRuns.AsNoTracking()
                .Include(r => r.Answers)
                .Where(r => r.LearnerId == learner.Id)
                .OrderByDescending(r => r.StartedAt)
                .Take(200)
                .ToListAsync(cancel);

    /// <summary>
    /// Marks the answer to the item that comes next and keeps it. An item that was answered meanwhile keeps its first answer.
    /// </summary>
    /// <param name="run">The drill.</param>
    /// <param name="number">The item that was answered.</param>
    /// <param name="text">As typed, or the number of the choice from 1 on.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<AnswerGiven> AnswerAsync(DrillRun run, int number, string text, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        ArgumentNullException.ThrowIfNull(text);
        if (run.Answers.Find(a => a.Number == number) is { } kept)
            return new(new(kept.IsRight, kept.Cause));
        var given = Mark(run.Item(number), text);
        if (given.Marked is not { } marked)
            return given;
        db.DrillAnswers.Add(
            new()
            {
                RunId = run.Id,
                Number = number,
                Text = text.Trim(),
                IsRight = marked.IsRight,
                Cause = marked.Cause,
                OffMm = marked.Off?.Millimetres,
                At = time.GetUtcNow(),
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e)
            when (e.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation or OutOfOrder })
        {
            db.ChangeTracker.Clear();
        }
        return given;
    }

    /// <summary>Removes somebody's practice for good.</summary>
    public async Task RemoveAsync(Learner learner, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(learner);
        await db.Database.ExecuteSqlAsync($"select practice.remove_learner({learner.Id})", cancel);
    }

    /// <summary>Removes guests whose time is over.</summary>
    public async Task RemoveExpiredAsync(CancellationToken cancel) =>
        await db.Database.ExecuteSqlRawAsync("select practice.remove_expired()", cancel);

    private static AnswerGiven Mark(DrillItem item, string text)
    {
        if (item is ChoiceItem choice)
            return
                int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var picked)
                && picked >= 1
                && picked <= choice.Choices.Count
                ? new(choice.Mark(picked - 1))
                : new(null, NotOffered: true);
        var size = (SizeItem)item;
        var result = LengthParser.Parse(text, size.Unit, allowZero: true);
        return result.Typed is { } typed ? new(size.Mark(typed.Value)) : new(null, result.Fault);
    }

    /// <summary>Saves; false where the database says that it is too much.</summary>
    private async Task<bool> SaveAsync(CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
            return true;
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: Quota })
        {
            db.ChangeTracker.Clear();
            return false;
        }
    }

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));
}
