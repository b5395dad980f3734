using System.Globalization;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;

namespace Uncial.Data.Practice;

/// <summary>Why nothing was done at the bench.</summary>
public enum BenchRefusal
{
    /// <summary>Something else was done meanwhile, on another screen.</summary>
    Overtaken,

    /// <summary>The trainee has decided.</summary>
    IsOver,

    /// <summary>More than anybody does in one job, or begins in a day.</summary>
    TooMany,
}

/// <summary>Attempts at lessons: beginning one, what is done at its bench, and the decision that ends it.</summary>
public sealed class AttemptDesk(PracticeDb db, TimeProvider time)
{
    private const string Quota = "UP011",
        IsOver = "UP013",
        ClassClosed = "UP021",
        OnlyOnce = "UP024",
        Overtaken = "UP014";

    /// <summary>Begins a lesson, with a shop of its own.</summary>
    /// <param name="learner">Who practises.</param>
    /// <param name="lesson">The lesson.</param>
    /// <param name="text">Its file.</param>
    /// <param name="names">What things are called.</param>
    /// <param name="seed">The part of an earlier attempt; null for one of its own.</param>
    /// <param name="classId">The class that it is worked for, which has a part and a file of its own; null for none.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<Attempt?> BeginAsync(
        Learner learner,
        Lesson lesson,
        string text,
        AttemptNames names,
        long? seed,
        int? classId,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(learner);
        ArgumentNullException.ThrowIfNull(lesson);
        Attempt attempt = new()
        {
            LearnerId = learner.Id,
            LessonId = lesson.Id,
            LessonText = text,
            Seed = seed ?? BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
            StartedAt = time.GetUtcNow(),
            ClassId = classId,
        };
        db.Attempts.Add(attempt);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException e) when (e.InnerException is PostgresException { SqlState: Quota or ClassClosed or OnlyOnce })
        {
            db.ChangeTracker.Clear();
            return null;
        }
        if (classId is not null)
            // The class has given it its file and its part.
            await db.Entry(attempt).ReloadAsync(cancel);
        await using var shop = PracticeShop.Open(db.Database.GetConnectionString()!, attempt.Id);
        await AttemptShop.FoundAsync(shop, attempt, names, attempt.StartedAt, cancel);
        return attempt;
    }

    /// <summary>An attempt of somebody with its steps, or null where it is nobody's or another's.</summary>
    public async Task<Attempt?> AttemptAsync(Learner? learner, long id, CancellationToken cancel) =>
        learner is null
            ? null
            : await db
                .Attempts.AsNoTracking()
                .Include(a => a.Class)
                .Include(a => a.Steps.OrderBy(s => s.Number))
                .SingleOrDefaultAsync(a => a.Id == id && a.LearnerId == learner.Id, cancel);

    /// <summary>Every attempt of somebody without its steps, the newest first.</summary>
    public async Task<IReadOnlyList<Attempt>> AttemptsAsync(Learner? learner, CancellationToken cancel) =>
        learner is null
            ? []
            : await db
                .Attempts.AsNoTracking()
                .Include(a => a.Class)
                .Where(a => a.LearnerId == learner.Id)
                .OrderByDescending(a => a.StartedAt)
                .Take(200)
                .ToListAsync(cancel);

    /// <summary>The attempts of somebody that were ended, with their steps, the newest first.</summary>
    /// <param name="learner">Who practises.</param>
    /// <param name="most">So many at most.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<Attempt>> EndedAsync(Learner? learner, int most, CancellationToken cancel) =>
        learner is null
            ? []
            : await db
                .Attempts.AsNoTracking()
                .Include(a => a.Steps)
                .Where(a => a.LearnerId == learner.Id && a.EndedAt != null)
                // What a whole class works is told to nobody before the class is closed.
                .Where(a => a.Class == null || !a.Class.IsSamePart || a.Class.ClosedAt != null)
                .OrderByDescending(a => a.EndedAt)
                .Take(most)
                .AsSplitQuery()
                .ToListAsync(cancel);

    /// <summary>Keeps what is at hand, and the gauge that is held where it reads a size.</summary>
    public async Task TakeUpAsync(Attempt attempt, BenchHand hand, Deed? held, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        ArgumentNullException.ThrowIfNull(hand);
        (attempt.Hand, attempt.Held) = (JobJson.Write(hand), held is null ? null : JobJson.Write(held));
        await db.Database.ExecuteSqlAsync($"select practice.take_up({attempt.Id}, {attempt.Hand}::jsonb, {attempt.Held}::jsonb)", cancel);
    }

    /// <summary>Does something at the bench.</summary>
    /// <param name="attempt">The attempt as the page has shown it.</param>
    /// <param name="deed">What is done.</param>
    /// <param name="hand">What is at hand after it.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<BenchRefusal?> DoAsync(Attempt attempt, Deed deed, BenchHand hand, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        var (text, kept) = (JobJson.Write(deed), JobJson.Write(hand));
        var refused = await RefusedAsync(
            $"select practice.do_deed({attempt.Id}, {text}::jsonb, {kept}::jsonb, {attempt.Steps.Count}, {hand.Surface})",
            cancel
        );
        if (refused is not null)
            return refused;
        attempt.Steps.Add(
            new()
            {
                AttemptId = attempt.Id,
                Number = attempt.Steps.Count + 1,
                Kind = AttemptStepKind.Did,
                Deed = text,
                Surface = hand.Surface,
                At = time.GetUtcNow(),
            }
        );
        (attempt.Hand, attempt.Held) = (kept, null);
        return null;
    }

    /// <summary>The trainee decides what becomes of the part: the job is over.</summary>
    public Task<BenchRefusal?> DecideAsync(Attempt attempt, Decision decision, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(attempt);
        return RefusedAsync($"select practice.decide({attempt.Id}, {decision.ToString()})", cancel);
    }

    private async Task<BenchRefusal?> RefusedAsync(FormattableString sql, CancellationToken cancel)
    {
        try
        {
            await db.Database.ExecuteSqlAsync(sql, cancel);
            return null;
        }
        catch (PostgresException e) when (e.SqlState is Quota or IsOver or Overtaken)
        {
            return e.SqlState switch
            {
                IsOver => BenchRefusal.IsOver,
                Overtaken => BenchRefusal.Overtaken,
                _ => BenchRefusal.TooMany,
            };
        }
    }
}
