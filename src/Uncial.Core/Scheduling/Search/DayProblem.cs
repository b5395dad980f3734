using Uncial.Core.Parts;

namespace Uncial.Core.Scheduling;

/// <summary>
/// A day to plan in whole minutes from now, with places in arrays instead of numbers of things: what the search works with.
/// </summary>
internal sealed class DayProblem
{
    /// <summary>Never.</summary>
    public const int Never = int.MaxValue / 4;

    /// <summary>A minute of lateness of an urgent job counts so often.</summary>
    private const int UrgentWeight = 3;

    private readonly Dictionary<LatheSetUp, int> setUps = [];

    /// <summary>Of a day.</summary>
    /// <param name="day">The day.</param>
    /// <param name="drawn">Steps take as long as this decides; null for their sure times.</param>
    /// <param name="barred">A surface that must not come next on a lathe, and the lathe; null for none.</param>
    /// <param name="hours">The same day with other times, of which the hours are taken over; null to work them out.</param>
    public DayProblem(DayToPlan day, Random? drawn = null, (int WorkId, int LatheId)? barred = null, DayProblem? hours = null)
    {
        int Minutes(StepTime time) => drawn is null ? time.Sure : time.Draw(drawn);
        // One draw for all who take as long as anybody.
        int[] ByOperator(StepTime time)
        {
            var usual = Minutes(time);
            return [.. day.Operators.Select(o => time.Own.TryGetValue(o.Id, out var own) ? Minutes(own) : usual)];
        }
        Day = day;
        var jobs = day.Jobs.Select((j, i) => (j.Id, i)).ToDictionary();
        var lathes = day.Lathes.Select((l, i) => (l.Id, i)).ToDictionary();
        var operators = day.Operators.Select((o, i) => (o.Id, i)).ToDictionary();
        var parts = day.Works.GroupBy(w => w.PartId).Where(p => p.Count() > 1).Select((p, i) => (p.Key, i)).ToDictionary();
        var seen = day.Seen.Where(s => s.LatheId is not null).ToDictionary(s => s.WorkId);
        Parts = parts.Count;
        Jobs = [.. day.Jobs.Select(j => (j.Promised is { } at ? MinuteOf(at) : Never, j.IsUrgent ? UrgentWeight : 1))];
        Lathes =
        [
            .. day.Lathes.Select(
                (l, i) =>
                    new Lathe(
                        hours is null ? Windows(l.Open) : hours.Lathes[i].Open,
                        l.SetUp is { } s ? Known(s) : -1,
                        l.HeadMinutes,
                        l.AdapterMinutes,
                        l.OperatorId is { } o ? operators.GetValueOrDefault(o, -1) : -1
                    )
            ),
        ];
        Operators = hours?.Operators ?? [.. day.Operators.Select(o => Windows(o.AtWork))];
        End = Operators.SelectMany(o => o).Select(w => w.To).DefaultIfEmpty(1).Max();
        worked = hours?.worked ?? WorkedUntil(Operators, End);
        Works =
        [
            .. day.Works.Select(w => new Work(
                jobs[w.JobId],
                parts.GetValueOrDefault(w.PartId, -1),
                w.Measure is { } measure ? ByOperator(measure) : null,
                [
                    .. w
                        .Machinings.Where(m => lathes.ContainsKey(m.LatheId) && (w.Pin?.LatheId is not { } pinned || pinned == m.LatheId))
                        .Select(m => new Way(lathes[m.LatheId], Known(m.SetUp), ByOperator(m.Attended), Minutes(m.Feeding))),
                ],
                w.Confirm is { } confirm ? ByOperator(confirm) : null,
                w.Pin?.NotBefore is { } from ? Math.Max(0, MinuteOf(from)) : 0,
                w.Pin?.Place ?? -1,
                w.Started is { } s
                    ? new Running(
                        operators[s.OperatorId],
                        s.LatheId is { } l ? lathes[l] : -1,
                        Minutes(s.AttendedLeft),
                        Minutes(s.FeedingLeft)
                    )
                    : null,
                seen.TryGetValue(w.Id, out var place) && lathes.TryGetValue(place.LatheId!.Value, out var at)
                    ? (at, MinuteOf(place.At))
                    : null,
                w.Machinings.Count > 0 || w.Started is { LatheId: not null },
                barred is { } b && b.WorkId == w.Id ? lathes[b.LatheId] : -1
            )),
        ];
        Longest = Works
            .SelectMany(w =>
                w.Ways.SelectMany(x => x.Attended.Append(x.Feeding))
                    .Concat(w.Measure ?? [])
                    .Concat(w.Confirm ?? [])
                    .Concat(w.Running is { } r ? [r.Attended, r.Feeding] : [])
            )
            .DefaultIfEmpty()
            .Max();
        Longest += Lathes.Select(l => Math.Max(l.HeadMinutes, l.AdapterMinutes)).DefaultIfEmpty().Max();
    }

