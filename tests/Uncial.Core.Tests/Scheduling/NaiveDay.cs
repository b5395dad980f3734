using Uncial.Core.Scheduling;

namespace Uncial.Core.Tests.Scheduling;

/// <summary>
/// The rules of a day told once more, minute by minute, with nothing of the planner: for an order of surfaces and confirmings, and a lathe
/// for each surface, what the day costs. Slow, so for a few surfaces only.
/// </summary>
internal sealed class NaiveDay
{
    private const int Minutes = 1500;

    private readonly DayToPlan day;
    private readonly bool[,] hands;
    private readonly bool[,] bay;
    private readonly bool[,] bench;
    private readonly Dictionary<int, bool[]> part;
    private readonly int[] free;
    private readonly LatheSetUp?[] on;
    private readonly Dictionary<int, int> ready;
    private readonly Dictionary<int, int> machined;
    private readonly List<(int Job, int From, int To)> blocks;
    private int changes;

    private NaiveDay(DayToPlan day)
    {
        this.day = day;
        (hands, bay, bench) = (
            new bool[day.Operators.Count, Minutes],
            new bool[day.Operators.Count, Minutes],
            new bool[day.Operators.Count, Minutes]
        );
        part = day.Works.Select(w => w.PartId).Distinct().ToDictionary(p => p, _ => new bool[Minutes]);
        (free, on) = (new int[day.Lathes.Count], [.. day.Lathes.Select(l => l.SetUp)]);
        (ready, machined, blocks) = ([], [], []);
    }

    private NaiveDay(NaiveDay other)
    {
        day = other.day;
        (hands, bay, bench) = ((bool[,])other.hands.Clone(), (bool[,])other.bay.Clone(), (bool[,])other.bench.Clone());
        part = other.part.ToDictionary(p => p.Key, p => (bool[])p.Value.Clone());
        (free, on) = ([.. other.free], [.. other.on]);
        (ready, machined, blocks, changes) = (new(other.ready), new(other.machined), [.. other.blocks], other.changes);
    }

    /// <summary>The least cost over every order and every lathe; null where none is allowed.</summary>
    /// <param name="day">The day.</param>
    /// <param name="barred">A surface that must not come next on a lathe, and the lathe; null for none.</param>
    public static BoardCost? Best(DayToPlan day, (int WorkId, int LatheId)? barred = null)
    {
        BoardCost? best = null;
        GoOn(new(day));
        return best;

        void GoOn(NaiveDay placed)
        {
            var cost = placed.Cost;
            // Lateness and change-overs never become less by what is placed after them.
            if (best is { } least && new BoardCost(0, cost.Lateness, placed.changes, 0, 0) > least)
                return;
            var open = day
                .Works.Where(w => !placed.machined.ContainsKey(w.Id) || placed.machined[w.Id] >= 0 && w.Confirm is not null)
                .ToList();
            if (open.Count == 0 && (best is not { } most || cost < most))
                best = cost;
            foreach (var work in open)
            {
                if (placed.machined.ContainsKey(work.Id))
                {
                    NaiveDay next = new(placed);
                    next.Confirm(work);
                    GoOn(next);
                    continue;
                }
                foreach (var way in work.Machinings)
                {
                    var isNext = placed.free[placed.IndexOf(way)] == 0;
                    if (isNext && barred is { } b && b.WorkId == work.Id && b.LatheId == way.LatheId)
                        continue;
                    NaiveDay next = new(placed);
                    next.Place(work, way);
                    GoOn(next);
                }
            }
        }
    }

    private int IndexOf(Machining way) => day.Lathes.Select((l, i) => (l, i)).First(x => x.l.Id == way.LatheId).i;

    private BoardCost Cost
    {
        get
        {
            var late = day.Jobs.Sum(j =>
                j.Promised is { } at && ready.TryGetValue(j.Id, out var end)
                    ? (j.IsUrgent ? 3 : 1) * Math.Max(0, end - (int)Math.Floor((at - day.Now).TotalMinutes))
                    : 0
            );
            var waiting = 0;
            foreach (var job in blocks.GroupBy(b => b.Job))
                for (var minute = job.Min(b => b.From); minute < job.Max(b => b.To); minute++)
                    waiting += job.Any(b => b.From <= minute && minute < b.To) || !IsWorkedAt(minute) ? 0 : 1;
            return new(0, late, changes + waiting, ready.Values.DefaultIfEmpty().Max(), 0);
        }
    }

