using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using System.Text.Json;
using Uncial.Core.Parts;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;

namespace Uncial.Data.Practice;

/// <summary>
/// Somebody's attempt at a lesson. It has a shop of its own (<see cref="PracticeShop"/>) in which its part is worked at the ordinary
/// stations; its steps are what was done at the virtual bench and what was entered, in their order.
/// </summary>
public class Attempt
{
    /// <summary>What the tags of practice begin with; no part of a workshop has such a one.</summary>
    public const string TagPrefix = "P-";

    public long Id { get; set; }
    public int LearnerId { get; set; }

    [MaxLength(60)]
    public required string LessonId { get; set; }

    /// <summary>The lesson's file as it was when it was begun.</summary>
    public required string LessonText { get; set; }

    /// <summary>From the server's own chance; told to nobody.</summary>
    public long Seed { get; set; }

    public DateTimeOffset StartedAt { get; set; }

    /// <summary>When the trainee decided; null while it is worked at. Set by the database.</summary>
    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>The class that it is worked for; null for none.</summary>
    public int? ClassId { get; set; }

    public PracticeClass? Class { get; set; }

    /// <summary>
    /// What was true may be shown: it is over, and where a whole class has the same part, the class is closed.
    /// </summary>
    [NotMapped]
    public bool IsDebriefed => IsEnded && Class is not { IsSamePart: true, ClosedAt: null };

    /// <summary>What is at hand at the bench; null before anything was taken up.</summary>
    public string? Hand { get; set; }

    /// <summary>The gauge that is held, as a deed; null for none. The database adds it to the steps when its reading is entered.</summary>
    public string? Held { get; set; }

    public List<AttemptStep> Steps { get; set; } = [];

    [NotMapped]
    public string Tag => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{TagPrefix}{Id}");

    [NotMapped]
    public bool IsEnded => EndedAt is not null;

    /// <summary>The lesson.</summary>
    [NotMapped]
    public Lesson Lesson =>
        lesson ??= LessonFile.ReadTrusted(LessonText) ?? throw new InvalidOperationException($"The lesson of attempt {Id} cannot be read.");

    private Lesson? lesson;

    /// <summary>The steps as the debrief takes them; readings that were taken back are left out.</summary>
    [NotMapped]
    public IReadOnlyList<JobStep> JobSteps =>
        [.. Steps.OrderBy(s => s.Number).Where(s => !s.IsTakenBack).Select(s => s.JobStep).OfType<JobStep>()];

    /// <summary>One of its work surfaces, from 1 on.</summary>
    public AttemptSurface On(int surface) => new(this, surface);

    /// <summary>The job beside the truth.</summary>
    public Debrief Debrief() => Uncial.Practice.Debriefs.Debrief.Of(Lesson, Seed, JobSteps);

    /// <summary>The attempt that a tag names; null for another tag.</summary>
    public static long? IdOf(string? tag) =>
        tag is { Length: > 2 and <= 12 }
        && tag.StartsWith(TagPrefix, StringComparison.OrdinalIgnoreCase)
        && long.TryParse(
            tag.AsSpan(2),
            System.Globalization.NumberStyles.None,
            System.Globalization.CultureInfo.InvariantCulture,
            out var id
        )
            ? id
            : null;
}

/// <summary>What a step of an attempt is.</summary>
public enum AttemptStepKind
{
    /// <summary>Done at the bench.</summary>
    Did,

    /// <summary>A limit was stated.</summary>
    Limit,

    /// <summary>A part was looked at.</summary>
    Found,

    /// <summary>A size was entered.</summary>
    Reading,

    /// <summary>The set-up was taken after a check.</summary>
    SetUp,

    /// <summary>What becomes of the part.</summary>
    Verdict,
}

/// <summary>A step of an attempt. They are added by the database alone.</summary>
public class AttemptStep
{
    public long AttemptId { get; set; }

    /// <summary>Its place, from 1 on.</summary>
    public int Number { get; set; }

    public AttemptStepKind Kind { get; set; }

    /// <summary>What was done, of a deed.</summary>
    public string? Deed { get; set; }

    /// <summary>Which limit, what was found, or the verdict.</summary>
    [MaxLength(40)]
    public string? Word { get; set; }

    /// <summary>The size that was entered.</summary>
    public decimal? Mm { get; set; }

    /// <summary>The work surface that it is about, from 1 on.</summary>
    public int Surface { get; set; } = 1;

    /// <summary>The fact in the attempt's shop that it stands for; null for a deed and for the verdict.</summary>
    public long? FactId { get; set; }

    /// <summary>The reading was taken back.</summary>
    public bool IsTakenBack { get; set; }

    public DateTimeOffset At { get; set; }

    /// <summary>As the debrief takes it; null for what it does not mark.</summary>
    [NotMapped]
    public JobStep? JobStep => Step is { } step ? step with { Surface = Surface } : null;

    private JobStep? Step =>
        Kind switch
        {
            AttemptStepKind.Did when Deed is { } deed => new JobStep.Did(JobJson.ReadDeed(deed)),
            AttemptStepKind.Limit when Mm is { } mm && Enum.TryParse<LimitKind>(Word, out var kind) => new JobStep.Limit(kind, (double)mm),
            AttemptStepKind.Found => new JobStep.Found(Word == "Crack"),
            AttemptStepKind.Reading when Mm is { } mm => new JobStep.Reading((double)mm),
            AttemptStepKind.SetUp => new JobStep.SetUpAccepted(),
            AttemptStepKind.Verdict when Enum.TryParse<Decision>(Word, out var decision) => new JobStep.Verdict(decision),
            _ => null,
        };
}
