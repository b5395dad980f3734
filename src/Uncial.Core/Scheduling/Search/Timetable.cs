using System.Runtime.InteropServices;

namespace Uncial.Core.Scheduling;

/// <summary>
/// A day as far as it is planned: surfaces are placed one after the other, each step at the soonest time at which its operator, its lathe
/// and its part are free. A lathe takes parts in the order in which they are placed; off the lathe a step may go into a gap. Confirming has
/// its own place in that order: the next part may be mounted first.
/// </summary>
internal sealed class Timetable
{
    /// <summary>Stands for confirming where otherwise a way of machining stands.</summary>
    public const int Confirms = -1;

    /// <summary>What somebody does at a time.</summary>
    internal enum Kind
    {
        /// <summary>At a lathe, hands on.</summary>
        AtLathe,

        /// <summary>In the bay of a lathe that feeds.</summary>
        InBay,

        /// <summary>Measuring or confirming.</summary>
        OffLathe,
    }

    /// <summary>A time that is taken.</summary>
    internal readonly record struct Taken(int From, int To, Kind Kind);

    /// <summary>A step with its place.</summary>
    internal readonly record struct Step(int Work, WorkStep What, int Operator, int Lathe, int From, int Feeds, int To, int ChangeOver);

    private readonly DayProblem day;
    private readonly List<Taken>[] operators;
    private readonly List<(int From, int To)>[] parts;
    private readonly int[] latheFree;
    private readonly int[] setUp;
    private readonly int[] onLathe;
    private readonly int[] ready;

    /// <summary>When what was placed of each surface ends; -1 where a step found no time.</summary>
    private readonly int[] until;
    private readonly List<Step>? steps;

    /// <summary>What of each job is on a lathe, in the order of the times.</summary>
    private readonly List<(int From, int To, int Job)> blocks = [];
    private int late;
    private int finish;
    private int changeOver;
    private int notKept;
    private int moves;

    public Timetable(DayProblem day)
    {
        (this.day, steps) = (day, []);
        operators = [.. day.Operators.Select(_ => new List<Taken>())];
        parts = [.. Enumerable.Range(0, day.Parts).Select(_ => new List<(int, int)>())];
        (latheFree, onLathe) = (new int[day.Lathes.Count], new int[day.Lathes.Count]);
        setUp = [.. day.Lathes.Select(l => l.SetUp)];
        (ready, until) = (new int[day.Jobs.Count], new int[day.Works.Count]);
        for (var w = 0; w < day.Works.Count; w++)
            if (day.Works[w].Running is { } running)
                PlaceRunning(w, running);
    }

    /// <summary>A copy of another one, to be gone on with.</summary>
    /// <param name="other">The other one, of the same day.</param>
    /// <param name="keepsSteps">Whether steps are wanted and not only what they cost.</param>
    public Timetable(Timetable other, bool keepsSteps = true)
    {
        day = other.day;
        steps = keepsSteps ? [] : null;
        operators = [.. other.operators.Select(_ => new List<Taken>())];
        parts = [.. other.parts.Select(_ => new List<(int, int)>())];
        (latheFree, onLathe) = (new int[other.latheFree.Length], new int[other.onLathe.Length]);
        (setUp, ready, until) = (new int[other.setUp.Length], new int[other.ready.Length], new int[other.until.Length]);
        CopyFrom(other);
    }

    /// <summary>Becomes a copy of another one of the same day, in the memory that it has.</summary>
    public void CopyFrom(Timetable other)
    {
        for (var o = 0; o < operators.Length; o++)
            Copy(other.operators[o], operators[o]);
        for (var p = 0; p < parts.Length; p++)
            Copy(other.parts[p], parts[p]);
        other.latheFree.CopyTo(latheFree, 0);
        other.setUp.CopyTo(setUp, 0);
        other.onLathe.CopyTo(onLathe, 0);
        other.ready.CopyTo(ready, 0);
        other.until.CopyTo(until, 0);
        Copy(other.blocks, blocks);
        if (steps is not null)
            Copy(other.steps ?? throw new InvalidOperationException("The steps were not kept."), steps);
        (late, finish, changeOver, notKept, moves) = (other.late, other.finish, other.changeOver, other.notKept, other.moves);
    }

