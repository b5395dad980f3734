namespace Uncial.Core.Scheduling;

/// <summary>A shop's day with its plan and what follows from it.</summary>
/// <param name="Day">What there is to do.</param>
/// <param name="Board">The plan.</param>
/// <param name="Ready">When each job is ready, by job.</param>
/// <param name="Chains">What each job whose promise is not safe hangs on, by job.</param>
/// <param name="Reasons">Why each lathe's next surface is next, by surface; empty where they were not asked for.</param>
public sealed record PlannedDay(
    ShopDay Day,
    DayBoard Board,
    IReadOnlyDictionary<int, JobReadiness> Ready,
    IReadOnlyDictionary<int, IReadOnlyList<CriticalStep>> Chains,
    IReadOnlyDictionary<int, NextReason> Reasons
)
{
    /// <summary>
    /// Plans a shop's day quickly. Reasons are left out: they take a plan more for each lathe (<see cref="WithReasons"/>).
    /// </summary>
    /// <param name="floor">The shop at a moment.</param>
    public static PlannedDay Of(ShopFloor floor)
    {
        var day = ShopDay.Of(floor);
        return Of(day, DayPlanner.Plan(day.Plan));
    }

    private static PlannedDay Of(ShopDay day, DayBoard board)
    {
        var ready = JobReadiness.Of(day.Plan, board).ToDictionary(r => r.JobId);
        return new(
            day,
            board,
            ready,
            ready
                .Values.Where(r => r.Promise is PromiseState.Tight or PromiseState.Late)
                .ToDictionary(r => r.JobId, r => CriticalChain.Of(day.Plan, board, r.JobId)),
            new Dictionary<int, NextReason>()
        );
    }

    /// <summary>The same day with the reasons of what comes next.</summary>
    /// <param name="rounds">How many rounds its board was improved by; 0 for a quick one.</param>
    /// <param name="cancel">Gives it up.</param>
    /// <exception cref="OperationCanceledException">It was given up.</exception>
    public PlannedDay WithReasons(int rounds = 0, CancellationToken cancel = default) =>
        this with
        {
            Reasons = NextReason.Of(Day.Plan, Board, rounds, cancel).ToDictionary(r => r.WorkId),
        };

    /// <summary>The same day with a board that costs less, and without reasons; itself where none was found.</summary>
    /// <param name="rounds">How many rounds are searched.</param>
    /// <param name="cancel">Gives it up.</param>
    /// <exception cref="OperationCanceledException">It was given up.</exception>
    public PlannedDay Improved(int rounds, CancellationToken cancel = default)
    {
        var board = DayPlanner.Improve(Day.Plan, Board, rounds, cancel);
        return board.Cost < Board.Cost ? Of(Day, board) : this;
    }

    /// <summary>The surface that each lathe takes next.</summary>
    public IReadOnlyList<(int LatheId, int WorkId)> NextUp =>
        [
            .. Board
                .Steps.Where(s => s is { Step: WorkStep.Machine, LatheId: not null } && !IsUnderWay(s))
                .GroupBy(s => s.LatheId!.Value)
                .OrderBy(g => g.Key)
                .Select(g => (g.Key, g.MinBy(s => s.From)!.WorkId)),
        ];

    /// <summary>A step that somebody does at this moment.</summary>
    public bool IsUnderWay(PlacedStep step)
    {
        ArgumentNullException.ThrowIfNull(step);
        return Day.Plan.Works.First(w => w.Id == step.WorkId).Started is { } started
            && started.LatheId == step.LatheId
            && step.From == Day.Plan.Now
            && (started.LatheId is not null || step.Step != WorkStep.Machine);
    }

    /// <summary>
    /// What somebody may do, in its order: what is under way with them, at a lathe before off it; then what is planned for them; then
    /// what is planned for others, at the lathe where they worked last before elsewhere.
    /// </summary>
    /// <param name="operatorId">Who.</param>
    public IEnumerable<PlacedStep> StepsFor(int operatorId) =>
        [
            .. Board.Steps.Where(s => s.OperatorId == operatorId && IsUnderWay(s)).OrderByDescending(s => s.LatheId is not null),
            .. Board.Steps.Where(s => s.OperatorId == operatorId && !IsUnderWay(s)),
            .. Board
                .Steps.Where(s => s.OperatorId != operatorId && !IsUnderWay(s))
                .OrderByDescending(s => Day.Plan.Lathes.Any(l => l.Id == s.LatheId && l.OperatorId == operatorId)),
        ];

    /// <summary>
    /// How a job's promise stands: late where a step of it finds no time; null where nothing was promised, nothing is to do, or something
    /// of it waits for a decision: then nobody can say.
    /// </summary>
    /// <param name="jobId">The job.</param>
    public PromiseState? PromiseOf(int jobId) =>
        Day.HeldJobs.Contains(jobId) ? null
        : Ready.TryGetValue(jobId, out var range) ? range.Promise
        : Day.Plan.Jobs.First(j => j.Id == jobId).Promised is not null && Day.Plan.Works.Any(w => w.JobId == jobId) ? PromiseState.Late
        : null;
}

/// <summary>What a change of the board does to a job.</summary>
/// <param name="JobId">The job.</param>
/// <param name="Minutes">Minutes that it is ready later by the sure times; negative: sooner.</param>
/// <param name="Before">How its promise stood.</param>
/// <param name="After">How it stands.</param>
public sealed record JobMoved(int JobId, int Minutes, PromiseState? Before, PromiseState? After);

/// <summary>What a change of the board costs.</summary>
/// <param name="LateMinutes">Minutes of lateness more, urgent ones counted three times; negative: fewer.</param>
/// <param name="IdleMinutes">Minutes of change-over and waiting more.</param>
/// <param name="FinishMinutes">Minutes that the last step ends later.</param>
/// <param name="IsKept">Everything has its time, and every pin is kept.</param>
/// <param name="Jobs">Jobs that are ready at another time, the worst first.</param>
public sealed record BoardPrice(int LateMinutes, int IdleMinutes, int FinishMinutes, bool IsKept, IReadOnlyList<JobMoved> Jobs)
{
    /// <summary>The price of a board against another of the same moment.</summary>
    /// <param name="before">The one that stands.</param>
    /// <param name="after">The one that is tried.</param>
    public static BoardPrice Of(PlannedDay before, PlannedDay after)
    {
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(after);
        var (was, now) = (before.Board, after.Board);
        return new(
            now.Cost.Lateness - was.Cost.Lateness,
            now.Cost.Idle - was.Cost.Idle,
            now.Cost.Finish - was.Cost.Finish,
            now.Cost.NotKept <= was.Cost.NotKept,
            [
                .. now
                    .ReadyAt.Where(r => was.ReadyAt.ContainsKey(r.Key))
                    .Select(r => new JobMoved(
                        r.Key,
                        (int)(r.Value - was.ReadyAt[r.Key]).TotalMinutes,
                        before.PromiseOf(r.Key),
                        after.PromiseOf(r.Key)
                    ))
                    .Where(j => j.Minutes != 0)
                    .OrderByDescending(j => j.After > j.Before)
                    .ThenByDescending(j => j.Minutes)
                    .ThenBy(j => j.JobId),
            ]
        );
    }
}
