using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Practice.Drills;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation;
using Uncial.Simulation.Held;
using Uncial.Simulation.Scales;

namespace Uncial.Practice.Debriefs;

/// <summary>
/// A job beside the truth. Each step is marked against what the trainee had before it, so that one slip costs once; causes come from what
/// was entered and how the gauge was held, never from the fault that was put in.
/// </summary>
/// <param name="Lines">What was had and what was true, in the order of the job.</param>
/// <param name="Outcome">What came of the part.</param>
public sealed record Debrief(IReadOnlyList<DebriefLine> Lines, Outcome Outcome)
{
    /// <summary>
    /// A reading within this of the truth is as good as the trade asks, mm; a gauge with coarser divisions may be off by two of them.
    /// </summary>
    private const double AsGoodAsAsked = 0.03;

    /// <summary>A set-up within this is true enough; twice of it is close. Total reading, mm.</summary>
    private const double TrueEnough = 0.025;

    /// <summary>Metal that nobody could have told to be too much: a pass of the finest that cuts, on each face, mm.</summary>
    private const double FreeMetal = 0.12;

    /// <summary>Score of a skill, 0 … 100; null where nothing of it was done.</summary>
    public int? Score(Skill skill)
    {
        var shares = Lines.Where(l => l.Skill == skill).Select(l => l.Share).OfType<double>().ToList();
        return shares.Count == 0 ? null : (int)Math.Round(100 * shares.Average());
    }