    private void Place(SurfaceWork work, Machining way)
    {
        var at = 0;
        if (work.Measure is { } measure)
            at = OffLathe(work, at, measure);
        var lathe = IndexOf(way);
        var change =
            on[lathe] == way.SetUp ? 0
            : on[lathe]?.Head == way.SetUp.Head ? day.Lathes[lathe].AdapterMinutes
            : day.Lathes[lathe].HeadMinutes;
        var soonest = Math.Max(free[lathe], Math.Max(0, at - change));
        for (var end = soonest; ; end++)
        {
            int Before(int o) => change + way.Attended.Of(day.Operators[o].Id).Sure;
            int Length(int o) => Before(o) + way.Feeding.Sure;
            var who = Enumerable
                .Range(0, day.Operators.Count)
                .Where(o => end - Length(o) >= soonest)
                .Where(o =>
                    Within(day.Lathes[lathe].Open, end - Length(o), Length(o))
                    && Within(day.Operators[o].AtWork, end - Length(o), Length(o))
                    && !Busy(part[work.PartId], end - Length(o) + change, end)
                    && Enumerable
                        .Range(end - Length(o), Length(o))
                        .All(m => m < end - way.Feeding.Sure ? !hands[o, m] && !bay[o, m] && !bench[o, m] : MayStandInBay(o, m))
                )
                .DefaultIfEmpty(-1)
                .First();
            if (who < 0)
                continue;
            var (from, before, length) = (end - Length(who), Before(who), Length(who));
            for (var m = from; m < from + length; m++)
                if (m < from + before)
                    hands[who, m] = true;
                else
                    bay[who, m] = true;
            Array.Fill(part[work.PartId], true, from + change, length - change);
            (free[lathe], on[lathe]) = (from + length, way.SetUp);
            changes += change;
            blocks.Add((work.JobId, from + change, from + length));
            at = end;
            break;
        }
        machined[work.Id] = at;
        ready[work.JobId] = Math.Max(ready.GetValueOrDefault(work.JobId), at);
    }

    private void Confirm(SurfaceWork work)
    {
        var at = OffLathe(work, machined[work.Id], work.Confirm!);
        machined[work.Id] = -1;
        ready[work.JobId] = Math.Max(ready[work.JobId], at);
    }

    private bool MayStandInBay(int who, int m) => !hands[who, m] && !bay[who, m] && (!bench[who, m] || day.MeasuresWhileFeeding);

    private int OffLathe(SurfaceWork work, int soonest, StepTime time)
    {
        for (var end = soonest; ; end++)
        for (var o = 0; o < day.Operators.Count; o++)
        {
            var minutes = time.Of(day.Operators[o].Id).Sure;
            var from = end - minutes;
            if (
                from >= soonest
                && Within(day.Operators[o].AtWork, from, minutes)
                && !Busy(part[work.PartId], from, from + minutes)
                && Enumerable.Range(from, minutes).All(m => !hands[o, m] && !bench[o, m] && (!bay[o, m] || day.MeasuresWhileFeeding))
            )
            {
                for (var m = from; m < from + minutes; m++)
                    bench[o, m] = true;
                Array.Fill(part[work.PartId], true, from, minutes);
                return end;
            }
        }
    }

    private bool IsWorkedAt(int minute) => day.Operators.Any(o => Within(o.AtWork, minute, 1));

    private static bool Busy(bool[] times, int from, int to) => Enumerable.Range(from, to - from).Any(m => times[m]);

    private bool Within(IReadOnlyList<TimeWindow> windows, int from, int length) =>
        windows.Any(w => w.From <= day.Now.AddMinutes(from) && day.Now.AddMinutes(from + length) <= w.To);
}
