using Google.OrTools.Sat;
using Uncial.Core.Scheduling;

namespace Uncial.SolverBench;

/// <summary>What a day costs, in minutes, a greater figure before a lesser one.</summary>
internal sealed record DayCost(long Late, long Idle, long Finish);

/// <summary>
/// A day as a model for a constraint solver, told anew from the rules in docs/board.md and not from the planner's code. It knows what
/// made-up days have: no step under way, no pins, no two surfaces on a part, no more than two blocks in a job.
/// </summary>
internal sealed class SolvedDay
{
    private readonly DayToPlan day;
    private readonly CpModel model = new();
    private readonly Dictionary<IntVar, long> hint = [];
    private readonly int end;
    private readonly long[] workedUntil;
    private readonly List<IntervalVar>[] hands;
    private readonly List<IntervalVar>[] bay;
    private readonly Dictionary<int, OffLathe> measures = [];
    private readonly Dictionary<int, Block> blocks = [];
    private readonly Dictionary<int, OffLathe> confirms = [];
    private readonly LinearExpr late;
    private readonly LinearExpr idle;
    private readonly IntVar finish;
    private DayCost found = new(0, 0, 0);

    private sealed record OffLathe(IntVar From, IntVar To, BoolVar[] Who);

    private sealed record Block(
        IntVar Begin,
        IntVar Mount,
        IntVar Feeds,
        IntVar To,
        IntVar Change,
        BoolVar[] Who,
        Dictionary<int, BoolVar> On
    )
    {
        public required Dictionary<(int Lathe, int Who), BoolVar> Ways { get; init; }
    }

    public SolvedDay(DayToPlan day)
    {
        this.day = day;
        end = day.Operators.Max(o => Minute(o.AtWork[^1].To));
        hands = [.. day.Operators.Select(o => Gaps(o.AtWork))];
        bay = [.. day.Operators.Select(o => Gaps(o.AtWork))];
        workedUntil = new long[end + 1];
        for (var minute = 0; minute < end; minute++)
            workedUntil[minute + 1] = workedUntil[minute] + (day.Operators.Any(o => IsThere(o, day.Now.AddMinutes(minute))) ? 1 : 0);
        foreach (var work in day.Works)
        {
            if (work.Started is not null || work.Pin is not null)
                throw new NotSupportedException("A day with a step under way or a pin.");
            if (work.Measure is { } measure)
                measures[work.Id] = Off(measure, $"measure {work.Id}");
            blocks[work.Id] = Mounted(work);
            confirms[work.Id] = Off(work.Confirm!, $"confirm {work.Id}");
            if (measures.TryGetValue(work.Id, out var before))
                model.Add(blocks[work.Id].Mount >= before.To);
            model.Add(confirms[work.Id].From >= blocks[work.Id].To);
        }
        for (var o = 0; o < day.Operators.Count; o++)
        {
            model.AddNoOverlap(hands[o]);
            model.AddNoOverlap(bay[o]);
        }
        foreach (var lathe in day.Lathes)
            Follow(lathe);
        finish = Var("finish");
        late = Late();
        idle = LinearExpr.Sum(blocks.Values.Select(b => b.Change).Concat(Waiting()));
    }

    /// <summary>What a board costs by this telling; an error where it breaks a rule.</summary>
    public DayCost CostOf(DayBoard board)
    {
        Take(board);
        var solver = Solver(30, "fix_variables_to_their_hinted_value:true");
        model.Minimize(late * 100_000 + idle * 10 + finish);
        return solver.Solve(model) is CpSolverStatus.Optimal or CpSolverStatus.Feasible
            ? found = Cost(solver)
            : throw new InvalidOperationException("The board breaks a rule of the model.");
    }

    /// <summary>The best that is found, one figure after the other, from the board that was taken on.</summary>
    /// <param name="seconds">Seconds for all three.</param>
    public (DayCost Cost, bool IsProven) Solve(double seconds)
    {
        var (left, isProven) = (seconds, true);
        foreach (var (level, share) in new[] { (late, 0.5), (idle, 0.7), (LinearExpr.Sum([finish]), 1.0) })
        {
            model.Minimize(level);
            var solver = Solver(left * share, "");
            var status = solver.Solve(model);
            isProven &= status == CpSolverStatus.Optimal;
            left = Math.Max(1, left - solver.WallTime());
            // Nothing found: the board to begin with stands.
            if (status is not (CpSolverStatus.Optimal or CpSolverStatus.Feasible))
                continue;
            found = Cost(solver);
            foreach (var variable in hint.Keys)
                hint[variable] = solver.Value(variable);
            model.Add(level <= (long)solver.ObjectiveValue);
            model.ClearHints();
            foreach (var (variable, value) in hint)
                model.AddHint(variable, value);
        }
        return (found, isProven);
    }

