using Uncial.Core.Parts;
using Uncial.Core.Scheduling;
using Uncial.Data;
using Uncial.Web.Pages;
using Uncial.Web.Text;

namespace Uncial.Web.Board;

/// <summary>How a block on the board stands.</summary>
public enum BlockState
{
    /// <summary>It is over.</summary>
    Done,

    /// <summary>Somebody is at it.</summary>
    Running,

    /// <summary>It can be begun as soon as its turn comes.</summary>
    Planned,

    /// <summary>It waits for a step before it.</summary>
    Waiting,
}

/// <summary>A step on the board.</summary>
public sealed record BoardBlock
{
    /// <summary>The part, at the surface that is furthest behind.</summary>
    public required BenchPart Part { get; init; }
    public required SurfaceRecord Record { get; init; }
    public required WorkStep Step { get; init; }
    public required BlockState State { get; init; }
    public required DateTimeOffset From { get; init; }
    public required DateTimeOffset To { get; init; }
    public required string Who { get; init; }
    public int? LatheId { get; init; }

    /// <summary>Place among what is still to be mounted on its lathe, from 0; null where it is not to be mounted.</summary>
    public int? Place { get; init; }

    /// <summary>Minutes of change-over before it.</summary>
    public int ChangeOver { get; init; }

    /// <summary>The head is changed, not the adapters alone.</summary>
    public bool ChangesHead { get; init; }
    public PinNow? Pin { get; init; }

    public int SurfaceId => Record.Surface.Id;
    public Job Job => Part.Part.Job!;
    public bool IsPinned => Pin?.Pin is not null;

    /// <summary>By what it is found in another board.</summary>
    public string Key => $"{SurfaceId}{Step.ToString()[..2]}{(State == BlockState.Done ? From.ToUnixTimeSeconds() : 0)}";

    /// <summary>Where it is in the vehicle, in two letters.</summary>
    public string Corner => Part.Part.Corner == Core.Parts.Corner.Other ? Part.Part.Mark ?? "–" : Words.Say("short." + Part.Part.Corner);

    /// <summary>How it stands, in a word.</summary>
    public string Word =>
        State switch
        {
            BlockState.Done => Words.Say("board.done"),
            BlockState.Running when Step == WorkStep.Machine && Record.Cutting.IsCutting => Words.Say("board.cutting"),
            BlockState.Running => Words.Say(Step == WorkStep.Machine ? "board.on" : "board.now"),
            BlockState.Waiting => Words.Say(Record.Station <= Station.Measure ? "board.toRead" : "board.waiting"),
            _ => Words.Say("board.planned"),
        };

    /// <summary>What is written on it, as it is read out first.</summary>
    public string Seen => LatheId is null ? (Step == WorkStep.Confirm ? "✓" : "") + Corner : $"{Corner} {Word}";

    private string? AboutPin =>
        Pin?.Pin is not { } pin ? null
        : LatheId is { } at && pin.LatheId is { } pinned && pinned != at ? Words.Say("board.aboutPinElsewhere", Pin.By)
        : pin.NotBefore is { } from ? Words.Say("board.aboutNotBefore", WithDay(from), Pin.By)
        : Words.Say("board.aboutPin", Pin.By);

    private string WithDay(DateTimeOffset at) =>
        Dates.Shop.DayOf(at) == Dates.Shop.DayOf(From) ? Dates.Clock(at) : $"{Dates.Shop.Weekday(at)} {Dates.Clock(at)}";

    /// <summary>All that is known of it, in one sentence.</summary>
    public string About(string? lathe) =>
        string.Join(
            ". ",
            new[]
            {
                Words.Say("board.about", Words.Of(Part.Part, Record.Surface), Job.Number, Job.Vehicle),
                Words.Say(
                    lathe is null ? "board.aboutStep" : "board.aboutLathe",
                    Word,
                    Words.Say("board.step." + Step),
                    Dates.Clock(From),
                    Dates.Clock(To),
                    Who,
                    lathe
                ),
                ChangeOver > 0 ? Words.Say(ChangesHead ? "board.aboutHead" : "board.aboutAdapters", ChangeOver) : null,
                AboutPin,
            }.OfType<string>()
        ) + ".";
}

