using System.Runtime.CompilerServices;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Release;
using Uncial.Core.Workflow;

namespace Uncial.Core.Scheduling;

/// <summary>What there is to do in a shop, as the planner takes it.</summary>
/// <param name="Plan">The day to plan.</param>
/// <param name="Blocked">What is not in it, and why.</param>
/// <param name="Past">What was done since the beginning of the day.</param>
public sealed record ShopDay(DayToPlan Plan, IReadOnlyList<BlockedWork> Blocked, IReadOnlyList<PastWork> Past)
{
    /// <summary>Jobs of which something waits for a decision: nobody can say when they are ready.</summary>
    public IReadOnlySet<int> HeldJobs { get; init; } = new HashSet<int>();

    /// <summary>So many days are looked ahead, today counted.</summary>
    public const int Days = 7;

    /// <summary>Of what the hands do at a lathe, one part in so many is finishing; the rest is mounting, check and first touch.</summary>
    private const int FinishingIsOneOf = 4;

    /// <summary>Kinds of the passes that would be taken, kept with the state that they follow from.</summary>
    private static readonly ConditionalWeakTable<SurfaceState, IReadOnlyList<PassKind>> Passes = [];

    /// <summary>What centres a surface on a lathe, kept with its state: to look for it takes longer than all the rest.</summary>
    private static readonly ConditionalWeakTable<SurfaceState, List<HeldBy>> Held = [];

    private sealed record HeldBy(MountShape Shape, Lathe Lathe, IReadOnlyList<Adapter> Board, string? Centring);

    /// <summary>Works it out.</summary>
    /// <param name="floor">The shop at a moment.</param>
    public static ShopDay Of(ShopFloor floor)
    {
        ArgumentNullException.ThrowIfNull(floor);
        // In whole minutes, as it is planned.
        var now = floor.Time.Here(floor.Now.AddTicks(-(floor.Now.Ticks % TimeSpan.TicksPerMinute)));
        var today = floor.Time.DayOf(now);
        var begin = floor.Time.BeginOf(today);
        var surfaces = floor.Jobs.SelectMany(j => j.Parts.SelectMany(p => p.Surfaces.Select(s => new OnFloor(floor, j, p, s)))).ToList();
        var blocked = surfaces.Select(s => s.Blocked).OfType<BlockedWork>().ToList();
        var works = surfaces.Where(s => s.Blocked is null).Select(s => s.Work(now)).OfType<SurfaceWork>().ToList();
        List<PastWork> past = [.. surfaces.SelectMany(s => s.Past).Where(p => p.To >= begin)];
        var working = works.Select(w => w.Started?.OperatorId).OfType<int>();
        return new(
            new()
            {
                Now = now,
                Jobs = [.. floor.Jobs.Select(j => new DayJob(j.Id, j.Promised is { } at ? floor.Time.Here(at) : null, j.IsUrgent))],
                Works = works,
                Lathes =
                [
                    .. floor.Lathes.Select(l => new DayLathe(
                        l.Id,
                        WorkHours.Without(
                            [new(now.AddDays(-1), floor.Time.Here(floor.Time.BeginOf(today.AddDays(Days + 1))))],
                            l.Outage(now) is { } o ? [o] : []
                        ),
                        l.SetUp,
                        (int)Math.Ceiling(l.Profile.ChangeOverMinutes),
                        floor.Settings.AdapterMinutes,
                        works.FirstOrDefault(w => w.Started?.LatheId == l.Id)?.Started?.OperatorId
                            ?? past.Where(p => p.LatheId == l.Id).MaxBy(p => p.To)?.OperatorId
                    )),
                ],
                // Who is at a part now is in the plan, also outside the own hours.
                Operators =
                [
                    .. floor
                        .Operators.Union(working)
                        .Select(o => new DayOperator(
                            o,
                            floor.Operators.Contains(o) ? WorkHours.Of(o, floor.Settings, floor.SingleDays, today, Days, floor.Time) : []
                        )),
                ],
                MeasuresWhileFeeding = floor.Settings.MeasuresWhileFeeding,
                Seen = floor.Seen,
            },
            blocked,
            past
        )
        {
            HeldJobs = surfaces.Where(s => s.Blocked is not null).Select(s => s.JobId).ToHashSet(),
        };
    }