    private static void Copy<T>(List<T> from, List<T> to)
    {
        to.Clear();
        to.AddRange(from);
    }

    public IReadOnlyList<Step> Steps => steps ?? throw new InvalidOperationException("The steps were not kept.");

    /// <summary>
    /// Places steps of a surface: measuring and machining, or confirming. Where a step finds no time, none after it does, and the job
    /// counts as ready at the last minute of all.
    /// </summary>
    /// <param name="work">The surface.</param>
    /// <param name="way">Which way it is machined, 0 where it is not machined any more; <see cref="Confirms"/> for confirming.</param>
    public void Place(int work, int way)
    {
        var (w, at) = (day.Works[work], until[work]);
        if (at < 0)
            return;
        var isPlaced = way == Confirms ? OffLathe(work, WorkStep.Confirm, w.Confirm!, ref at) : ToConfirm(work, way, ref at);
        until[work] = isPlaced ? at : -1;
        var ends = isPlaced ? at : day.End;
        if (ends <= ready[w.Job])
            return;
        var (promised, weight) = day.Jobs[w.Job];
        late += weight * (Math.Max(0, ends - promised) - (ready[w.Job] > 0 ? Math.Max(0, ready[w.Job] - promised) : 0));
        ready[w.Job] = ends;
        finish = Math.Max(finish, ends);
    }

    /// <summary>Measuring and machining; false where one of them finds no time.</summary>
    private bool ToConfirm(int work, int way, ref int from)
    {
        var w = day.Works[work];
        if (w is { Measure: { } measure, Running: null } && !OffLathe(work, WorkStep.Measure, measure, ref from))
            return false;
        if (w.Running is { } running)
            from = running.Attended + running.Feeding;
        return !w.IsToMount || Mount(work, way, ref from);
    }

    /// <summary>When what was placed of a surface ends; -1 where a step of it found no time.</summary>
    public int Until(int work) => until[work];

    /// <summary>Cost of what is placed so far; of a whole day when all is.</summary>
    public BoardCost Cost() => new(notKept, late, changeOver + Waiting(), finish, moves);

    /// <summary>What no day that goes on from here costs less than. Waiting is left out: it may become less.</summary>
    public BoardCost AtLeast => new(notKept, late, changeOver, finish, moves);

    /// <summary>When each lathe is free.</summary>
    public IReadOnlyList<int> LatheFree => latheFree;

    /// <summary>What each lathe is set up for.</summary>
    public IReadOnlyList<int> SetUps => setUp;

    /// <summary>Minutes of change-over so far.</summary>
    public int ChangeOvers => changeOver;

    /// <summary>
    /// Everything that what comes later depends on, as one number that no other state has: which surfaces are placed, where lathes,
    /// operators and parts are free, and between which times each job was on a lathe.
    /// </summary>
    /// <param name="done">What is placed, a bit for each.</param>
    /// <param name="toConfirm">The surfaces that are placed but for their confirming.</param>
    public (ulong, ulong) State(int done, ReadOnlySpan<int> toConfirm)
    {
        var mix = new Mixer();
        mix.Add(done);
        foreach (var work in toConfirm)
            mix.Add(until[work]);
        for (var l = 0; l < latheFree.Length; l++)
            mix.Add(latheFree[l], setUp[l], onLathe[l]);
        foreach (var times in operators)
        {
            mix.Add(times.Count);
            foreach (var taken in times)
                mix.Add(taken.From, taken.To, (int)taken.Kind);
        }
        foreach (var (from, to, job) in blocks)
            mix.Add(from, to, job);
        foreach (var at in ready)
            mix.Add(at);
        return mix.Result;
    }

