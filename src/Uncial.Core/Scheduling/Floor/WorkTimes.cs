using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Planning;

namespace Uncial.Core.Scheduling;

/// <summary>How long a step took once.</summary>
/// <param name="Step">The step; of machining the part with hands on: mounting, check and finishing, without the passes.</param>
/// <param name="Kind">Rotor or drum.</param>
/// <param name="LatheId">The lathe; null off the lathe.</param>
/// <param name="OperatorId">Who did it.</param>
/// <param name="Minutes">Minutes, 0 or more.</param>
public sealed record PastStep(WorkStep Step, PartKind Kind, int? LatheId, int OperatorId, int Minutes);

/// <summary>
/// How long steps take in this shop: by its own records where they say enough of that step, kind of part, lathe and operator; else by what
/// the shop has settled.
/// </summary>
public sealed class WorkTimes
{
    /// <summary>A history of fewer cases says nothing.</summary>
    public const int Least = 4;

    /// <summary>Passes of a plan of which no plan of that kind is on record: one rough and one finishing.</summary>
    private const int UsualPasses = 2;

    private readonly Dictionary<(WorkStep, PartKind, int?), StepTime> known;
    private readonly Dictionary<PartKind, int> passes;
    private readonly DaySettings settings;
    private readonly ShopRules rules;

    /// <summary>Of a shop.</summary>
    /// <param name="past">How long steps took, the newest last.</param>
    /// <param name="passes">How many passes plans of each kind of part had, in any order.</param>
    /// <param name="settings">What the shop has settled about its days.</param>
    /// <param name="rules">The minutes of mounting, setting up and finishing that it has settled.</param>
    public WorkTimes(
        IReadOnlyCollection<PastStep> past,
        IReadOnlyCollection<(PartKind Kind, int Passes)> passes,
        DaySettings settings,
        ShopRules rules
    )
    {
        ArgumentNullException.ThrowIfNull(past);
        ArgumentNullException.ThrowIfNull(passes);
        (this.settings, this.rules) = (settings, rules);
        known = past.GroupBy(p => (p.Step, p.Kind, p.LatheId)).Where(g => g.Count() >= Least).ToDictionary(g => g.Key, TimeOf);
        this.passes = passes
            .GroupBy(p => p.Kind, p => p.Passes)
            .Where(g => g.Count() >= Least)
            .ToDictionary(g => g.Key, g => StepTime.Quantile([.. g.Order()], 0.5));
    }

    /// <summary>Inspecting and measuring a surface.</summary>
    public StepTime Measure(PartKind kind) =>
        known.GetValueOrDefault((WorkStep.Measure, kind, null)) ?? DaySettings.Assumed(settings.MeasureMinutes);

    /// <summary>Measuring it again and judging it.</summary>
    public StepTime Confirm(PartKind kind) =>
        known.GetValueOrDefault((WorkStep.Confirm, kind, null)) ?? DaySettings.Assumed(settings.ConfirmMinutes);

    /// <summary>Mounting, check, first touch and finishing on a lathe.</summary>
    public StepTime Attended(PartKind kind, int lathe) =>
        known.GetValueOrDefault((WorkStep.Machine, kind, lathe)) ?? DaySettings.Assumed(rules.Cost.MountMinutes);

    /// <summary>The passes of a plan on a lathe.</summary>
    /// <param name="lathe">The lathe.</param>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="diameter">Largest diameter cut.</param>
    /// <param name="band">Width of the swept band.</param>
    /// <param name="plan">Kinds of the passes; null where there is no plan yet.</param>
    public StepTime Feeding(Lathe lathe, PartKind kind, Length diameter, Length band, IReadOnlyList<PassKind>? plan)
    {
        ArgumentNullException.ThrowIfNull(lathe);
        if (diameter <= Length.Zero || band <= Length.Zero)
            return DaySettings.Assumed(UsualPasses * UnknownPassMinutes);
        plan ??= Usual(passes.GetValueOrDefault(kind, UsualPasses));
        // One tool cuts the faces of a rotor one after the other.
        var sides = kind == PartKind.Rotor && !lathe.TwinCutter ? 2 : 1;
        return DaySettings.Assumed(sides * plan.Sum(p => lathe.Run(p, kind, diameter, band).Minutes));
    }

    /// <summary>Minutes of a pass over a part whose size nobody knows.</summary>
    private const int UnknownPassMinutes = 6;

    private static IReadOnlyList<PassKind> Usual(int count) =>
        [.. Enumerable.Repeat(PassKind.Rough, Math.Max(0, count - 1)), .. count > 0 ? [PassKind.Finish] : Array.Empty<PassKind>()];

    private static StepTime TimeOf(IEnumerable<PastStep> steps) =>
        StepTime.FromHistory([.. steps.Select(s => s.Minutes)]) with
        {
            Own = steps
                .GroupBy(s => s.OperatorId)
                .Where(g => g.Count() >= Least)
                .ToDictionary(g => g.Key, g => StepTime.FromHistory([.. g.Select(s => s.Minutes)])),
        };
}
