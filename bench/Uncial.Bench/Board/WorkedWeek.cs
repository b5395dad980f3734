using Uncial.Core.Parts;
using Uncial.Core.Scheduling;

namespace Uncial.Bench.Board;

/// <summary>By what the next step is picked.</summary>
internal enum Habit
{
    /// <summary>By this board.</summary>
    Board,

    /// <summary>What came first.</summary>
    FirstCome,

    /// <summary>What is promised first.</summary>
    PromisedFirst,

    /// <summary>All rotors, then all drums.</summary>
    RotorsFirst,
}

/// <summary>How a week went.</summary>
/// <param name="Promised">Promises.</param>
/// <param name="Kept">Promises that were kept.</param>
/// <param name="LateMinutes">Minutes after promised times.</param>
/// <param name="ChangeOverMinutes">Minutes of change-over.</param>
/// <param name="MeanHours">How long a job is in the shop.</param>
/// <param name="PlannedLater">By how much a board was planned later than by a habit's order at that moment, at most, min.</param>
internal sealed record WeekResult(int Promised, int Kept, int LateMinutes, int ChangeOverMinutes, double MeanHours, int PlannedLater);

/// <summary>
/// Works a made-up week minute by minute. Who has free hands takes the next step; what it really takes shows only when it is done. The
/// board and the habits are given the same week.
/// </summary>
internal sealed class WorkedWeek(WeekOfWork week, Habit habit)
{
    private static readonly DateTimeOffset Monday = new(2026, 11, 30, 0, 0, 0, TimeSpan.Zero);

    private sealed class State(WeekPart part, WeekJob job)
    {
        public WeekPart Part => part;
        public WeekJob Job => job;
        public WorkStep? Next { get; set; } = WorkStep.Measure;
        public (WorkStep Step, int Operator, int? Lathe, int From, int HandsUntil, int Until)? Now { get; set; }
    }

    private readonly List<State> parts = [];
    private readonly LatheSetUp?[] setUp = new LatheSetUp?[WeekOfWork.Lathes];
    private readonly Dictionary<int, int> ready = [];
    private IReadOnlyList<SeenPlace> seen = [];
    private int changeOver;
    private int plannedLater;
    private int now;

    /// <summary>Works it to its end.</summary>
    public WeekResult Run()
    {
        var arrivals = new Queue<WeekJob>(week.Jobs.OrderBy(j => j.Arrives));
        var planned = -1;
        foreach (var (from, to) in WeekOfWork.Hours)
            for (now = from; now < to; now++)
            {
                var changed = now == from || now == planned || week.Broken is { } b && (now == b.At || now == b.At + WeekOfWork.BrokenFor);
                while (arrivals.TryPeek(out var next) && next.Arrives <= now)
                {
                    var job = arrivals.Dequeue();
                    parts.AddRange(job.Parts.Select(p => new State(p, job)));
                    changed = true;
                }
                foreach (var part in parts.Where(p => p.Now is { } n && (n.Until <= now || n.HandsUntil == now)))
                {
                    changed = true;
                    if (part.Now!.Value.Until <= now)
                        Done(part);
                }
                if (changed)
                    planned = Begin(to);
            }
        var late = week.Jobs.Sum(j => Math.Max(0, ready.GetValueOrDefault(j.Id, WeekOfWork.Hours[^1].To) - j.Promised));
        return new(
            week.Jobs.Count,
            week.Jobs.Count(j => ready.TryGetValue(j.Id, out var at) && at <= j.Promised),
            late,
            changeOver,
            week.Jobs.Average(j => (ready.GetValueOrDefault(j.Id, WeekOfWork.Hours[^1].To) - j.Arrives) / 60.0),
            plannedLater
        );
    }

    private void Done(State part)
    {
        var step = part.Now!.Value.Step;
        part.Now = null;
        part.Next = step switch
        {
            // A crack is seen when it is measured: the part is done with.
            WorkStep.Measure => part.Part.IsCracked ? null : WorkStep.Machine,
            WorkStep.Machine => WorkStep.Confirm,
            _ => null,
        };
        if (parts.Where(p => p.Job == part.Job).All(p => p.Next is null))
            ready[part.Job.Id] = now;
    }