    /// <summary>
    /// What there would be to do for parts that are not in the shop yet, and of which nothing but kind and corner is known.
    /// </summary>
    /// <param name="floor">The shop.</param>
    /// <param name="jobId">Number that the job shall have, one that no other job has.</param>
    /// <param name="parts">The parts; their surfaces get the numbers -1, -2 and so on.</param>
    public static IReadOnlyList<SurfaceWork> Asked(ShopFloor floor, int jobId, IReadOnlyList<(Corner Corner, PartKind Kind)> parts)
    {
        ArgumentNullException.ThrowIfNull(floor);
        ArgumentNullException.ThrowIfNull(parts);
        return
        [
            .. parts.Select(
                (p, i) =>
                    new SurfaceWork
                    {
                        Id = -1 - i,
                        PartId = -1 - i,
                        JobId = jobId,
                        Measure = floor.Times.Measure(p.Kind),
                        Machinings =
                        [
                            .. floor
                                .Lathes.Where(l => l.Profile.Takes(p.Kind, Length.Zero))
                                .Select(l => new Machining(
                                    l.Id,
                                    new(p.Kind, l.Profile.Kind == LatheKind.Grinder ? "" : $"{jobId} {p.Corner.Axle()}"),
                                    floor.Times.Attended(p.Kind, l.Id),
                                    floor.Times.Feeding(l.Profile, p.Kind, Length.Zero, Length.Zero, null)
                                )),
                        ],
                        Confirm = floor.Times.Confirm(p.Kind),
                    }
            ),
        ];
    }

    /// <summary>A surface with everything that its work depends on.</summary>
    private sealed class OnFloor(ShopFloor floor, JobInShop job, PartInShop part, SurfaceInShop surface)
    {
        private SurfaceState State => surface.State;

        public int JobId => job.Id;

        public IEnumerable<PastWork> Past => PastSteps.Of(surface.Id, State, m => IsOnItsLathe(m));

        private bool IsOnItsLathe(MountFact mount) =>
            floor.Lathes.FirstOrDefault(l => l.Id == mount.LatheId) is { } lathe && lathe.NewestMount == mount.Id;

        /// <summary>
        /// How it is on a lathe now; null where it is on none, or the lathe is out of order: it goes on when that is back, or elsewhere.
        /// </summary>
        private MountFact? On =>
            State.Station < Station.Confirm
            && State.Mounting.Mount is { } m
            && IsOnItsLathe(m)
            && !floor.Lathes.First(l => l.Id == m.LatheId).IsOut(floor.Now)
                ? m
                : null;

        public BlockedWork? Blocked
        {
            get
            {
                if (State.Part.HasLeft || State.Station >= Station.Confirm)
                    return null;
                if (State.Inspection.End is { } end)
                    return new BlockedWork.Stopped(surface.Id, end.Kind);
                if (State.Receiving.Limits is null)
                    return new BlockedWork.LimitsMissing(surface.Id);
                if (State.Station < Station.Cut && State.Measuring.DiscardVerdict == Verdict.Beyond)
                    return new BlockedWork.BeyondLimit(surface.Id);
                if (State.Station is Station.Mount or Station.Plan && State.Measuring.IsBelowFloor)
                    return new BlockedWork.BelowFloor(surface.Id);
                if (On is not null)
                    return null;
                if (!floor.Lathes.Any(Takes))
                    return new BlockedWork.NoLathe(surface.Id, State.Facts.Diameter, Nearest);
                return floor.Lathes.Where(IsFor).All(l => l.IsOutForGood(floor.Now)) ? new BlockedWork.LathesOut(surface.Id) : null;
            }
        }

