using Microsoft.AspNetCore.Mvc;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data.Practice;
using Uncial.Practice.Causes;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Drills;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Scales;
using Uncial.Web.Accounts;
using Uncial.Web.Forms;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Where the trainee decides what becomes of the part, and after that the debrief.</summary>
public class JobModel(Practising practising, PracticeDesk drills, AttemptDesk desk, Reader reader, TimeProvider time)
    : FormPage(reader, time)
{
    /// <summary>A line of the debrief as it is told.</summary>
    /// <param name="Where">What it is about.</param>
    /// <param name="Yours">What the trainee had.</param>
    /// <param name="Truth">What was true.</param>
    /// <param name="Off">How far it was off.</param>
    /// <param name="Mark">Its mark.</param>
    /// <param name="Css">Its colour.</param>
    /// <param name="Why">What most likely led to it.</param>
    /// <param name="See">Step at which the gauge can be looked at again; null for none.</param>
    public sealed record Row(string Where, string Yours, string Truth, string Off, string Mark, string Css, string Why, int? See);

    public Attempt Attempt { get; private set; } = null!;
    public Debrief Debrief { get; private set; } = null!;
    public IReadOnlyList<Row> Rows { get; private set; } = [];

    /// <summary>The reading that is looked at again.</summary>
    [BindProperty(SupportsGet = true)]
    public int? See { get; set; }

    /// <summary>The gauge as it was held at it.</summary>
    public GaugePicture? Seen { get; private set; }

    /// <summary>The weakest of what is marked.</summary>
    public Skill? Weakest { get; private set; }

    /// <summary>The drill that helps most.</summary>
    public DrillKind? Next { get; private set; }

    /// <summary>What the trainee has of a work surface.</summary>
    /// <param name="Number">The surface, from 1 on.</param>
    /// <param name="Crack">A crack was found, or none; null where nobody has looked.</param>
    /// <param name="Limit">The discard limit that was entered last; null for none.</param>
    /// <param name="Worst">The worst reading since the last pass; null for none.</param>
    /// <param name="Passes">Passes that were run.</param>
    public sealed record OwnFigures(int Number, bool? Crack, Length? Limit, Length? Worst, int Passes);

    /// <summary>The trainee's own figures, one by one for each work surface.</summary>
    public IEnumerable<OwnFigures> Own => Enumerable.Range(1, Attempt.Lesson.Surfaces).Select(n => OwnOf(Attempt.On(n)));

    private static OwnFigures OwnOf(AttemptSurface surface)
    {
        var since = surface
            .Steps.Reverse()
            .TakeWhile(s => s is not JobStep.Did { Deed: Deed.Pass })
            .OfType<JobStep.Reading>()
            .Select(r => r.Mm)
            .ToList();
        return new(
            surface.Number,
            surface.Steps.OfType<JobStep.Found>().LastOrDefault()?.Crack,
            surface.Steps.OfType<JobStep.Limit>().LastOrDefault(l => l.Kind == LimitKind.Discard) is { } limit ? Of(limit.Mm) : null,
            since.Count == 0 ? null : Of(surface.Lesson.Part.Kind == PartKind.Rotor ? since.Min() : since.Max()),
            surface.Deeds.Count(d => d is Deed.Pass)
        );
    }

    /// <summary>What kind of part it is, in words.</summary>
    public string KindName => Words.Say(LessonStart.KindOf(Attempt.Lesson));

    private static Length Of(double mm) => Length.FromMillimetres((decimal)Math.Round(mm, 4));

    /// <summary>The discard limit as it is; of both work surfaces where there are two.</summary>
    public string Discard
    {
        get
        {
            string Limit(int surface) => Reader.With(Of(Attempt.Lesson.Of(surface).Part.DiscardMm));
            return Attempt.Lesson.Surfaces == 1 ? Limit(1) : Words.Say("debrief.limits", Limit(1), Limit(2));
        }
    }

    /// <summary>Minutes from the first step to the last.</summary>
    public int Minutes => Math.Max(1, (int)Math.Round(((Attempt.EndedAt ?? Now) - Attempt.StartedAt).TotalMinutes));

    public IActionResult OnGet()
    {
        if (practising.Attempt is not { } attempt)
            return Redirect("/practice");
        Show(attempt);
        return Page();
    }

    public async Task<IActionResult> OnPostDecideAsync(Decision? decision, CancellationToken cancel)
    {
        if (practising.Attempt is not { } attempt)
            return NotFound();
        if (decision is { } decided && Enum.IsDefined(decided))
        {
            await desk.DecideAsync(attempt, decided, cancel);
            return Redirect(PracticeGate.JobPage + attempt.Tag);
        }
        Show(attempt);
        return Page();
    }

    /// <summary>The lesson once more: the same part, or another one.</summary>
    public async Task<IActionResult> OnPostAgainAsync(bool same, CancellationToken cancel)
    {
        if (practising.Attempt is not { IsDebriefed: true } attempt)
            return NotFound();
        var begun = await LessonStart.BeginAsync(
            desk,
            practising.Learner!,
            attempt.LessonText,
            attempt.Lesson,
            Reader.Name,
            same ? attempt.Seed : null,
            null,
            cancel
        );
        if (begun is not null)
            return Redirect(begun);
        Trouble = Words.Say("practice.tooManyLessons");
        Show(attempt);
        return Page();
    }

    public async Task<IActionResult> OnPostDrillAsync(DrillKind kind, CancellationToken cancel)
    {
        if (practising.Learner is not { } learner || !Enum.IsDefined(kind))
            return NotFound();
        return (await drills.BeginAsync(learner, kind, cancel)).Run is { } run
            ? Redirect($"/practice/drill/{run.Id}")
            : Redirect("/practice");
    }

    /// <summary>Length as the reader sees it, of one that simulation or debrief tells.</summary>
    private string Figure(double mm) => Reader.Figure(Of(mm));

    private void Show(Attempt attempt)
    {
        Attempt = attempt;
        ViewData["Title"] = Words.Say(attempt.IsEnded ? "job.debrief" : "job.deciding");
        ViewData["Sub"] = "";
        ViewData["Topic"] = "practice";
        if (!attempt.IsDebriefed)
            return;
        Debrief = attempt.Debrief();
        Weakest = Debrief.Weakest(attempt.Lesson);
        var steps = attempt.JobSteps;
        Rows = [.. Debrief.Lines.Select(l => RowOf(l, steps))];
        Next = NextOf();
        if (See is { } see && see > 0 && see < steps.Count && steps[see] is JobStep.Reading)
            Seen = PictureAt(steps, see);
    }

    /// <summary>The gauge as it showed what was read at a step.</summary>
    private GaugePicture? PictureAt(IReadOnlyList<JobStep> steps, int see)
    {
        var surface = Attempt.On(steps[see].Surface);
        VirtualBench bench = new(surface.Lesson, surface.Seed);
        Seen? seen = null;
        foreach (var deed in Deeds(steps, see))
            if (bench.Do(deed) is Seen.Gauge gauge)
                seen = gauge;
        return (seen as Uncial.Practice.Jobs.Seen.Gauge)?.Picture;
    }

    private Row RowOf(DebriefLine line, IReadOnlyList<JobStep> steps)
    {
        var isLength = line.Of is not (DebriefOf.Findings or DebriefOf.Face);
        var (mark, css) = line.Share switch
        {
            >= 0.9 => ("within", "is-blue"),
            > 0 => ("close", "is-brass"),
            null => ("toread", ""),
            _ => ("over", "is-over"),
        };
        var off = line is { Of: DebriefOf.Limit or DebriefOf.Reading or DebriefOf.Metal, Yours: { } yours, True: { } truth }
            ? yours - truth
            : (double?)null;
        return new(
            WhereOf(line, steps),
            isLength && line.Yours is { } mine ? Figure(mine) : "",
            isLength && line.True is { } right ? Figure(right) : "",
            off is { } by
                ? (
                    by < -0.00005 ? "−"
                    : by > 0.00005 ? "+"
                    : ""
                ) + Figure(Math.Abs(by))
                : "",
            mark,
            css,
            WhyOf(line),
            line.Of == DebriefOf.Reading ? line.Step : null
        );
    }

    /// <summary>What was done before a step, at the bench of the same work surface.</summary>
    private static List<Deed> Deeds(IReadOnlyList<JobStep> steps, int before) =>
        [.. steps.Take(before).OfType<JobStep.Did>().Where(d => d.Surface == steps[before].Surface).Select(d => d.Deed)];

    private string WhereOf(DebriefLine line, IReadOnlyList<JobStep> steps)
    {
        var where = line.Of == DebriefOf.Reading ? PlaceOf(line, steps) : Words.Say("debriefOf." + line.Of);
        return Attempt.Lesson.Surfaces == 1 || line.Of == DebriefOf.Verdict
            ? where
            : Words.Say(line.Surface == 1 ? "debrief.ofFaces" : "debrief.ofHatDrum", where);
    }

    private string PlaceOf(DebriefLine line, IReadOnlyList<JobStep> steps)
    {
        var before = Deeds(steps, line.Step);
        var degrees = before.LastOrDefault(d => d is Deed.HoldMicrometer or Deed.HoldBar) switch
        {
            Deed.HoldMicrometer m => m.Held.Degrees,
            Deed.HoldBar b => b.Held.Degrees,
            _ => 0,
        };
        var place = Words.Clock((decimal)degrees);
        var isAfter = before.Exists(d => d is Deed.Pass);
        return Words.Say(
            Attempt.Lesson.Of(line.Surface).Part.Kind == PartKind.Rotor
                ? isAfter
                    ? "debrief.atAfter"
                    : "debrief.at"
                : isAfter
                    ? "debrief.axisAfter"
                    : "debrief.axis",
            place
        );
    }

    private static string WhyOf(DebriefLine line) =>
        line.Cause == JobCause.ScaleMisread && line.Misread != MistakeCause.None ? Words.Say("cause." + line.Misread)
        : line.Cause == JobCause.None && line.Misread == MistakeCause.OneDivision ? Words.Say("cause." + line.Misread)
        : line.Cause == JobCause.None ? Words.Say("debriefRight." + line.Of)
        : Words.Say("jobCause." + line.Cause);

    /// <summary>What to practise next: by what most often led to something wrong, else by the weakest skill.</summary>
    private DrillKind? NextOf()
    {
        // The gauge of the surface that was read worst.
        var worst = Debrief.Lines.Where(l => l.Skill == Skill.Reading).OrderBy(l => l.Share).FirstOrDefault()?.Surface ?? 1;
        var rotor = Attempt.Lesson.Of(worst).Part.Kind == PartKind.Rotor;
        var gauge = Attempt.Lesson.Gauges.First(g => BenchHand.ReadsSize(g.Design, rotor)).Design;
        DrillKind reading = gauge.Form switch
        {
            GaugeForm.BarEighths => DrillKind.Eighths,
            GaugeForm.BarStarts => DrillKind.Starts,
            _ => gauge.IsInch ? DrillKind.InchMicrometer : DrillKind.Micrometer,
        };
        if (Weakest is not { } weakest || Debrief.Score(weakest) >= 100)
            return null;
        return weakest switch
        {
            Skill.Reading => reading,
            Skill.Units => Debrief.Lines.Any(l => l.Cause is JobCause.OtherLimit or JobCause.LimitMisread)
                ? DrillKind.Markings
                : DrillKind.Units,
            Skill.SetUp => Debrief.Lines.Any(l => l.Cause == JobCause.SetUpNotChecked) ? DrillKind.Adapters : DrillKind.Scratches,
            Skill.Metal => DrillKind.Locks,
            _ => DrillKind.Markings,
        };
    }
}
