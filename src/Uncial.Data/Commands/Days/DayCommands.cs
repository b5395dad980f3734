using Microsoft.EntityFrameworkCore;
using Uncial.Core.Scheduling;

namespace Uncial.Data.Commands;

/// <summary>What people decide about the day's board: pins, urgent jobs, lathes out of order, hours.</summary>
public static class DayCommands
{
    /// <summary>Pins a surface, or takes its pin off. Refused where somebody decided about it since it was seen.</summary>
    /// <param name="action">The action; seen is the turn of the newest decision that the person has seen.</param>
    /// <param name="surface">The surface.</param>
    /// <param name="pin">Where it shall stand; null for no pin.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<BoardPin>> PinAsync(ShopAction action, int surface, Core.Scheduling.Pin? pin, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var newest = await action
            .Db.BoardPins.Where(p => p.SurfaceId == surface)
            .OrderByDescending(p => p.Turn)
            .Select(p => new { p.Turn, By = p.By!.DisplayName })
            .FirstOrDefaultAsync(cancel);
        if (
            !await action.Db.Surfaces.AnyAsync(s => s.Id == surface, cancel)
            || (pin?.LatheId is { } lathe && !await action.Db.Lathes.AnyAsync(l => l.Id == lathe, cancel))
        )
            return new Refusal.NotNow();
        if ((newest?.Turn ?? 0) != action.Seen)
            return new Refusal.Outdated(newest?.By);
        return await action.RunAsync<BoardPin>(
            Role.Operator,
            null,
            () =>
                action
                    .Db.BoardPins.Add(
                        new()
                        {
                            SurfaceId = surface,
                            LatheId = pin?.LatheId,
                            Place = pin?.Place,
                            NotBefore = pin?.NotBefore?.ToUniversalTime(),
                            Turn = action.Seen + 1,
                            At = action.Actor.At,
                            ById = action.Actor.Id,
                        }
                    )
                    .Entity,
            cancel
        );
    }

    /// <summary>Marks a job urgent, or not urgent any more.</summary>
    /// <param name="action">The action.</param>
    /// <param name="job">The job.</param>
    /// <param name="isUrgent">Whether it is.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<JobUrgency>> MarkUrgentAsync(ShopAction action, int job, bool isUrgent, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        var last = await action.Db.JobUrgencies.Where(u => u.JobId == job).MaxAsync(u => (int?)u.Turn, cancel) ?? 0;
        if (!await action.Db.Jobs.AnyAsync(j => j.Id == job, cancel))
            return new Refusal.NotNow();
        if (last != action.Seen)
            return new Refusal.Outdated(null);
        return await action.RunAsync<JobUrgency>(
            Role.Operator,
            null,
            () =>
                action
                    .Db.JobUrgencies.Add(
                        new()
                        {
                            JobId = job,
                            IsUrgent = isUrgent,
                            Turn = last + 1,
                            At = action.Actor.At,
                            ById = action.Actor.Id,
                        }
                    )
                    .Entity,
            cancel
        );
    }

    /// <summary>Marks a lathe out of order with a reason, or in order again.</summary>
    /// <param name="action">The action; seen is the turn of the newest mark that the person has seen.</param>
    /// <param name="lathe">The lathe.</param>
    /// <param name="isOut">It is out of order.</param>
    /// <param name="reason">What is wrong with it.</param>
    /// <param name="backAt">When it is expected back; null where nobody knows.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<LatheOutage>> MarkLatheAsync(
        ShopAction action,
        int lathe,
        bool isOut,
        string? reason,
        DateTimeOffset? backAt,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(action);
        var newest = await action
            .Db.LatheOutages.Where(o => o.LatheId == lathe)
            .OrderByDescending(o => o.Turn)
            .Select(o => new { o.Turn, By = o.By!.DisplayName })
            .FirstOrDefaultAsync(cancel);
        if (!await action.Db.Lathes.AnyAsync(l => l.Id == lathe, cancel))
            return new Refusal.NotNow();
        if ((newest?.Turn ?? 0) != action.Seen)
            return new Refusal.Outdated(newest?.By);
        return await action.RunAsync<LatheOutage>(
            Role.Operator,
            null,
            () =>
            {
                if (isOut && Text.Trimmed(reason) is null)
                    return new Refusal.Missing(Answer.Reason);
                return action
                    .Db.LatheOutages.Add(
                        new()
                        {
                            LatheId = lathe,
                            IsOut = isOut,
                            Reason = isOut ? Text.Trimmed(reason) : null,
                            BackAt = isOut ? backAt?.ToUniversalTime() : null,
                            Turn = action.Seen + 1,
                            At = action.Actor.At,
                            ById = action.Actor.Id,
                        }
                    )
                    .Entity;
            },
            cancel
        );
    }

    /// <summary>Sets the hours of one day, of a person or of the whole shop.</summary>
    /// <param name="action">The action.</param>
    /// <param name="hours">The day, whose, and the hours; none for no work.</param>
    /// <param name="isUsual">The hours of the week hold again.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<DayHoursEntry>> SetHoursAsync(ShopAction action, DayHours hours, bool isUsual, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(hours);
        var last = await action
            .Db.DayHours.Where(h => h.Day == hours.Day && h.OperatorId == hours.OperatorId)
            .MaxAsync(h => (int?)h.Turn, cancel)
            ?? 0;
        if (hours.OperatorId is { } who && !await action.Db.Operators.AnyAsync(o => o.Id == who, cancel))
            return new Refusal.NotNow();
        return await action.RunAsync<DayHoursEntry>(
            Role.Lead,
            null,
            () =>
                action
                    .Db.DayHours.Add(
                        new()
                        {
                            Day = hours.Day,
                            OperatorId = hours.OperatorId,
                            From = isUsual ? null : hours.Hours?.From,
                            To = isUsual ? null : hours.Hours?.To,
                            IsUsual = isUsual,
                            Turn = last + 1,
                            At = action.Actor.At,
                            ById = action.Actor.Id,
                        }
                    )
                    .Entity,
            cancel
        );
    }

    /// <summary>Settles hours, breaks and times of the shop's days.</summary>
    /// <param name="action">The action; seen is the turn of the settlement that the person has seen.</param>
    /// <param name="settings">What shall hold.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<Result<DaySettingsEntry>> SettleAsync(ShopAction action, DaySettings settings, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(action);
        ArgumentNullException.ThrowIfNull(settings);
        var (_, turn) = await action.Db.DaySettingsAsync(cancel);
        return await action.RunAsync<DaySettingsEntry>(
            Role.Owner,
            turn,
            () =>
                action
                    .Db.DaySettings.Add(
                        new()
                        {
                            Settings = settings,
                            Turn = turn + 1,
                            At = action.Actor.At,
                            ById = action.Actor.Id,
                        }
                    )
                    .Entity,
            cancel
        );
    }
}