    /// <summary>
    /// What another day's board costs with the same lathes, operators and lateness when each block begins as soon as it can: what it gained
    /// by having somebody wait on purpose is gone.
    /// </summary>
    public DayCost Soonest(SolvedDay other)
    {
        var values = other.hint.ToDictionary(v => v.Key.Index, v => v.Value);
        foreach (var fixed_ in arcs.Values.Concat(blocks.Values.SelectMany(b => b.Ways.Values)))
            model.Add(fixed_ == values[fixed_.Index]);
        model.Add(late <= other.found.Late);
        model.Minimize(LinearExpr.Sum(blocks.Values.Select(b => b.Begin)));
        model.ClearHints();
        foreach (var variable in hint.Keys)
            model.AddHint(variable, values[variable.Index]);
        var solver = Solver(10, "");
        return solver.Solve(model) is CpSolverStatus.Optimal or CpSolverStatus.Feasible ? Cost(solver) : other.found;
    }

    private DayCost Cost(CpSolver solver) => new(solver.Value(late), solver.Value(idle), solver.Value(finish));

    private static CpSolver Solver(double seconds, string more) =>
        new() { StringParameters = FormattableString.Invariant($"max_time_in_seconds:{seconds:0.0} num_workers:8 random_seed:1 {more}") };

    private static bool IsThere(DayOperator who, DateTimeOffset at) => who.AtWork.Any(w => w.From <= at && at < w.To);

    private int Minute(DateTimeOffset at) => (int)Math.Floor((at - day.Now).TotalMinutes);

    private IntVar Var(string name, long from = 0, long? to = null)
    {
        var variable = model.NewIntVar(from, to ?? end, name);
        hint[variable] = from;
        return variable;
    }

    private BoolVar Bool(string name)
    {
        var variable = model.NewBoolVar(name);
        hint[variable] = 0;
        return variable;
    }

    /// <summary>The times at which nobody is there, as blocks that are taken.</summary>
    private List<IntervalVar> Gaps(IReadOnlyList<TimeWindow> windows)
    {
        var (gaps, at) = (new List<IntervalVar>(), 0);
        foreach (var (from, to) in windows.Select(w => (Math.Max(0, Minute(w.From)), Minute(w.To))))
        {
            if (from > at)
                gaps.Add(model.NewFixedSizeIntervalVar(at, from - at, $"gap {at}"));
            at = Math.Max(at, to);
        }
        return gaps;
    }

    private OffLathe Off(StepTime time, string name)
    {
        OffLathe step = new(Var($"{name} from"), Var($"{name} to"), [.. day.Operators.Select(o => Bool($"{name} by {o.Id}"))]);
        model.AddExactlyOne(step.Who);
        int[] minutes = [.. day.Operators.Select(o => time.Of(o.Id).Sure)];
        model.Add(step.To == step.From + LinearExpr.WeightedSum(step.Who, minutes));
        for (var o = 0; o < minutes.Length; o++)
        {
            var taken = model.NewOptionalFixedSizeIntervalVar(step.From, minutes[o], step.Who[o], $"{name} {o}");
            hands[o].Add(taken);
            if (!day.MeasuresWhileFeeding)
                bay[o].Add(taken);
        }
        return step;
    }