/// <summary>A lathe's lane.</summary>
/// <param name="Lathe">The lathe.</param>
/// <param name="Out">How it was marked last; null where it never was.</param>
/// <param name="Blocks">In the order of their times.</param>
public sealed record BoardLane(ShopLathe Lathe, OutageNow? Out, IReadOnlyList<BoardBlock> Blocks);

/// <summary>A promise at its time.</summary>
/// <param name="Job">The job.</param>
/// <param name="At">When it was promised.</param>
/// <param name="State">How it stands; null where nothing more is to do for it, or something of it waits for a decision.</param>
/// <param name="Late">Minutes that it is likely late; 0 where it is not.</param>
/// <param name="Waits">Something of it waits for a decision: nobody can say when it is ready.</param>
public sealed record PromiseFlag(Job Job, DateTimeOffset At, PromiseState? State, int Late, bool Waits)
{
    /// <summary>Its mark: no two states share one.</summary>
    public string Mark =>
        Waits ? "hand"
        : State is { } state ? MarkOf(state)
        : "cut";

    /// <summary>How it stands, in a word.</summary>
    public string Word =>
        Words.Say(
            Waits ? "board.state.waits"
            : State is { } state ? "board.state." + state
            : "board.readyWord"
        );

    /// <summary>Mark of a promise.</summary>
    public static string MarkOf(PromiseState state) =>
        state switch
        {
            PromiseState.Safe => "within",
            PromiseState.Tight => "close",
            _ => "worst",
        };
}

/// <summary>A day of the board as a screen draws it.</summary>
public sealed class BoardView
{
    /// <summary>So many hours before now are drawn.</summary>
    private const int LooksBackHours = 3;

    private readonly BoardNow now;
    private readonly Dictionary<int, (BenchPart Part, SurfaceRecord Record)> surfaces;

    /// <summary>Of a plan.</summary>
    /// <param name="now">The board that it is drawn from.</param>
    /// <param name="plan">The plan: that of the board, or one that is tried.</param>
    /// <param name="day">The day.</param>
    public BoardView(BoardNow now, PlannedDay plan, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(now);
        ArgumentNullException.ThrowIfNull(plan);
        (this.now, Plan, Day) = (now, plan, day);
        surfaces = now.At.Bench.Parts.SelectMany(p => p.Surfaces.Select(s => (s.Surface.Id, (p, s)))).ToDictionary(x => x.Id, x => x.Item2);
        var floor = now.At.Floor;
        var open = WorkHours.OnDay(null, floor.Settings, floor.SingleDays, day)?.On(day, floor.Time);
        var midnight = floor.Time.BeginOf(day);
        var next = floor.Time.BeginOf(day.AddDays(1));
        var until = open?.To is { } closing && closing > next ? closing : next;
        Lanes =
        [
            .. now
                .At.Shop.Lathes.Where(l => l.RetiredAt is null)
                .Select(l => new BoardLane(l, now.At.Outages.GetValueOrDefault(l.Id), BlocksOf(l, midnight, until))),
        ];
        Bench = [.. Steps(midnight, until).Where(b => b.LatheId is null).OrderBy(b => b.From).ThenBy(b => b.SurfaceId)];
        var all = Lanes.SelectMany(l => l.Blocks).Concat(Bench).ToList();
        var first = all.Select(b => b.From.AddMinutes(-b.ChangeOver)).DefaultIfEmpty(open?.From ?? midnight.AddHours(8)).Min();
        var last = all.Select(b => b.To).Append(open?.To ?? midnight.AddHours(17)).Max();
        // What is long over is scrolled to in the logbook, not here.
        if (Now >= midnight && Now < until && first < Now.AddHours(-LooksBackHours))
            first = Now.AddHours(-LooksBackHours);
        Begin = HourOf(floor.Time.Here(first > midnight ? first : midnight), up: false);
        End = HourOf(floor.Time.Here(last), up: true);
        Breaks =
        [
            .. WorkHours
                .BreaksOf(floor.Settings, day, floor.Time)
                .Where(b => b.From < End && b.To > Begin && open is { } o && b.From >= o.From && b.To <= o.To),
        ];
        Closed = open is { } hours ? WorkHours.Without([new(Begin, End)], [hours]) : [new(Begin, End)];
        Flags = [.. FlagsOf(midnight, until).OrderBy(f => f.At).ThenBy(f => f.Job.Number)];
    }

