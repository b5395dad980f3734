namespace Uncial.Core.Scheduling;

/// <summary>
/// Improves an order of surfaces and confirmings by simulated annealing: changes a little of it over and over, and goes on from what is
/// better, and now and then from what is worse, less and less often. Always the same way for the same day. What comes out never costs more
/// than what it began with.
/// </summary>
internal sealed class NeighbourhoodSearch
{
    /// <summary>So many steps are placed on the way; more takes longer and gains less and less.</summary>
    private const int Effort = 60_000;

    /// <summary>For each surface so many where every order is tried after it.</summary>
    private const int EffortOfExact = 2_000;

    /// <summary>A further round is so many times as long as the first.</summary>
    private const int OfRound = 5;

    /// <summary>For each surface beyond a few so many more, up to forty surfaces.</summary>
    private const int More = 3_300,
        Few = 25,
        Many = 40;

    /// <summary>What is worse by so many minutes is gone on from in one of three cases: at the beginning and at the end.</summary>
    private const double WarmAt = 5,
        ColdAt = 0.5;

    /// <summary>
    /// What a minute of lateness weighs against one of change-over or waiting while it is searched. At first little, so that the search
    /// gets about; then, from the best that was found, as much as the costs say.
    /// </summary>
    private const double LateAtFirst = 2,
        LateThen = 50;

    private const double NotKeptWeighs = 10_000,
        FinishWeighs = 0.02,
        MoveWeighs = 0.1;

    /// <summary>What a copy of a day takes, against placing a step.</summary>
    private const int OfCopy = 2;

    /// <summary>A day is kept as far as it is placed at every so many entries of the order.</summary>
    private const int Apart = 6;

    /// <summary>So far away something is moved in two of three cases, in entries; else anywhere.</summary>
    private const int Near = 8;

    private readonly DayProblem day;
    private readonly Random random;
    private readonly CancellationToken cancel;
    private readonly Timetable trial;

    /// <summary>The day with the first entries of the order placed, as far as those are right.</summary>
    private readonly Timetable[] placed;
    private readonly List<(int Work, int Way)> here;
    private readonly List<(int Work, int Way)> next = [];
    private double lateWeighs = LateAtFirst;
    private int right;
    private int left;

    private NeighbourhoodSearch(
        DayProblem day,
        Timetable head,
        IReadOnlyList<(int Work, int Way)> start,
        int effort,
        int round,
        CancellationToken cancel
    )
    {
        (this.day, left, here, random, this.cancel) = (day, effort, [.. start], new(17 + round), cancel);
        trial = new(head, keepsSteps: false);
        placed = [.. Enumerable.Range(0, start.Count / Apart + 1).Select(_ => new Timetable(head, keepsSteps: false))];
    }

    /// <summary>A better order, or the same.</summary>
    /// <param name="day">The day.</param>
    /// <param name="head">What is placed before all others.</param>
    /// <param name="start">The order to begin with.</param>
    /// <param name="effort">How many steps are placed; null for as many as suit the number of surfaces.</param>
    /// <param name="round">0 for a first answer; each further round goes other ways, and is longer.</param>
    /// <param name="cancel">Gives it up.</param>
    /// <exception cref="OperationCanceledException">It was given up.</exception>
    public static IReadOnlyList<(int Work, int Way)> Improve(
        DayProblem day,
        Timetable head,
        IReadOnlyList<(int Work, int Way)> start,
        int? effort = null,
        int round = 0,
        CancellationToken cancel = default
    )
    {
        var surfaces = start.Count(IsSurface);
        var isChosen = surfaces < 2 && start.All(s => day.Works[s.Work].Choices < 2) && start.Count < 3;
        return isChosen || surfaces == 0
            ? start
            : new NeighbourhoodSearch(day, head, start, effort ?? (round == 0 ? 1 : OfRound) * EffortFor(surfaces), round, cancel).Run();
    }