    private Block Mounted(SurfaceWork work)
    {
        var name = $"block {work.Id}";
        var lathes = work.Machinings.Select(m => m.LatheId).ToList();
        Block block = new(
            Var($"{name} begin"),
            Var($"{name} mount"),
            Var($"{name} feeds"),
            Var($"{name} to"),
            Var($"{name} change", 0, day.Lathes.Max(l => l.HeadMinutes)),
            [.. day.Operators.Select(o => Bool($"{name} by {o.Id}"))],
            lathes.ToDictionary(l => l, l => Bool($"{name} on {l}"))
        )
        {
            Ways = lathes
                .SelectMany(l => day.Operators.Select((_, o) => (Lathe: l, Who: o)))
                .ToDictionary(w => w, w => Bool($"{name} way {w.Lathe} {w.Who}")),
        };
        model.AddExactlyOne(block.Ways.Values);
        for (var o = 0; o < block.Who.Length; o++)
            model.Add(block.Who[o] == LinearExpr.Sum(block.Ways.Where(w => w.Key.Who == o).Select(w => w.Value)));
        foreach (var (lathe, on) in block.On)
            model.Add(on == LinearExpr.Sum(block.Ways.Where(w => w.Key.Lathe == lathe).Select(w => w.Value)));
        Machining Of(int lathe) => work.Machinings.Single(m => m.LatheId == lathe);
        var ways = block.Ways.ToList();
        model.Add(block.Mount == block.Begin + block.Change);
        model.Add(
            block.Feeds
                == block.Mount
                    + LinearExpr.WeightedSum(
                        ways.Select(w => w.Value),
                        ways.Select(w => Of(w.Key.Lathe).Attended.Of(day.Operators[w.Key.Who].Id).Sure)
                    )
        );
        model.Add(
            block.To == block.Feeds + LinearExpr.WeightedSum(ways.Select(w => w.Value), ways.Select(w => Of(w.Key.Lathe).Feeding.Sure))
        );
        var (handsOn, whole) = (Var($"{name} hands"), Var($"{name} whole"));
        for (var o = 0; o < block.Who.Length; o++)
        {
            hands[o].Add(model.NewOptionalIntervalVar(block.Begin, handsOn, block.Feeds, block.Who[o], $"{name} hands {o}"));
            bay[o].Add(model.NewOptionalIntervalVar(block.Begin, whole, block.To, block.Who[o], $"{name} bay {o}"));
        }
        model.Add(handsOn == block.Feeds - block.Begin);
        model.Add(whole == block.To - block.Begin);
        sizes[work.Id] = (handsOn, whole);
        return block;
    }

    private readonly Dictionary<int, (IntVar Hands, IntVar Whole)> sizes = [];
    private readonly Dictionary<(int Lathe, int From, int To), BoolVar> arcs = [];

    private LatheSetUp SetUp(int work, int lathe) => day.Works.Single(w => w.Id == work).Machinings.Single(m => m.LatheId == lathe).SetUp;

    private static int ChangeOver(DayLathe lathe, LatheSetUp? from, LatheSetUp to) =>
        from == to ? 0
        : from?.Head == to.Head ? lathe.AdapterMinutes
        : lathe.HeadMinutes;

    /// <summary>The blocks of a lathe follow one another, each with the change-over from the one before.</summary>
    private void Follow(DayLathe lathe)
    {
        var taken = Gaps(lathe.Open);
        var on = blocks.Where(b => b.Value.On.ContainsKey(lathe.Id)).ToList();
        var circuit = model.AddCircuit();
        BoolVar Arc(int from, int to, int fromId, int toId)
        {
            var arc = arcs[(lathe.Id, fromId, toId)] = Bool($"lathe {lathe.Id}: {fromId} before {toId}");
            circuit.AddArc(from, to, arc);
            return arc;
        }
        Arc(0, 0, 0, 0);
        for (var j = 0; j < on.Count; j++)
        {
            var (id, block) = on[j];
            taken.Add(model.NewOptionalIntervalVar(block.Begin, sizes[id].Whole, block.To, block.On[lathe.Id], $"{lathe.Id} {id}"));
            circuit.AddArc(j + 1, j + 1, block.On[lathe.Id].Not());
            var needed = SetUp(id, lathe.Id);
            model.Add(block.Change == ChangeOver(lathe, lathe.SetUp, needed)).OnlyEnforceIf(Arc(0, j + 1, 0, id));
            Arc(j + 1, 0, id, 0);
            for (var i = 0; i < on.Count; i++)
            {
                if (i == j)
                    continue;
                var arc = Arc(i + 1, j + 1, on[i].Key, id);
                model.Add(block.Begin >= on[i].Value.To).OnlyEnforceIf(arc);
                model.Add(block.Change == ChangeOver(lathe, SetUp(on[i].Key, lathe.Id), needed)).OnlyEnforceIf(arc);
            }
        }
        model.AddNoOverlap(taken);
    }

    private readonly Dictionary<int, (IntVar Ready, IntVar Late)> jobs = [];

