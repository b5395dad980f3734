using Uncial.Core.Workflow;

namespace Uncial.Core.Scheduling;

/// <summary>Reads from the facts on record when steps were done.</summary>
public static class PastSteps
{
    /// <summary>The steps of a surface that are done.</summary>
    /// <param name="surfaceId">The surface.</param>
    /// <param name="state">How it stands.</param>
    /// <param name="newestOnLathe">Whether a mounting is the newest of its lathe: the part is still on, that step is not done.</param>
    public static IEnumerable<PastWork> Of(int surfaceId, SurfaceState state, Func<MountFact, bool> newestOnLathe)
    {
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(newestOnLathe);
        var facts = state.Facts;
        List<PartFact> before = [.. facts.Findings, .. facts.Readings.Where(r => r.Cuts == 0 && r.Kind == ReadingKind.Size)];
        if (before.Count > 0 && (state.Station > Parts.Station.Measure || state.Part.HasLeft) && state.Facts.Readings.Count > 0)
            yield return Between(surfaceId, WorkStep.Measure, null, before);
        var mounts = facts.Mounts.Ordered().ToList();
        for (var i = 0; i < mounts.Count; i++)
        {
            if (state.Mounting.Mount?.Id == mounts[i].Id && state.Station < Parts.Station.Confirm && newestOnLathe(mounts[i]))
                continue;
            yield return Between(
                surfaceId,
                WorkStep.Machine,
                mounts[i].LatheId,
                [mounts[i], .. AtLathe(facts).Where(f => f.IsAfter(mounts[i]) && (i + 1 == mounts.Count || mounts[i + 1].IsAfter(f)))]
            );
        }
        if (facts.Confirmations.Newest() is { } confirmed && (facts.Passes.Count > 0 || state.Station > Parts.Station.Confirm))
            yield return Between(
                surfaceId,
                WorkStep.Confirm,
                null,
                [.. facts.Readings.Where(r => r.Cuts > 0 && r.Cuts == state.CutsDone && confirmed.IsAfter(r)), confirmed]
            );
    }

    /// <summary>What is stated at the lathe about a part that is on it.</summary>
    private static IEnumerable<PartFact> AtLathe(SurfaceFacts facts) =>
        [
            .. facts.SetUps,
            .. facts.SetUpDecisions,
            .. facts.CutStarts,
            .. facts.CutStarts.Select(s => s.Stopped).OfType<PartFact>(),
            .. facts.Passes,
            .. facts.Finishes,
        ];

    private static PastWork Between(int surface, WorkStep step, int? lathe, IReadOnlyList<PartFact> facts)
    {
        var last = facts.Newest()!;
        return new(surface, step, lathe, last.ById, facts.Min(f => f.At), facts.Max(f => f.At));
    }
}