    private static int EffortFor(int surfaces) =>
        surfaces <= ExactSearch.Most ? EffortOfExact * surfaces : Effort + More * Math.Clamp(surfaces - Few, 0, Many - Few);

    private static bool IsSurface((int Work, int Way) entry) => entry.Way != Timetable.Confirms;

    private List<(int Work, int Way)> Run()
    {
        List<(int Work, int Way)> best = [.. here];
        trial.CopyFrom(placed[0]);
        foreach (var (work, way) in here)
            trial.Place(work, way);
        var (least, half) = (trial.Cost(), left / 2);
        Anneal(best, ref least, half);
        (lateWeighs, right) = (LateThen, 0);
        here.Clear();
        here.AddRange(best);
        Anneal(best, ref least, half);
        return best;
    }

    /// <summary>Goes on from the order here until the effort is spent, and keeps the best.</summary>
    private void Anneal(List<(int Work, int Way)> best, ref BoardCost least, int effort)
    {
        var cost = least;
        left = effort;
        while (left > 0)
        {
            cancel.ThrowIfCancellationRequested();
            left--;
            next.Clear();
            next.AddRange(here);
            Change();
            var from = 0;
            while (from < here.Count && here[from] == next[from])
                from++;
            if (from == here.Count)
                continue;
            var warmth = WarmAt * Math.Pow(ColdAt / WarmAt, 1 - (double)left / effort);
            if (CostFrom(from, Weigh(cost) - warmth * Math.Log(1 - random.NextDouble())) is not { } changed)
                continue;
            here.Clear();
            here.AddRange(next);
            (right, cost) = (Math.Min(right, from / Apart), changed);
            if (cost >= least)
                continue;
            least = cost;
            best.Clear();
            best.AddRange(here);
        }
    }

    private double Weigh(BoardCost cost) =>
        cost.NotKept * NotKeptWeighs + cost.Lateness * lateWeighs + cost.Idle + cost.Finish * FinishWeighs + cost.Moves * MoveWeighs;

    /// <summary>
    /// What the changed order costs, where it weighs no more than a bound; null where it does, given up as soon as that is known.
    /// </summary>
    private BoardCost? CostFrom(int from, double most)
    {
        // What stands before the change is placed once for many changes.
        for (; right < from / Apart; right++)
        {
            placed[right + 1].CopyFrom(placed[right]);
            for (var i = right * Apart; i < (right + 1) * Apart; i++)
                placed[right + 1].Place(here[i].Work, here[i].Way);
            left -= OfCopy + Apart;
        }
        trial.CopyFrom(placed[from / Apart]);
        left -= OfCopy;
        for (var i = from / Apart * Apart; i < next.Count; i++)
        {
            trial.Place(next[i].Work, next[i].Way);
            left--;
            if (Weigh(trial.AtLeast) > most)
                return null;
        }
        return trial.Cost() is var cost && Weigh(cost) <= most ? cost : null;
    }

    /// <summary>Changes one thing in the order.</summary>
    private void Change()
    {
        var at = random.Next(next.Count);
        if (!IsSurface(next[at]) && random.Next(2) == 0)
        {
            MoveConfirming(at);
            return;
        }
        while (!IsSurface(next[at]))
            at = random.Next(next.Count);
        var (work, way) = next[at];
        var choices = day.Works[work].Choices;
        switch (random.Next(15))
        {
            case 0:
                next[at] = (work, random.Next(choices));
                break;
            case < 3:
                Swap(at);
                break;
            case < 6:
                MoveJob(work);
                break;
            case < 9:
                Follow(at);
                break;
            case < 11:
                MoveStretch(at);
                break;
            default:
                next.RemoveAt(at);
                Insert(Beside(at), work, random.Next(3) == 0 ? random.Next(choices) : way);
                break;
        }
    }

    private int Beside(int at) =>
        random.Next(3) == 0 ? random.Next(next.Count + 1) : Math.Clamp(at + random.Next(-Near, Near + 1), 0, next.Count);