    public PlannedDay Plan { get; }
    public DateOnly Day { get; }
    public IReadOnlyList<BoardLane> Lanes { get; }

    /// <summary>What is measured and confirmed off the lathes.</summary>
    public IReadOnlyList<BoardBlock> Bench { get; }
    public IReadOnlyList<PromiseFlag> Flags { get; }
    public IReadOnlyList<TimeWindow> Breaks { get; }

    /// <summary>When nobody works.</summary>
    public IReadOnlyList<TimeWindow> Closed { get; }

    /// <summary>The first hour that is drawn.</summary>
    public DateTimeOffset Begin { get; }

    /// <summary>The end of the last hour.</summary>
    public DateTimeOffset End { get; }
    public DateTimeOffset Now => Plan.Day.Plan.Now;
    public int Hours => Math.Max(1, (int)Math.Round((End - Begin).TotalHours));
    public long Version => now.Version;

    /// <summary>What waits for a decision, with its page and why.</summary>
    public IEnumerable<(BenchPart Part, SurfaceRecord Record, BlockedWork? Why)> Held =>
        Plan
            .Day.Blocked.Select(b => (surfaces[b.SurfaceId].Part, surfaces[b.SurfaceId].Record, (BlockedWork?)b))
            .Concat(
                Plan.Board.NotPlaced.Where(surfaces.ContainsKey).Select(id => (surfaces[id].Part, surfaces[id].Record, (BlockedWork?)null))
            );

    /// <summary>A lathe's name.</summary>
    public string NameOf(int lathe) => now.At.Shop.Lathes.First(l => l.Id == lathe).Profile.Name;

    /// <summary>A person's name.</summary>
    public string WhoIs(int person) => now.At.People.GetValueOrDefault(person, Words.Say("board.formerMember"));

    /// <summary>What was decided last about a surface; null where nothing was.</summary>
    public PinNow? PinOf(int surface) => now.At.Pins.GetValueOrDefault(surface);

    /// <summary>Whether a surface is on the board.</summary>
    public bool Has(int surface) => surfaces.ContainsKey(surface);

    /// <summary>A surface of the board.</summary>
    public (BenchPart Part, SurfaceRecord Record) Of(int surface) => surfaces[surface];

    /// <summary>The job of a number; null where nothing of it is on the board.</summary>
    public Job? JobOf(int id) => now.At.Bench.Parts.FirstOrDefault(p => p.Part.JobId == id)?.Part.Job;

    /// <summary>Why something waits for a decision, in words.</summary>
    public static string WhyHeld(BlockedWork? why, Reader reader)
    {
        ArgumentNullException.ThrowIfNull(reader);
        return why switch
        {
            BlockedWork.LimitsMissing => Words.Say("bench.limitsMissing"),
            BlockedWork.BeyondLimit => Words.Say("bench.beyondLimit"),
            BlockedWork.BelowFloor => Words.Say("board.belowFloor"),
            BlockedWork.Stopped stopped => Words.Say("finding." + stopped.Kind),
            BlockedWork.NoLathe { Nearest: { } range } no => Words.Say(
                "board.noLathe",
                reader.SizeWith(no.Size),
                reader.Size(range.Least),
                reader.SizeWith(range.Greatest)
            ),
            BlockedWork.NoLathe => Words.Say("board.noLatheOfKind"),
            BlockedWork.LathesOut => Words.Say("board.lathesOut"),
            _ => Words.Say("board.noTime"),
        };
    }

