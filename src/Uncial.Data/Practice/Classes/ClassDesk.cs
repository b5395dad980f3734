using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Practice.Lessons;

namespace Uncial.Data.Practice;

/// <summary>Why nothing was done with a class.</summary>
public enum ClassRefusal
{
    /// <summary>Who asks does not instruct, or the class is another's or gone.</summary>
    NotYours,

    /// <summary>The class is closed.</summary>
    IsClosed,

    /// <summary>Somebody of the class has this name.</summary>
    NameTaken,

    /// <summary>More classes, lessons or trainees than there may be.</summary>
    TooMany,
}

/// <summary>What one trainee of a class has done of one lesson.</summary>
/// <param name="LearnerId">The trainee.</param>
/// <param name="LessonId">The lesson.</param>
/// <param name="Attempt">The newest attempt, without its steps.</param>
/// <param name="Steps">Steps that were done or entered.</param>
/// <param name="LastAt">When the last of them was; null before the first.</param>
public sealed record ClassWork(int LearnerId, string LessonId, Attempt Attempt, int Steps, DateTimeOffset? LastAt);

/// <summary>
/// Classes of practice. Every change is asked of the database with the session of who is signed in: it knows who instructs.
/// </summary>
public sealed class ClassDesk(PracticeDb db)
{
    private const string NotYours = "UP020",
        IsClosed = "UP021",
        NameTaken = "UP023",
        Quota = "UP011";

    /// <summary>Letters and digits of a code that nobody takes for another.</summary>
    private const string CodeLetters = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";

    private const int CodeLength = 8;

    /// <summary>Longest name of a class or a trainee.</summary>
    public const int LongestName = 80;

    /// <summary>Most lessons of a class.</summary>
    public const int MostLessons = 24;

    /// <summary>The person of a session where that person instructs; null otherwise.</summary>
    /// <param name="session">Token of the session.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<int?> InstructorAsync(string session, CancellationToken cancel) =>
        session.Length == 0
            ? null
            : await db.Database.SqlQuery<int?>($"select practice.instructor({session}) as \"Value\"").SingleAsync(cancel);