    private bool IsOut(int lathe) => week.Broken is { } b && b.Lathe == lathe && now >= b.At && now < b.At + WeekOfWork.BrokenFor;

    private bool IsFree(int lathe) => !IsOut(lathe) && parts.TrueForAll(p => p.Now?.Lathe != lathe);

    private bool HasHands(int who) => parts.TrueForAll(p => p.Now is not { } n || n.Operator != who || n.HandsUntil <= now);

    private bool IsInBay(int who) => parts.Exists(p => p.Now is { } n && n.Operator == who && n.Lathe is not null);

    private void Start(State part, WorkStep step, int who, int? lathe)
    {
        var p = part.Part;
        if (lathe is not { } on)
        {
            var minutes = step == WorkStep.Measure ? p.Measure : p.Confirm;
            part.Now = (step, who, null, now, now + minutes, now + minutes);
            return;
        }
        LatheSetUp needed = new(p.Kind, p.Adapters);
        var change =
            setUp[on] == needed ? 0
            : setUp[on]?.Head == needed.Head ? WeekOfWork.AdapterMinutes
            : WeekOfWork.HeadMinutes;
        changeOver += change;
        setUp[on] = needed;
        part.Now = (step, who, on, now, now + change + p.Attended, now + change + p.Attended + p.Feeding);
    }

    /// <summary>Starts what is to start now; tells when the board begins something next.</summary>
    private int Begin(int until) => habit == Habit.Board ? ByBoard() : ByHabit(until);

    private int ByHabit(int until)
    {
        for (var who = 0; who < WeekOfWork.Operators; who++)
        {
            if (!HasHands(who))
                continue;
            State? First(WorkStep step, Func<State, bool>? fits = null) =>
                parts
                    .Where(p => p.Now is null && p.Next == step && (fits?.Invoke(p) ?? true))
                    .OrderBy(Key)
                    .ThenBy(p => p.Part.Id)
                    .FirstOrDefault();
            int Sure(State p, WorkStep step) => week.Known[(p.Part.Kind, step)].Sure;
            bool Ends(int minutes) => now + minutes <= until;
            var lathe = Enumerable.Range(0, WeekOfWork.Lathes).Where(IsFree).Cast<int?>().FirstOrDefault();
            if (First(WorkStep.Confirm) is { } confirm && Ends(Sure(confirm, WorkStep.Confirm)))
                Start(confirm, WorkStep.Confirm, who, null);
            else if (
                !IsInBay(who)
                && lathe is not null
                && First(WorkStep.Machine, p => Ends(Sure(p, WorkStep.Machine) + week.Passes[p.Part.Kind].Sure)) is { } mount
            )
                // Where the lathe that fits is free too, nobody changes another one.
                Start(
                    mount,
                    WorkStep.Machine,
                    who,
                    Enumerable.Range(0, WeekOfWork.Lathes).Where(IsFree).OrderBy(l => ChangeOf(mount, l)).First()
                );
            else if (First(WorkStep.Measure) is { } measure && Ends(Sure(measure, WorkStep.Measure)))
                Start(measure, WorkStep.Measure, who, null);
        }
        return -1;
    }

    private int ChangeOf(State part, int lathe) =>
        setUp[lathe] == new LatheSetUp(part.Part.Kind, part.Part.Adapters) ? 0
        : setUp[lathe]?.Head == part.Part.Kind ? 1
        : 2;

    private (int, int) Key(State part) => Key(part, habit);

    private static (int, int) Key(State part, Habit by) =>
        by switch
        {
            Habit.FirstCome => (0, part.Job.Arrives),
            Habit.PromisedFirst => (0, part.Job.Promised),
            _ => ((int)part.Part.Kind, part.Job.Arrives),
        };