    private IReadOnlyList<BoardBlock> BlocksOf(ShopLathe lathe, DateTimeOffset from, DateTimeOffset to)
    {
        var (place, on) = (0, Plan.Day.Plan.Lathes.First(l => l.Id == lathe.Id).SetUp);
        List<BoardBlock> blocks = [];
        foreach (
            var block in Steps(DateTimeOffset.MinValue, DateTimeOffset.MaxValue).Where(b => b.LatheId == lathe.Id).OrderBy(b => b.From)
        )
        {
            if (block.State is BlockState.Done)
            {
                blocks.Add(block);
                continue;
            }
            var next = Plan.Day.Plan.Works.First(w => w.Id == block.SurfaceId).Machinings.FirstOrDefault(m => m.LatheId == lathe.Id)?.SetUp;
            blocks.Add(block with { ChangesHead = on?.Head != next?.Head, Place = block.State == BlockState.Running ? null : place++ });
            on = next;
        }
        return [.. blocks.Where(b => b.From < to && b.To > from)];
    }

    private IEnumerable<BoardBlock> Steps(DateTimeOffset from, DateTimeOffset to)
    {
        foreach (var past in Plan.Day.Past.Where(p => p.From < to && p.To > from && surfaces.ContainsKey(p.SurfaceId)))
            yield return new()
            {
                Part = surfaces[past.SurfaceId].Part,
                Record = surfaces[past.SurfaceId].Record,
                Step = past.Step,
                State = BlockState.Done,
                From = past.From,
                // What took no time on record is still drawn.
                To = past.To > past.From.AddMinutes(1) ? past.To : past.From.AddMinutes(1),
                Who = WhoIs(past.OperatorId),
                LatheId = past.LatheId,
            };
        var measured = Plan.Board.Steps.Where(s => s.Step == WorkStep.Measure).Select(s => s.WorkId).ToHashSet();
        foreach (var step in Plan.Board.Steps.Where(s => s.From < to && s.To > from))
        {
            var (part, record) = surfaces[step.WorkId];
            var runs = Plan.IsUnderWay(step);
            yield return new()
            {
                Part = part,
                Record = record,
                Step = step.Step,
                State =
                    runs ? BlockState.Running
                    : step.Step == WorkStep.Machine && measured.Contains(step.WorkId) ? BlockState.Waiting
                    : step.Step == WorkStep.Confirm && record.Station < Station.Confirm ? BlockState.Waiting
                    : BlockState.Planned,
                From =
                    runs && step.LatheId is not null && record.Mounting.Mount is { } mount && mount.At < step.From ? mount.At : step.From,
                To = step.To,
                Who = WhoIs(step.OperatorId),
                LatheId = step.LatheId,
                ChangeOver = step.ChangeOver,
                Pin = now.At.Pins.GetValueOrDefault(step.WorkId),
            };
        }
    }

    private IEnumerable<PromiseFlag> FlagsOf(DateTimeOffset from, DateTimeOffset to)
    {
        foreach (var job in now.At.Bench.Parts.Select(p => p.Part.Job!).DistinctBy(j => j.Id))
        {
            if (job.PromisedAt is not { } at || at >= to)
                continue;
            var state = Plan.PromiseOf(job.Id);
            var open = now.At.Bench.Parts.Any(p => p.Part.JobId == job.Id && p.Station < Station.Release);
            // What was promised for a day before stands here as long as something is to do for it.
            if (at < from && !open)
                continue;
            var likely = Plan.Ready.GetValueOrDefault(job.Id)?.Likely;
            yield return new(
                job,
                at,
                state,
                likely is { } ready && ready > at ? (int)Math.Ceiling((ready - at).TotalMinutes) : 0,
                Plan.Day.HeldJobs.Contains(job.Id)
            );
        }
    }

    private static DateTimeOffset HourOf(DateTimeOffset at, bool up)
    {
        var hour = at.AddTicks(-(at.Ticks % TimeSpan.TicksPerHour));
        return up && hour < at ? hour.AddHours(1) : hour;
    }
}