        private DiameterRange? Nearest =>
            floor
                .Lathes.Select(l => l.Profile.RangeOf(State.Kind))
                .OfType<DiameterRange>()
                .MinBy(r => Length.Max(r.Least - State.Facts.Diameter, State.Facts.Diameter - r.Greatest));

        private bool Takes(LatheInShop lathe) => lathe.Profile.Takes(State.Kind, State.Facts.Diameter);

        /// <summary>What is still to do; null where nothing is.</summary>
        public SurfaceWork? Work(DateTimeOffset now)
        {
            if (State.Part.HasLeft || State.Station >= Station.Release)
                return null;
            var work = new SurfaceWork
            {
                Id = surface.Id,
                PartId = part.Id,
                JobId = job.Id,
                Confirm = floor.Times.Confirm(State.Kind),
                Pin = Pin,
            };
            if (State.Station == Station.Confirm)
                return work with { Started = Reading(now, work.Confirm) };
            work = work with { Machinings = [.. floor.Lathes.Where(IsFor).Select(Machining)] };
            if (On is { } mount)
                return work with { Started = AtLathe(mount, now), Pin = null };
            if (State.Station > Station.Measure)
                return work;
            var measure = floor.Times.Measure(State.Kind);
            return work with { Measure = measure, Started = Reading(now, measure) };
        }

        /// <summary>
        /// What somebody has decided about it. A lathe that does not take it, where it may not go on, or that is out of order and nobody
        /// knows until when, binds nothing: the part is planned elsewhere.
        /// </summary>
        private Pin? Pin =>
            floor.Pins.GetValueOrDefault(surface.Id) is not { } pin ? null
            : pin.LatheId is null || floor.Lathes.Any(l => l.Id == pin.LatheId && IsFor(l) && !l.IsOutForGood(floor.Now)) ? pin
            : pin.NotBefore is null ? null
            : new(null, null, pin.NotBefore);

        /// <summary>It can be machined there.</summary>
        private bool IsFor(LatheInShop lathe) => Takes(lathe) && MayGoOn(lathe);

        /// <summary>A plan that is begun goes on where its dials were set to zero.</summary>
        private bool MayGoOn(LatheInShop lathe) =>
            State.CutsDone == 0
            || !State.Planning.IsRunning
            || State.Mounting.Lathe.Id == lathe.Id
            || floor.Lathes.All(l => l.Id != State.Mounting.Lathe.Id);

        private Machining Machining(LatheInShop lathe) =>
            new(
                lathe.Id,
                new(State.Kind, Adapters(lathe)),
                floor.Times.Attended(State.Kind, lathe.Id),
                floor.Times.Feeding(lathe.Profile, State.Kind, State.Facts.Diameter, State.Facts.Band, Planned)
            );

        /// <summary>Kinds of its passes: of its plan, else of the one that would be recommended; null where it is not measured.</summary>
        private IReadOnlyList<PassKind>? Planned
        {
            get
            {
                if (State.Planning.Document is { } plan)
                    return [.. plan.Option.Passes.Select(p => p.Kind)];
                if (State.Measuring.Sizes.Count == 0 || State.Measuring.NextPlace is not null || State.Receiving.Limits is null)
                    return null;
                var passes = Passes.GetValue(State, s =>
                {
                    var plan = PassPlanner.Plan(s.Planning.Request(dialConfirmed: true));
                    return [.. plan.Options.FirstOrDefault(o => o.Key == plan.Recommended)?.Passes.Select(p => p.Kind) ?? []];
                });
                return passes.Count > 0 ? passes : null;
            }
        }

        /// <summary>
        /// What holds it on a lathe, by a name that says no more than whether two parts are held alike. Where its sizes are not known, the
        /// two parts of an axle are held alike and others are not.
        /// </summary>
        private string Adapters(LatheInShop lathe)
        {
            if (State.Mounting.Mount is { } mount && mount.LatheId == lathe.Id)
                return mount.Centring;
            if (lathe.Profile.Kind == LatheKind.Grinder)
                return "";
            var shape = State.Part.Shape ?? OtherSide?.State.Part.Shape;
            if (shape is not null && Centring(shape, lathe) is { } centring)
                return centring;
            return part.Corner.Axle() is not Axle.Any and var axle ? $"{job.Id} {axle}" : $"{job.Id} {part.Id}";
        }