    /// <summary>Begins a class.</summary>
    /// <param name="session">Token of the instructor's session.</param>
    /// <param name="name">Its name.</param>
    /// <param name="isSamePart">Everybody gets the same part.</param>
    /// <param name="lessons">Its lessons with their files, 1 … 24.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<(int? Id, ClassRefusal? Refusal)> BeginAsync(
        string session,
        string name,
        bool isSamePart,
        IReadOnlyList<(string Id, string Text)> lessons,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(lessons);
        var json = JsonSerializer.Serialize(
            lessons.Select(l => new
            {
                id = l.Id,
                text = l.Text,
                seed = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(8)),
            })
        );
        return await AskAsync(
            db.Database.SqlQuery<int>($"select practice.begin_class({session}, {name}, {isSamePart}, {json}::jsonb) as \"Value\""),
            cancel
        );
    }

    /// <summary>Adds somebody to a class, with a code of the own to come in by.</summary>
    public async Task<ClassRefusal?> AddAsync(string session, int classId, string name, CancellationToken cancel)
    {
        for (var tries = 0; ; tries++)
            try
            {
                var code = RandomNumberGenerator.GetString(CodeLetters, CodeLength);
                var added = db.Database.SqlQuery<int>($"select practice.add_trainee({session}, {classId}, {name}, {code}) as \"Value\"");
                return (await AskAsync(added, cancel)).Refusal;
            }
            catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.UniqueViolation && tries < 3)
            {
                // Somebody has this code: another one.
            }
    }

    /// <summary>Takes somebody out of a class, with everything that was practised.</summary>
    public Task<ClassRefusal?> RemoveAsync(string session, int classId, int learnerId, CancellationToken cancel) =>
        DoAsync($"select practice.remove_trainee({session}, {classId}, {learnerId})", cancel);

    /// <summary>Closes a class: where all had the same part, everybody is debriefed.</summary>
    public Task<ClassRefusal?> CloseAsync(string session, int classId, CancellationToken cancel) =>
        DoAsync($"select practice.close_class({session}, {classId})", cancel);

    /// <summary>Removes a class with its trainees and everything that they practised.</summary>
    public Task<ClassRefusal?> RemoveAsync(string session, int classId, CancellationToken cancel) =>
        DoAsync($"select practice.remove_class({session}, {classId})", cancel);

    /// <summary>The classes of an instructor with lessons and trainees, open ones first, the newest first.</summary>
    public async Task<IReadOnlyList<PracticeClass>> ClassesAsync(int instructor, CancellationToken cancel) =>
        await db
            .Classes.AsNoTracking()
            .Include(c => c.Lessons.OrderBy(l => l.Number))
            .Include(c => c.Trainees)
            .Where(c => c.InstructorId == instructor)
            .OrderBy(c => c.ClosedAt != null)
            .ThenByDescending(c => c.BegunAt)
            .Take(60)
            .AsSplitQuery()
            .ToListAsync(cancel);

    /// <summary>A class of an instructor with lessons and trainees; null where it is another's or there is none.</summary>
    public async Task<PracticeClass?> ClassAsync(int instructor, int id, CancellationToken cancel) =>
        await db
            .Classes.AsNoTracking()
            .Include(c => c.Lessons.OrderBy(l => l.Number))
            .Include(c => c.Trainees.OrderBy(t => t.Name))
            .Where(c => c.InstructorId == instructor && c.Id == id)
            .AsSplitQuery()
            .SingleOrDefaultAsync(cancel);

    /// <summary>The class of a trainee with its lessons; null for who is in none.</summary>
    public async Task<PracticeClass?> ClassOfAsync(Learner? learner, CancellationToken cancel) =>
        learner?.ClassId is not { } id
            ? null
            : await db.Classes.AsNoTracking().Include(c => c.Lessons.OrderBy(l => l.Number)).SingleAsync(c => c.Id == id, cancel);

    /// <summary>What the trainees of a class have done of its lessons: the newest attempt of each.</summary>
    public async Task<IReadOnlyList<ClassWork>> WorkAsync(int classId, CancellationToken cancel)
    {
        var all = await db
            .Attempts.AsNoTracking()
            .Where(a => a.ClassId == classId)
            .Select(a => new
            {
                Attempt = a,
                Steps = a.Steps.Count,
                LastAt = a.Steps.Max(s => (DateTimeOffset?)s.At),
            })
            .ToListAsync(cancel);
        return
        [
            .. all.GroupBy(w => (w.Attempt.LearnerId, w.Attempt.LessonId))
                .Select(g => g.MaxBy(w => w.Attempt.Id)!)
                .Select(w => new ClassWork(w.Attempt.LearnerId, w.Attempt.LessonId, w.Attempt, w.Steps, w.LastAt)),
        ];
    }

    /// <summary>Attempts with their steps.</summary>
    public async Task<IReadOnlyList<Attempt>> WithStepsAsync(IReadOnlyCollection<long> ids, CancellationToken cancel) =>
        ids.Count == 0
            ? []
            : await db.Attempts.AsNoTracking().Include(a => a.Steps).Where(a => ids.Contains(a.Id)).AsSplitQuery().ToListAsync(cancel);

    private async Task<ClassRefusal?> DoAsync(FormattableString sql, CancellationToken cancel)
    {
        try
        {
            await db.Database.ExecuteSqlAsync(sql, cancel);
            return null;
        }
        catch (PostgresException e) when (RefusalOf(e) is not null)
        {
            return RefusalOf(e);
        }
    }

    private static async Task<(int? Id, ClassRefusal? Refusal)> AskAsync(IQueryable<int> query, CancellationToken cancel)
    {
        try
        {
            return (await query.SingleAsync(cancel), null);
        }
        catch (PostgresException e) when (RefusalOf(e) is not null)
        {
            return (null, RefusalOf(e));
        }
    }

    private static ClassRefusal? RefusalOf(PostgresException e) =>
        e.SqlState switch
        {
            NotYours => ClassRefusal.NotYours,
            IsClosed => ClassRefusal.IsClosed,
            NameTaken => ClassRefusal.NameTaken,
            Quota => ClassRefusal.TooMany,
            _ => null,
        };
}