    private readonly int[] worked;

    public DayToPlan Day { get; }

    /// <summary>Nobody is taken for longer than this at a time.</summary>
    public int Longest { get; }

    /// <summary>The last minute at which anybody works.</summary>
    public int End { get; }

    /// <summary>So many parts have more than one surface.</summary>
    public int Parts { get; }

    /// <summary>When each job is promised, and what a minute after that weighs.</summary>
    public IReadOnlyList<(int Promised, int Weight)> Jobs { get; }

    public IReadOnlyList<Lathe> Lathes { get; }

    /// <summary>When each operator works.</summary>
    public IReadOnlyList<(int From, int To)[]> Operators { get; }

    public IReadOnlyList<Work> Works { get; }

    /// <summary>A lathe, with who worked at it last, -1 for nobody.</summary>
    internal sealed record Lathe((int From, int To)[] Open, int SetUp, int HeadMinutes, int AdapterMinutes, int Last);

    /// <summary>A way to machine a surface, with the minutes of each operator.</summary>
    internal sealed record Way(int Lathe, int SetUp, int[] Attended, int Feeding)
    {
        /// <summary>Minutes that it takes at least.</summary>
        public int Least => Attended.DefaultIfEmpty().Min() + Feeding;
    }

    /// <summary>A step under way; the lathe is -1 off the lathe.</summary>
    internal sealed record Running(int Operator, int Lathe, int Attended, int Feeding);

    /// <summary>
    /// What is to do at a surface, in minutes of each operator; null stands for done, a place of -1 for any, a lathe of -1 for none, a part
    /// of -1 for one that has no other surface.
    /// </summary>
    internal sealed record Work(
        int Job,
        int Part,
        int[]? Measure,
        Way[] Ways,
        int[]? Confirm,
        int NotBefore,
        int Place,
        Running? Running,
        (int Lathe, int At)? Seen,
        bool IsMachined,
        int NotNextOn
    )
    {
        /// <summary>It has a block on a lathe that is not under way yet.</summary>
        public bool IsToMount => IsMachined && Running is not { Lathe: >= 0 };

        /// <summary>It is being confirmed.</summary>
        public bool IsConfirming => Running is { Lathe: < 0 } && Measure is null;

        /// <summary>Its confirming is still to be placed.</summary>
        public bool IsToConfirm => Confirm is not null && !IsConfirming;

        /// <summary>In how many ways it can be placed.</summary>
        public int Choices => IsToMount ? Math.Max(1, Ways.Length) : 1;
    }

    /// <summary>Minutes to change a lathe from one set-up to another; -1 stands for one that is not known.</summary>
    public int ChangeOver(int lathe, int from, int to) =>
        from == to ? 0
        : from >= 0 && heads[from] == heads[to] ? Lathes[lathe].AdapterMinutes
        : Lathes[lathe].HeadMinutes;

    /// <summary>Minutes between two others in which somebody works.</summary>
    public int Worked(int from, int to) => Math.Max(0, worked[Math.Clamp(to, 0, End)] - worked[Math.Clamp(from, 0, End)]);

    private static int[] WorkedUntil(IReadOnlyList<(int From, int To)[]> operators, int end)
    {
        var works = new bool[end];
        foreach (var (from, to) in operators.SelectMany(o => o))
            Array.Fill(works, true, from, to - from);
        var until = new int[end + 1];
        for (var minute = 0; minute < end; minute++)
            until[minute + 1] = until[minute] + (works[minute] ? 1 : 0);
        return until;
    }

    /// <summary>The moment of a minute.</summary>
    public DateTimeOffset At(int minute) => Day.Now.AddMinutes(minute);

    private readonly List<PartKind> heads = [];

    private int Known(LatheSetUp setUp)
    {
        if (setUps.TryGetValue(setUp, out var at))
            return at;
        setUps.Add(setUp, heads.Count);
        heads.Add(setUp.Head);
        return heads.Count - 1;
    }

    /// <summary>The minute in which a moment lies.</summary>
    private int MinuteOf(DateTimeOffset moment) => (int)Math.Clamp(Math.Floor((moment - Day.Now).TotalMinutes), -Never, Never);

    /// <summary>What of the windows is still to come, in whole minutes, in order; windows that touch are one.</summary>
    private (int From, int To)[] Windows(IReadOnlyList<TimeWindow> windows)
    {
        List<(int From, int To)> all = [];
        foreach (var window in windows.OrderBy(w => w.From))
        {
            var (from, to) = (Math.Max(0, (int)Math.Ceiling((window.From - Day.Now).TotalMinutes)), MinuteOf(window.To));
            if (to <= from)
                continue;
            if (all.Count > 0 && all[^1].To >= from)
                all[^1] = (all[^1].From, Math.Max(all[^1].To, to));
            else
                all.Add((from, to));
        }
        return [.. all];
    }
}