    /// <summary>Mixes numbers into 128 bits; two states fall together less than once in 10^30.</summary>
    private struct Mixer
    {
        private ulong a = 0x9E3779B97F4A7C15,
            b = 0xC2B2AE3D27D4EB4F;

        public Mixer() { }

        public readonly (ulong, ulong) Result => (a, b);

        public void Add(int value)
        {
            a = (a ^ (uint)value) * 0xFF51AFD7ED558CCD;
            a ^= a >> 32;
            b = (b + (uint)value) * 0xD6E8FEB86659FD93;
            b ^= b >> 29;
        }

        public void Add(int x, int y, int z)
        {
            Add(x);
            Add(y);
            Add(z);
        }
    }

    /// <summary>Whether every step of a surface has its time.</summary>
    public bool IsWhole(int work)
    {
        var w = day.Works[work];
        return Steps.Count(s => s.Work == work) == (w.Measure is null ? 0 : 1) + (w.IsMachined ? 1 : 0) + (w.Confirm is null ? 0 : 1);
    }

    /// <summary>When each job is ready; 0 for one that nothing was placed of.</summary>
    public IReadOnlyList<int> Ready => ready;

    /// <summary>Minutes of work between the blocks of one job in which none of its parts is on a lathe.</summary>
    private int Waiting()
    {
        var total = 0;
        Span<int> until = stackalloc int[ready.Length];
        until.Fill(-1);
        foreach (var (from, to, job) in blocks)
        {
            if (until[job] >= 0)
                total += day.Worked(until[job], from);
            until[job] = Math.Max(until[job], to);
        }
        return total;
    }

    private void AddBlock(int from, int to, int job)
    {
        var at = blocks.Count;
        while (at > 0 && (blocks[at - 1].From, blocks[at - 1].Job).CompareTo((from, job)) > 0)
            at--;
        blocks.Insert(at, (from, to, job));
    }

    private void PlaceRunning(int work, DayProblem.Running running)
    {
        var end = running.Attended + running.Feeding;
        var isOnLathe = running.Lathe >= 0;
        if (running.Attended > 0)
            Take(operators[running.Operator], new(0, running.Attended, isOnLathe ? Kind.AtLathe : Kind.OffLathe));
        if (running.Feeding > 0)
            Take(operators[running.Operator], new(running.Attended, end, Kind.InBay));
        TakePart(day.Works[work].Part, 0, end);
        var what =
            isOnLathe ? WorkStep.Machine
            : day.Works[work].IsConfirming ? WorkStep.Confirm
            : WorkStep.Measure;
        steps?.Add(new(work, what, running.Operator, running.Lathe, 0, running.Attended, end, 0));
        if (!isOnLathe)
            return;
        AddBlock(0, end, day.Works[work].Job);
        latheFree[running.Lathe] = end;
        if (day.Works[work].Ways.FirstOrDefault(w => w.Lathe == running.Lathe) is { } way)
            setUp[running.Lathe] = way.SetUp;
    }

    private bool OffLathe(int work, WorkStep what, int[] minutes, ref int from)
    {
        var w = day.Works[work];
        var (end, who) = (DayProblem.Never, -1);
        for (var o = 0; o < operators.Length; o++)
        {
            var at = Soonest(o, w.Part, from, 0, minutes[o], 0, Kind.OffLathe, null);
            if (at + minutes[o] < end)
                (end, who) = (at + minutes[o], o);
        }
        if (who < 0)
            return NotPlaced();
        var begin = end - minutes[who];
        Take(operators[who], new(begin, end, Kind.OffLathe));
        TakePart(w.Part, begin, end);
        steps?.Add(new(work, what, who, -1, begin, end, end, 0));
        from = end;
        return true;
    }