    private LinearExpr Late()
    {
        List<LinearExpr> all = [];
        foreach (var job in day.Jobs)
        {
            var works = day.Works.Where(w => w.JobId == job.Id).ToList();
            if (works.Count == 0)
                continue;
            var ready = Var($"ready {job.Id}");
            model.AddMaxEquality(ready, works.Select(w => confirms[w.Id].To));
            model.Add(finish >= ready);
            if (job.Promised is not { } at)
            {
                jobs[job.Id] = (ready, ready);
                continue;
            }
            var over = Var($"late {job.Id}", 0, end + Math.Abs(Minute(at)));
            model.AddMaxEquality(over, [ready - Minute(at), LinearExpr.Constant(0)]);
            jobs[job.Id] = (ready, over);
            all.Add(over * (job.IsUrgent ? 3 : 1));
        }
        return LinearExpr.Sum(all);
    }

    private readonly Dictionary<int, IntVar> waits = [];

    /// <summary>Minutes between the two blocks of each job.</summary>
    private List<IntVar> Waiting()
    {
        foreach (var pair in day.Works.GroupBy(w => w.JobId).Select(g => g.ToList()).Where(g => g.Count > 1))
        {
            if (pair.Count > 2)
                throw new NotSupportedException("A job with more than two blocks.");
            var (a, b) = (blocks[pair[0].Id], blocks[pair[1].Id]);
            var wait = waits[pair[0].JobId] = Var($"wait {pair[0].JobId}");
            model.AddMaxEquality(wait, [Worked(a.Mount) - Worked(b.To), Worked(b.Mount) - Worked(a.To), LinearExpr.Constant(0)]);
        }
        return [.. waits.Values];
    }

    /// <summary>Minutes up to a time in which somebody works.</summary>
    private IntVar Worked(IntVar at)
    {
        var worked = Var($"worked until {at.Name()}");
        model.AddElement(at, workedUntil, worked);
        reads[worked] = at;
        return worked;
    }

    private readonly Dictionary<IntVar, IntVar> reads = [];

    /// <summary>Takes a board of the planner on as the one to begin with.</summary>
    private void Take(DayBoard board)
    {
        int Who(PlacedStep step) => day.Operators.ToList().FindIndex(o => o.Id == step.OperatorId);
        foreach (var step in board.Steps)
        {
            if (step.Step == WorkStep.Machine)
            {
                var block = blocks[step.WorkId];
                hint[block.Begin] = Minute(step.From) - step.ChangeOver;
                hint[block.Mount] = Minute(step.From);
                hint[block.Feeds] = Minute(step.FeedsFrom);
                hint[block.To] = Minute(step.To);
                hint[block.Change] = step.ChangeOver;
                hint[sizes[step.WorkId].Hands] = hint[block.Feeds] - hint[block.Begin];
                hint[sizes[step.WorkId].Whole] = hint[block.To] - hint[block.Begin];
                hint[block.Who[Who(step)]] = 1;
                hint[block.On[step.LatheId!.Value]] = 1;
                hint[block.Ways[(step.LatheId.Value, Who(step))]] = 1;
                continue;
            }
            var off = step.Step == WorkStep.Measure ? measures[step.WorkId] : confirms[step.WorkId];
            (hint[off.From], hint[off.To], hint[off.Who[Who(step)]]) = (Minute(step.From), Minute(step.To), 1);
        }
        foreach (var lathe in day.Lathes)
        {
            var order = board.Steps.Where(s => s.LatheId == lathe.Id).OrderBy(s => s.From).Select(s => s.WorkId).ToList();
            foreach (var (from, to) in order.Prepend(0).Zip(order.Append(0)))
                hint[arcs[(lathe.Id, from, to)]] = 1;
        }
        foreach (var job in day.Jobs.Where(j => jobs.ContainsKey(j.Id)))
        {
            var ready = hint[jobs[job.Id].Ready] = Minute(board.ReadyAt[job.Id]);
            if (job.Promised is { } at)
                hint[jobs[job.Id].Late] = Math.Max(0, ready - Minute(at));
        }
        foreach (var (worked, at) in reads)
            hint[worked] = workedUntil[hint[at]];
        foreach (var (job, wait) in waits)
        {
            var pair = board.Steps.Where(s => s.LatheId is not null && day.Works.Single(w => w.Id == s.WorkId).JobId == job).ToList();
            hint[wait] = Math.Max(0, workedUntil[Minute(pair[1].From)] - workedUntil[Minute(pair[0].To)]);
        }
        hint[finish] = jobs.Values.Max(j => hint[j.Ready]);
        model.ClearHints();
        foreach (var (variable, value) in hint)
            model.AddHint(variable, value);
    }
}
