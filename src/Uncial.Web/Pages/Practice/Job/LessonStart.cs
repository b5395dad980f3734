using Uncial.Core.Parts;
using Uncial.Data.Practice;
using Uncial.Practice.Lessons;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>Begins attempts at lessons, with everything called by its name.</summary>
internal static class LessonStart
{
    /// <summary>The text that says what kind of part a lesson has.</summary>
    public static string KindOf(Lesson lesson) =>
        lesson.Hat is not null ? "debrief.rotorWithHat"
        : lesson.Part.Kind == PartKind.Rotor ? "debrief.rotor"
        : "debrief.drum";

    /// <summary>Begins a lesson; returns where its work begins, or null where too many were begun.</summary>
    /// <param name="desk">The desk.</param>
    /// <param name="learner">Who practises.</param>
    /// <param name="text">The lesson's file.</param>
    /// <param name="lesson">The lesson.</param>
    /// <param name="trainee">Name of who practises.</param>
    /// <param name="seed">The part of an attempt before; null for another one.</param>
    /// <param name="classId">The class that it is worked for; null for none.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<string?> BeginAsync(
        AttemptDesk desk,
        Learner learner,
        string text,
        Lesson lesson,
        string trainee,
        long? seed,
        int? classId,
        CancellationToken cancel
    )
    {
        AttemptNames names = new(
            Words.Say("practice.word"),
            trainee,
            Words.Say("bench.latheName"),
            Words.Say(lesson.Part.Kind == PartKind.Rotor ? "bench.vehicleRotor" : "bench.vehicleDrum"),
            BenchView.NameOf,
            n => Words.Say("bench.cone.name", n),
            n => Words.Say("bench.cups.name", n),
            n => Words.Say("bench.spacer.name", n)
        );
        return await desk.BeginAsync(learner, lesson, text, names, seed, classId, cancel) is { } attempt ? $"/look/{attempt.Tag}" : null;
    }
}
