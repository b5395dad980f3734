using System.ComponentModel.DataAnnotations;
using System.ComponentModel.DataAnnotations.Schema;
using Uncial.Practice.Lessons;

namespace Uncial.Data.Practice;

/// <summary>A class: trainees who work the same lessons under an instructor. Written by the database's own functions alone.</summary>
public class PracticeClass
{
    public int Id { get; set; }

    [MaxLength(80)]
    public required string Name { get; set; }

    /// <summary>The person of the shop who instructs it.</summary>
    public int InstructorId { get; set; }

    /// <summary>Everybody works the same part, once, and is debriefed when the class is closed; else a new part each.</summary>
    public bool IsSamePart { get; set; }

    public DateTimeOffset BegunAt { get; set; }

    /// <summary>When it was closed; null while it is open.</summary>
    public DateTimeOffset? ClosedAt { get; set; }

    public List<ClassLesson> Lessons { get; set; } = [];

    public List<Learner> Trainees { get; set; } = [];
}

/// <summary>A lesson of a class.</summary>
public class ClassLesson
{
    public int ClassId { get; set; }

    /// <summary>Its place, from 1 on.</summary>
    public int Number { get; set; }

    [MaxLength(60)]
    public required string LessonId { get; set; }

    /// <summary>The lesson's file as it was when the class was begun.</summary>
    public required string LessonText { get; set; }

    /// <summary>The part of everybody, where everybody has the same; told to nobody.</summary>
    public long Seed { get; set; }

    /// <summary>The lesson.</summary>
    [NotMapped]
    public Lesson Lesson =>
        lesson ??= LessonFile.ReadTrusted(LessonText)
            ?? throw new InvalidOperationException($"Lesson {Number} of class {ClassId} cannot be read.");

    private Lesson? lesson;
}