    private int ByBoard()
    {
        var open = parts.Where(p => p.Next is not null).ToList();
        if (open.Count == 0)
            return -1;
        DayToPlan day = new()
        {
            Now = At(now),
            Jobs = [.. open.Select(p => p.Job).Distinct().Select(j => new DayJob(j.Id, At(j.Promised)))],
            Works = [.. open.Select(WorkOf)],
            Lathes =
            [
                .. Enumerable
                    .Range(0, WeekOfWork.Lathes)
                    .Select(l => new DayLathe(
                        l,
                        WorkHours.Without(
                            [new(At(now), At(WeekOfWork.Hours[^1].To))],
                            IsOut(l) ? [new(At(now), At(week.Broken!.Value.At + WeekOfWork.BrokenFor))] : []
                        ),
                        setUp[l],
                        WeekOfWork.HeadMinutes,
                        WeekOfWork.AdapterMinutes
                    )),
            ],
            Operators =
            [
                .. Enumerable
                    .Range(0, WeekOfWork.Operators)
                    .Select(o => new DayOperator(
                        o,
                        [.. WeekOfWork.Hours.Where(h => h.To > now).Take(6).Select(h => new TimeWindow(At(h.From), At(h.To)))]
                    )),
            ],
            Seen = seen,
        };
        var board = DayPlanner.Plan(day);
        seen = board.Seen;
        foreach (var by in Enum.GetValues<Habit>().Where(h => h != Habit.Board))
        {
            var other = DayPlanner.InOrder(
                day with
                {
                    Seen = [],
                },
                [.. open.OrderBy(p => Key(p, by)).ThenBy(p => p.Part.Id).Select(p => p.Part.Id)]
            );
            if (other.Cost.NotKept <= board.Cost.NotKept)
                plannedLater = Math.Max(plannedLater, board.Cost.Lateness - other.Cost.Lateness);
        }
        var next = -1;
        foreach (var step in board.Steps.OrderBy(s => s.From.AddMinutes(-s.ChangeOver)))
        {
            var part = open.First(p => p.Part.Id == step.WorkId);
            if (part.Now is not null)
                continue;
            var begins = (int)(step.From.AddMinutes(-step.ChangeOver) - Monday).TotalMinutes;
            if (begins > now)
            {
                next = next < 0 ? begins : Math.Min(next, begins);
                continue;
            }
            // What is planned for now may wait for a step that takes longer than its sure time.
            if (
                step.Step == part.Next
                && HasHands(step.OperatorId)
                && (step.LatheId is not { } l || IsFree(l) && !IsInBay(step.OperatorId))
            )
                Start(part, step.Step, step.OperatorId, step.LatheId);
            else
                next = next < 0 ? now + 1 : Math.Min(next, now + 1);
        }
        return next;
    }

    private SurfaceWork WorkOf(State part)
    {
        var p = part.Part;
        SurfaceWork work = new()
        {
            Id = p.Id,
            PartId = p.Id,
            JobId = p.Job,
            Confirm = week.Known[(p.Kind, WorkStep.Confirm)],
        };
        if (part.Next < WorkStep.Confirm)
            work = work with
            {
                Machinings =
                [
                    .. Enumerable
                        .Range(0, WeekOfWork.Lathes)
                        .Select(l => new Machining(
                            l,
                            new(p.Kind, p.Adapters),
                            week.Known[(p.Kind, WorkStep.Machine)],
                            week.Passes[p.Kind]
                        )),
                ],
            };
        if (part.Next == WorkStep.Measure)
            work = work with { Measure = week.Known[(p.Kind, WorkStep.Measure)] };
        return part.Now is { } n ? work with { Started = StartedOf(n, p) } : work;
    }

    private StartedStep StartedOf((WorkStep Step, int Operator, int? Lathe, int From, int HandsUntil, int Until) n, WeekPart part)
    {
        var whole = week.Known[(part.Kind, n.Step)];
        if (n.Lathe is null)
            return new(n.Operator, null, whole.After(now - n.From), new(0, 0));
        var passes = week.Passes[part.Kind];
        return n.HandsUntil > now
            ? new(n.Operator, n.Lathe, whole.After(now - n.From), passes)
            : new(n.Operator, n.Lathe, new(0, 0), passes.After(now - n.HandsUntil));
    }

    private static DateTimeOffset At(int minute) => Monday.AddMinutes(minute);
}