    private bool Mount(int work, int which, ref int from)
    {
        var w = day.Works[work];
        if (w.Ways.Length == 0)
            return NotPlaced();
        var way = w.Ways[which];
        var change = day.ChangeOver(way.Lathe, setUp[way.Lathe], way.SetUp);
        var soonest = Math.Max(Math.Max(from, w.NotBefore) - change, latheFree[way.Lathe]);
        var (end, who) = (DayProblem.Never, -1);
        for (var o = 0; o < operators.Length; o++)
        {
            var hands = change + way.Attended[o];
            var at = Soonest(o, w.Part, soonest, change, hands, way.Feeding, Kind.AtLathe, day.Lathes[way.Lathe].Open);
            var ends = at + hands + way.Feeding;
            if (ends < end || ends == end && who >= 0 && o == day.Lathes[way.Lathe].Last)
                (end, who) = (ends, o);
        }
        if (who < 0)
            return NotPlaced();
        var feeds = end - way.Feeding;
        var mount = feeds - way.Attended[who];
        var best = mount - change;
        if (feeds > best)
            Take(operators[who], new(best, feeds, Kind.AtLathe));
        if (end > feeds)
            Take(operators[who], new(feeds, end, Kind.InBay));
        TakePart(w.Part, mount, end);
        steps?.Add(new(work, WorkStep.Machine, who, way.Lathe, mount, feeds, end, change));
        // What has to wait because somebody said so does not make its job wait.
        if (w.NotBefore == 0)
            AddBlock(mount, end, w.Job);
        (latheFree[way.Lathe], setUp[way.Lathe]) = (end, way.SetUp);
        changeOver += change;
        if ((w.Place >= 0 && w.Place != onLathe[way.Lathe]) || (w.NotNextOn == way.Lathe && onLathe[way.Lathe] == 0))
            notKept++;
        onLathe[way.Lathe]++;
        if (w.Seen is { } seen && (seen.Lathe != way.Lathe || Math.Abs(seen.At - mount) > 5))
            moves++;
        from = end;
        return true;
    }

    private bool NotPlaced()
    {
        notKept++;
        return false;
    }

    /// <summary>
    /// The soonest minute at which an operator can begin: hands on for a while, then in the bay for a while, all within one window of the
    /// operator and of the lathe; the part is needed after a change-over.
    /// </summary>
    private int Soonest(int who, int part, int from, int before, int hands, int bay, Kind kind, (int From, int To)[]? lathe)
    {
        var (at, length) = (Math.Max(from, 0), hands + bay);
        while (true)
        {
            var start = at;
            at = InWindow(day.Operators[who], at, length);
            if (lathe is not null)
                at = InWindow(lathe, at, length);
            if (at >= DayProblem.Never)
                return DayProblem.Never;
            var all = CollectionsMarshal.AsSpan(operators[who]);
            // What began longer ago than anything takes is over.
            var first = all.Length;
            while (first > 0 && all[first - 1].From > at - day.Longest)
                first--;
            foreach (var taken in all[first..])
            {
                if (taken.From >= at + length)
                    break;
                if (taken.To > at && taken.From < at + hands && Excludes(kind, taken.Kind))
                    at = taken.To;
                else if (bay > 0 && taken.To > at + hands && taken.From < at + length && Excludes(Kind.InBay, taken.Kind))
                    at = taken.To - hands;
            }
            foreach (var (begin, end) in part < 0 ? [] : CollectionsMarshal.AsSpan(parts[part]))
                if (end > at + before && begin < at + length)
                    at = end - before;
            if (at == start)
                return at;
        }
    }

    /// <summary>Whether one person cannot do both at a time.</summary>
    private bool Excludes(Kind a, Kind b) => a == Kind.AtLathe || b == Kind.AtLathe || a == b || !day.Day.MeasuresWhileFeeding;

    private static int InWindow((int From, int To)[] windows, int at, int length)
    {
        foreach (var (from, to) in windows)
            if (Math.Max(at, from) + length <= to)
                return Math.Max(at, from);
        return DayProblem.Never;
    }

    private void TakePart(int part, int from, int to)
    {
        if (part >= 0)
            parts[part].Add((from, to));
    }

    private static void Take(List<Taken> times, Taken taken)
    {
        var at = times.Count;
        while (at > 0 && times[at - 1].From > taken.From)
            at--;
        times.Insert(at, taken);
    }
}