        /// <summary>What centres it on a lathe; null where nothing on the board fits.</summary>
        private string? Centring(MountShape shape, LatheInShop lathe)
        {
            var known = Held.GetValue(State, _ => []);
            lock (known)
            {
                if (
                    known.Find(h => h.Shape == shape && ReferenceEquals(h.Lathe, lathe.Profile) && h.Board.SequenceEqual(floor.Board)) is
                    { } held
                )
                    return held.Centring;
                var plan = MountingPlan.For(State.Kind, State.Facts.Diameter, shape, lathe.Profile, floor.Board);
                var centring = plan.Ways is [var best, ..] ? best.Centring : null;
                known.Add(new(shape, lathe.Profile, floor.Board, centring));
                return centring;
            }
        }

        private SurfaceInShop? OtherSide =>
            part.Corner.Axle() is not Axle.Any and var axle
                ? job
                    .Parts.Where(p => p.Id != part.Id && p.Corner.Axle() == axle)
                    .SelectMany(p => p.Surfaces)
                    .FirstOrDefault(s => s.State.Kind == State.Kind)
                : null;

        /// <summary>Somebody has begun to read it and not put it aside.</summary>
        private StartedStep? Reading(DateTimeOffset now, StepTime whole)
        {
            if (State.Measuring.Sizes is not { Count: > 0 } sizes || now - sizes.Max(r => r.At) > Rest)
                return null;
            var places = State.Measuring.Places.Cast<ReadingPlace?>().ToList();
            var left = places.Count(p => State.Measuring.ReadingAt(p!.Value) is null);
            return new(sizes.Newest()!.ById, null, whole.Share(Math.Max(left, 1), Math.Max(places.Count, 1)), new(0, 0));
        }

        private TimeSpan Rest => TimeSpan.FromMinutes(floor.Settings.ReadingRestsAfter);

        private static int Gone(DateTimeOffset since, DateTimeOffset now) =>
            (int)Math.Clamp(Math.Floor((now - since).TotalMinutes), 0, int.MaxValue / 2);

        /// <summary>What is left of it on the lathe: of mounting until the first pass runs, then of the passes and finishing.</summary>
        private StartedStep AtLathe(MountFact mount, DateTimeOffset now)
        {
            var way = Machining(floor.Lathes.First(l => l.Id == mount.LatheId));
            var attended = way.Attended.Of(mount.ById);
            var finishing = attended.Share(1, FinishingIsOneOf);
            if (State.Planning.Document is not { } plan || State.CutsDone == 0 && State.Cutting.Start is null)
                return new(mount.ById, mount.LatheId, attended.After(Gone(mount.At, now)), way.Feeding);
            if (State.Planning.Passes.Count >= plan.Option.Passes.Count)
                return new(mount.ById, mount.LatheId, finishing, new(0, 0));
            IReadOnlyList<PassKind> toCome = [.. plan.Option.Passes.Skip(State.Planning.Passes.Count).Select(p => p.Kind)];
            var lathe = floor.Lathes.First(l => l.Id == mount.LatheId).Profile;
            var feeding = floor.Times.Feeding(lathe, State.Kind, State.Facts.Diameter, State.Facts.Band, toCome);
            var (by, runs) = (State.Cutting.Start?.ById ?? mount.ById, State.Cutting.IsCutting);
            if (runs)
                feeding = feeding.After(Gone(State.Cutting.Start!.At, now));
            // While it feeds, nothing is done with hands; what finishing takes comes after.
            return runs
                ? new(by, mount.LatheId, new(0, 0), new(feeding.Likely + finishing.Likely, feeding.Sure + finishing.Sure))
                : new(by, mount.LatheId, finishing, feeding);
        }
    }
}