    private int PlaceOf(int work) => next.FindIndex(e => e.Work == work && IsSurface(e));

    /// <summary>
    /// Puts a surface in. Its confirming stays where it is or comes along: behind it, or behind what is mounted after it.
    /// </summary>
    private void Insert(int at, int work, int way)
    {
        next.Insert(at, (work, way));
        var confirming = next.IndexOf((work, Timetable.Confirms));
        if (confirming < 0 || confirming > at && random.Next(2) == 0)
            return;
        next.RemoveAt(confirming);
        var to = confirming < at ? at : at + 1;
        for (var skip = random.Next(3); skip > 0 && to < next.Count; skip--)
        {
            while (to < next.Count && !IsSurface(next[to]))
                to++;
            to = Math.Min(next.Count, to + 1);
        }
        next.Insert(to, (work, Timetable.Confirms));
    }

    private void MoveConfirming(int at)
    {
        var confirming = next[at];
        next.RemoveAt(at);
        next.Insert(Math.Max(PlaceOf(confirming.Work) + 1, Beside(at)), confirming);
    }

    /// <summary>Changes the places of two surfaces.</summary>
    private void Swap(int at)
    {
        var other = random.Next(next.Count);
        if (!IsSurface(next[other]))
            return;
        (next[at], next[other]) = (next[other], next[at]);
        ConfirmAfter();
    }

    /// <summary>Puts a surface beside another one that is held alike, on its lathe.</summary>
    private void Follow(int at)
    {
        var entry = next[at];
        var setUp = WayOf(entry)?.SetUp;
        List<(int Work, int Way)> alike = [.. next.Where(e => IsSurface(e) && e.Work != entry.Work && WayOf(e)?.SetUp == setUp)];
        if (alike.Count == 0)
            return;
        var other = alike[random.Next(alike.Count)];
        var way = Array.FindIndex(day.Works[entry.Work].Ways, w => w.Lathe == WayOf(other)?.Lathe);
        next.RemoveAt(at);
        Insert(next.IndexOf(other) + random.Next(2), entry.Work, way >= 0 ? way : entry.Way);
    }

    private DayProblem.Way? WayOf((int Work, int Way) entry) =>
        day.Works[entry.Work].Ways is var ways && entry.Way >= 0 && entry.Way < ways.Length ? ways[entry.Way] : null;

    /// <summary>Moves what stands together as it is.</summary>
    private void MoveStretch(int at)
    {
        var stretch = next.GetRange(at, Math.Min(next.Count - at, 2 + random.Next(Near)));
        next.RemoveRange(at, stretch.Count);
        next.InsertRange(random.Next(next.Count + 1), stretch);
        ConfirmAfter();
    }

    /// <summary>Puts the surfaces of a job one behind the other, now and then in the same way.</summary>
    private void MoveJob(int work)
    {
        bool IsOfJob((int Work, int Way) e) => IsSurface(e) && day.Works[e.Work].Job == day.Works[work].Job;
        var entries = next.FindAll(IsOfJob);
        var at = next.FindIndex(IsOfJob);
        next.RemoveAll(IsOfJob);
        var to = Beside(Math.Min(at, next.Count));
        var alike = random.Next(4);
        foreach (var entry in entries)
        {
            Insert(Math.Min(to, next.Count), entry.Work, alike < day.Works[entry.Work].Choices ? alike : entry.Way);
            to = PlaceOf(entry.Work) + 1;
        }
    }

    /// <summary>Puts confirmings that stand before their surface behind it.</summary>
    private void ConfirmAfter()
    {
        for (var i = 0; i < next.Count; i++)
        {
            if (IsSurface(next[i]) || PlaceOf(next[i].Work) is var at && at < i)
                continue;
            var confirming = next[i];
            next.RemoveAt(i--);
            next.Insert(at, confirming);
        }
    }
}