    /// <summary>The weakest of the skills that a lesson marks; null where none was done.</summary>
    public Skill? Weakest(Lesson lesson)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        return lesson.Marked.Where(s => Score(s) is not null).OrderBy(s => Score(s)).Cast<Skill?>().FirstOrDefault();
    }

    /// <summary>Holds a job against the truth.</summary>
    public static Debrief Of(Lesson lesson, long seed, IReadOnlyList<JobStep> steps)
    {
        ArgumentNullException.ThrowIfNull(lesson);
        ArgumentNullException.ThrowIfNull(steps);
        List<Work> works = [.. Enumerable.Range(1, lesson.Surfaces).Select(s => new Work(lesson.Of(s), Lesson.SeedOf(seed, s), steps, s))];
        foreach (var work in works)
            work.Walk();
        // In the order of the job, each as the work surface that it is about.
        List<DebriefLine> lines = [.. works.SelectMany(w => w.Lines).OrderBy(l => l.Step)];
        var step = steps.ToList().FindLastIndex(s => s is JobStep.Verdict);
        var decided = step < 0 ? (Decision?)null : ((JobStep.Verdict)steps[step]).Decision;
        if (decided is { } decision)
            lines.Add(VerdictOf(works, lesson.WholeDecision, decision, step));
        foreach (var work in works)
            lines.AddRange(work.Whole(decided));
        var came = works.Select(w => w.OutcomeOf(decided, lesson.WholeDecision)).ToList();
        var outcome = Gravest.First(came.Contains);
        return new(lines, outcome == Outcome.Right && lines.Exists(l => l.Cause == JobCause.NothingToGoBy) ? Outcome.Guessed : outcome);
    }

    /// <summary>What came of a part is what came of its worse surface.</summary>
    private static readonly Outcome[] Gravest =
    [
        Outcome.NotEnded,
        Outcome.WouldHaveFailed,
        Outcome.GoodPartScrapped,
        Outcome.MetalWasted,
        Outcome.NotAsItShould,
        Outcome.Right,
    ];

    /// <summary>A verdict beside what follows from the trainee's own findings, readings and limits of every surface.</summary>
    private static DebriefLine VerdictOf(List<Work> works, Decision right, Decision decision, int step)
    {
        var own = works.Select(w => w.OwnVerdict).ToList();
        // One surface is enough to scrap a part; for anything else every one has to be known.
        var follows =
            own.Contains(Decision.Scrap) ? Decision.Scrap
            : own.Contains(null) ? (Decision?)null
            : own.OfType<Decision>().Aggregate(Lesson.Stricter);
        var cause =
            follows is null ? JobCause.NothingToGoBy
            : follows != decision ? JobCause.VerdictAgainstOwnData
            : decision != right ? JobCause.FollowsFromBefore
            : JobCause.None;
        var by = works.Find(w => w.OwnVerdict == follows) ?? works[0];
        return new(DebriefOf.Verdict, Skill.Judgement, step, by.OwnWorst, by.TrueWorst, follows == decision ? 1 : 0, cause)
        {
            Surface = by.Surface,
        };
    }

    private sealed class Work(Lesson lesson, long seed, IReadOnlyList<JobStep> steps, int surface)
    {
        private readonly VirtualBench bench = new(lesson, seed);
        private readonly List<DebriefLine> lines = [];
        private readonly List<(double Yours, double True, int Line)> readings = [];
        private readonly bool rotor = lesson.Part.Kind == PartKind.Rotor;
        private readonly PartTruth truth = PartTruth.Of(lesson.Draw(seed), lesson.Wear.HasCrack);
        private (Deed Deed, Seen Seen)? held;
        private double? limit;
        private double? worst;
        private bool foundCrack;
        private bool looked;
        private bool accepted;
        private double? need;

        public int Surface => surface;

        public IEnumerable<DebriefLine> Lines => lines.Select(l => l with { Surface = surface });

        public double? OwnWorst => worst;

        public double TrueWorst => bench.Part.WorstSize(grooves: false);

        /// <summary>What follows from the own findings, readings and limit; null where there is nothing to go by.</summary>
        public Decision? OwnVerdict =>
            foundCrack ? Decision.Scrap
            : worst is not { } size || limit is not { } discard ? null
            : (rotor ? size - discard : discard - size) < -0.0005 ? Decision.Scrap
            : bench.Passes.Count == 0 ? Decision.LeaveUncut
            : (rotor ? size - lesson.Part.MachineToMm : lesson.Part.MachineToMm - size) >= 0 ? Decision.Release
            : Decision.AskLead;

        /// <summary>Goes through everything that was done and entered of this surface.</summary>
        public void Walk()
        {
            for (var i = 0; i < steps.Count; i++)
                switch (steps[i])
                {
                    case var other when other.Surface != surface:
                        break;
                    case JobStep.Did did:
                        Do(did.Deed, i);
                        break;
                    case JobStep.Limit { Kind: LimitKind.Discard } stated:
                        Limit(stated.Mm, i);
                        break;
                    case JobStep.Found found:
                        Findings(found.Crack, i);
                        break;
                    case JobStep.Reading reading:
                        Reading(reading.Mm, i);
                        break;
                    case JobStep.SetUpAccepted:
                        SetUp(i);
                        break;
                }
            Datum();
        }

        private void Do(Deed deed, int step)
        {
            if (deed is Deed.Pass && bench.IsMounted && need is null)
            {
                need = Enumerable
                    .Range(0, bench.Part.Faces.Count)
                    .Sum(f => bench.Part.Faces[f].Extremes(bench.Part.ReadingStation).Highest - bench.Part.Faces[f].LowestToClean());
                if (!accepted)
                    lines.Add(
                        new(
                            DebriefOf.SetUp,
                            Skill.SetUp,
                            step,
                            null,
                            bench.Wobble,
                            bench.Wobble <= TrueEnough ? 0.5 : 0,
                            JobCause.SetUpNotChecked
                        )
                    );
            }
            var seen = bench.Do(deed);
            // What is typed after a gauge that showed nothing belongs to no earlier one.
            if (seen is Seen.Gauge)
                held = (deed, seen);
            else if (seen is Seen.NotNow)
                held = null;
            if (deed is Deed.Pass && seen is Seen.Heard)
                worst = null;
            if (deed is Deed.Mount)
                accepted = false;
        }

        private void Limit(double mm, int step)
        {
            limit = mm;
            var right = lesson.Part.DiscardMm;
            // On the safe side by a step of the coarser unit at most.
            var inside = rotor ? mm - right : right - mm;
            var cause =
                inside is >= -0.0005 and <= 0.03 ? JobCause.None
                : Math.Abs(mm - lesson.Part.MachineToMm) < 0.03 ? JobCause.OtherLimit
                : Math.Abs(mm / 25.4 - right) < 0.3 || Math.Abs(mm * 25.4 - right) < 5 ? JobCause.OtherUnit
                : JobCause.LimitMisread;
            lines.Add(new(DebriefOf.Limit, Skill.Units, step, mm, right, cause == JobCause.None ? 1 : 0, cause));
        }

        private void Findings(bool crack, int step)
        {
            (looked, foundCrack) = (true, crack);
            var cause =
                crack == lesson.Wear.HasCrack ? JobCause.None
                : crack ? JobCause.CrackImagined
                : JobCause.CrackOverlooked;
            lines.Add(new(DebriefOf.Findings, Skill.Judgement, step, null, null, cause == JobCause.None ? 1 : 0, cause));
        }

        private void Reading(double mm, int step)
        {
            if (held is not { } hold || hold.Deed is not (Deed.HoldMicrometer or Deed.HoldBar))
                return;
            var picture = ((Seen.Gauge)hold.Seen).Picture;
            var design = picture.Design;
            var shown = design.InMillimetres(Eye.Read(picture));
            var start = hold.Deed is Deed.HoldBar bar ? bar.Start : 0;
            var misread = ReadingCauses.Of(design, design.InUnit(mm), design.InUnit(shown), start);
            var truth = TrueAt(hold.Deed);
            var tolerance = Math.Max(AsGoodAsAsked, 2 * design.InMillimetres(design.Division));
            var cause =
                misread is not (MistakeCause.None or MistakeCause.OneDivision) ? JobCause.ScaleMisread
                : Math.Abs(shown - truth) <= tolerance ? JobCause.None
                : HeldWrong(hold.Deed, tolerance);
            var share =
                cause != JobCause.None ? 0
                : misread == MistakeCause.OneDivision ? 0.7
                : 1.0;
            lines.Add(new(DebriefOf.Reading, Skill.Reading, step, mm, truth, share, cause, misread));
            readings.Add((mm, truth, lines.Count - 1));
            // Of the trainee's own readings since the last cut, the worst.
            worst =
                worst is not { } before ? mm
                : rotor ? Math.Min(before, mm)
                : Math.Max(before, mm);
        }

        /// <summary>What a faultless gauge would show, held right at the same place on a land of a cold part.</summary>
        private double TrueAt(Deed deed)
        {
            var land = bench.Part.StationsMm[bench.Part.ReadingStation];
            GaugeErrors none = new(0, 0);
            return deed switch
            {
                Deed.HoldMicrometer m => (
                    m.Held with
                    {
                        RadiusMm = Near(m.Held.RadiusMm, land),
                        TiltDegrees = 0,
                        Closing = Closing.Ratchet,
                    }
                ).Shows(bench.Part, none, 0, new(1)),
                Deed.HoldBar b => (b.Held with { AcrossDegrees = 0, AlongDegrees = 0 }).Shows(bench.Part, none, 0, new(1)),
                _ => throw new ArgumentOutOfRangeException(nameof(deed), deed, "It reads no size."),
            };
        }

        /// <summary>Clear of the ridge it is read where it was held; across it, what was meant is the land.</summary>
        private double Near(double mm, double land) => IsOnRidge(mm) ? land : mm;

        private bool IsOnRidge(double mm)
        {
            for (var s = 0; s < bench.Part.StationsMm.Count; s++)
                if (bench.Part.Faces[0].At(s) == Ground.Ridge && Math.Abs(bench.Part.StationsMm[s] - mm) < HeldMicrometer.Anvil + 2)
                    return true;
            return false;
        }

        private JobCause HeldWrong(Deed deed, double tolerance)
        {
            if (deed is Deed.HoldMicrometer m)
            {
                if (IsOnRidge(m.Held.RadiusMm))
                    return JobCause.OnTheRidge;
                if (m.Held.Closing != Closing.Ratchet)
                    return JobCause.NotByTheRatchet;
                if (2 * HeldMicrometer.Anvil * Math.Sin(Math.Abs(m.Held.TiltDegrees) * Math.PI / 180) > tolerance / 2)
                    return JobCause.NotRocked;
            }
            if (deed is Deed.HoldBar b && (Math.Abs(b.Held.AcrossDegrees) > 0.8 || Math.Abs(b.Held.AlongDegrees) > 0.8))
                return JobCause.NotRocked;
            return bench.Warmth.Kelvin * Warmth.Expansion * lesson.Part.NominalMm > tolerance / 2 ? JobCause.WarmPart : JobCause.Unknown;
        }

        /// <summary>Where nearly every reading that nothing else explains is off by as much, the datum is.</summary>
        private void Datum()
        {
            var unexplained = readings.Where(r => lines[r.Line].Cause == JobCause.Unknown).ToList();
            if (unexplained.Count < 2)
                return;
            var off = unexplained.Select(r => r.Yours - r.True).Order().ToList();
            var middle = off[off.Count / 2];
            foreach (var (yours, truth, line) in unexplained)
                if (Math.Abs(yours - truth - middle) < 0.03)
                    lines[line] = lines[line] with { Cause = JobCause.DatumNotChecked };
        }

        private void SetUp(int step)
        {
            accepted = true;
            var share =
                bench.Wobble <= TrueEnough ? 1
                : bench.Wobble <= 2 * TrueEnough ? 0.5
                : 0;
            lines.Add(
                new(DebriefOf.SetUp, Skill.SetUp, step, null, bench.Wobble, share, share == 1 ? JobCause.None : JobCause.WobbleAccepted)
            );
        }

        /// <summary>What the whole job came to: metal, the face, what nobody looked for.</summary>
        public IEnumerable<DebriefLine> Whole(Decision? verdict)
        {
            var before = lines.Count;
            Judge(verdict);
            return Lines.Skip(before);
        }

        private void Judge(Decision? verdict)
        {
            var last = steps.Count;
            if (limit is null)
                lines.Add(new(DebriefOf.Limit, Skill.Units, last, null, lesson.Part.DiscardMm, 0, JobCause.LimitMissing));
            if (!looked && lesson.Wear.HasCrack)
                lines.Add(new(DebriefOf.Findings, Skill.Judgement, last, null, null, 0, JobCause.CrackOverlooked));
            if (bench.Passes.Count == 0)
                return;
            var taken = bench.Passes.Sum(p => p.Taken.Sum());
            if (lesson.Decision is Decision.LeaveUncut or Decision.Scrap && !IsScrapOnlyWhenCut)
            {
                lines.Add(new(DebriefOf.Metal, Skill.Metal, last, taken, 0, 0, JobCause.CutForNothing));
                return;
            }
            if (bench.IsRuined)
            {
                lines.Add(new(DebriefOf.Metal, Skill.Metal, last, taken, need, 0, JobCause.Ruined));
                return;
            }
            var excess = Math.Max(0, taken - need!.Value - FreeMetal * bench.Part.Faces.Count);
            var share = Math.Max(0, 1 - excess / (0.15 * bench.Part.Faces.Count));
            lines.Add(new(DebriefOf.Metal, Skill.Metal, last, taken, need, share, share < 0.9 ? JobCause.TooMuchMetal : JobCause.None));
            if (verdict is Decision.Release or Decision.AskLead)
            {
                var clean = bench.Part.Faces.All(f => f.IsClean());
                lines.Add(new(DebriefOf.Face, Skill.Judgement, last, null, null, clean ? 1 : 0, clean ? JobCause.None : JobCause.LeftDark));
            }
        }

        /// <summary>It has to be cut before anybody can know that it is scrap.</summary>
        private bool IsScrapOnlyWhenCut => lesson.Decision == Decision.Scrap && !truth.HasCrack && truth.Before >= 0;

        public Outcome OutcomeOf(Decision? verdict, Decision right)
        {
            if (verdict is not { } decided)
                return Outcome.NotEnded;
            var goesOut = decided is Decision.Release or Decision.AskLead or Decision.LeaveUncut;
            if (goesOut && (truth.HasCrack || bench.IsRuined || bench.Part.Inside(lesson.Part.DiscardMm, grooves: true) < 0))
                return Outcome.WouldHaveFailed;
            if (decided == Decision.Scrap && right != Decision.Scrap && !bench.IsRuined)
                return bench.Part.Inside(lesson.Part.DiscardMm, grooves: true) > 0 ? Outcome.GoodPartScrapped : Outcome.MetalWasted;
            if (lines.Exists(l => l.Of == DebriefOf.Metal && l.Cause != JobCause.None))
                return Outcome.MetalWasted;
            // What is not clean goes on no vehicle, and what needed a cut has had one.
            if (goesOut && lines.Exists(l => l.Cause == JobCause.LeftDark))
                return Outcome.NotAsItShould;
            if (goesOut && bench.Passes.Count == 0 && lesson.Decision is (Decision.Release or Decision.AskLead))
                return Outcome.NotAsItShould;
            return decided == right ? Outcome.Right : Outcome.NotAsItShould;
        }
    }
}
