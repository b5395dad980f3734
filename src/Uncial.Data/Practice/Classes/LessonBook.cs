using Microsoft.EntityFrameworkCore;
using Npgsql;
using Uncial.Practice.Lessons;

namespace Uncial.Data.Practice;

/// <summary>Why a lesson was not kept.</summary>
public enum LessonRefusal
{
    /// <summary>A lead or the owner keeps lessons, who is signed in.</summary>
    NotAllowed,

    /// <summary>A lesson that ships has this name.</summary>
    Ships,

    /// <summary>Two hundred lessons are the most.</summary>
    TooMany,

    /// <summary>Something is wrong in the file.</summary>
    Broken,
}

/// <summary>The lessons: those that ship, and those of the shop.</summary>
public sealed class LessonBook(PracticeDb db)
{
    private const string NotAllowed = "UP030",
        Quota = "UP011";

    /// <summary>All of them with their files: those that ship, by grade, then the shop's own.</summary>
    public async Task<IReadOnlyList<(Lesson Lesson, string Text, bool IsOwn)>> AllAsync(CancellationToken cancel) =>
        [
            .. ShippedLessons.All.Select(l => (l, ShippedLessons.FileOf(l.Id)!, false)),
            .. (await OwnAsync(cancel))
                .Select(o => (Lesson: LessonFile.ReadTrusted(o.Text), o.Text))
                .Where(o => o.Lesson is not null)
                .Select(o => (o.Lesson!, o.Text, true))
                .OrderBy(o => o.Item1.Grade)
                .ThenBy(o => o.Item1.Id, StringComparer.Ordinal),
        ];

    /// <summary>One of them; null where none has that name.</summary>
    public async Task<(Lesson Lesson, string Text)?> FindAsync(string? id, CancellationToken cancel)
    {
        if (id is null)
            return null;
        if (ShippedLessons.All.FirstOrDefault(l => l.Id == id) is { } shipped)
            return (shipped, ShippedLessons.FileOf(id)!);
        var own = await db.Lessons.AsNoTracking().SingleOrDefaultAsync(l => l.Id == id, cancel);
        return own is not null && LessonFile.ReadTrusted(own.Text) is { } lesson ? (lesson, own.Text) : null;
    }

    /// <summary>The shop's own.</summary>
    public async Task<IReadOnlyList<OwnLesson>> OwnAsync(CancellationToken cancel) =>
        await db.Lessons.AsNoTracking().OrderBy(l => l.Id).ToListAsync(cancel);

    /// <summary>Keeps a lesson, or a newer one of its name.</summary>
    /// <param name="session">Token of the session of who keeps it.</param>
    /// <param name="text">Its file.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>The lesson, or why it was not kept; with every fault of the file where it is broken.</returns>
    public async Task<(Lesson? Lesson, LessonRefusal? Refusal, IReadOnlyList<FaultAt> Faults)> KeepAsync(
        string session,
        string text,
        CancellationToken cancel
    )
    {
        var (lesson, faults) = LessonFile.Read(text);
        if (lesson is null)
            return (null, LessonRefusal.Broken, faults);
        if (ShippedLessons.All.Any(l => l.Id == lesson.Id))
            return (null, LessonRefusal.Ships, []);
        return await RefusedAsync($"select practice.keep_lesson({session}, {lesson.Id}, {text})", cancel) is { } refusal
            ? (null, refusal, [])
            : (lesson, null, []);
    }

    /// <summary>Removes one of the shop's own. What was begun with it goes on: an attempt and a class keep its file.</summary>
    public Task<LessonRefusal?> RemoveAsync(string session, string id, CancellationToken cancel) =>
        RefusedAsync($"select practice.remove_lesson({session}, {id})", cancel);

    private async Task<LessonRefusal?> RefusedAsync(FormattableString sql, CancellationToken cancel)
    {
        try
        {
            await db.Database.ExecuteSqlAsync(sql, cancel);
            return null;
        }
        catch (PostgresException e) when (e.SqlState is NotAllowed or Quota)
        {
            return e.SqlState == NotAllowed ? LessonRefusal.NotAllowed : LessonRefusal.TooMany;
        }
    }
}
