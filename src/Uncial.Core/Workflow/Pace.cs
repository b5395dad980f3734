using Uncial.Core.Cutting;

namespace Uncial.Core.Workflow;

/// <summary>How the steps at the lathe are asked for. A lead sets it for each person.</summary>
public enum Pace
{
    /// <summary>Each step is shown and taken by itself.</summary>
    Guided,

    /// <summary>
    /// The same steps are one block with one confirmation; only what injures or ruins when missed is asked for by itself.
    /// </summary>
    Experienced,
}

/// <summary>A part of the work at the lathe that is guided or not.</summary>
public enum PacedStep
{
    /// <summary>The part is put on.</summary>
    PutOn,

    /// <summary>The set-up is checked.</summary>
    SetUp,

    /// <summary>The tools come to the first touch.</summary>
    FirstTouch,

    /// <summary>A pass is started.</summary>
    Start,

    /// <summary>The part is finished after its last pass.</summary>
    Finish,
}

/// <summary>Why the steps are taken one by one.</summary>
public enum GuidedBecause
{
    /// <summary>This person works guided.</summary>
    Person,

    /// <summary>The lathe is new to this person.</summary>
    NewLathe,

    /// <summary>The adapter is new to this person.</summary>
    NewAdapter,

    /// <summary>The part was taken off and is put on again.</summary>
    Remounted,

    /// <summary>It chattered.</summary>
    Chatter,

    /// <summary>The pass was broken off.</summary>
    BrokenOff,
}

/// <summary>How well a person knows a lathe and an adapter.</summary>
/// <param name="Pace">The pace that a lead has set.</param>
/// <param name="MountsOnLathe">Parts that this person has put on the lathe.</param>
/// <param name="MountsWithAdapter">Parts that this person has put on with the adapter, on any lathe.</param>
/// <param name="EyesToday">Eyes, guard and sleeves were looked at by this person at this lathe today.</param>
public sealed record Familiarity(Pace Pace, int MountsOnLathe, int MountsWithAdapter, bool EyesToday)
{
    /// <summary>Somebody who has never been seen here.</summary>
    public static Familiarity None { get; } = new(Pace.Guided, 0, 0, false);

    /// <summary>From so many parts on a lathe is not new to a person any more.</summary>
    public const int KnowsLatheFrom = 3;

    /// <summary>Why a step is guided; null where the experienced pace holds.</summary>
    /// <param name="step">The step.</param>
    /// <param name="state">State of the surface.</param>
    public GuidedBecause? WhyGuided(PacedStep step, SurfaceState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        if (Pace == Pace.Guided)
            return GuidedBecause.Person;
        // What went wrong just now is told before what is merely new.
        GuidedBecause? incident = step switch
        {
            PacedStep.PutOn when state.Mounting.Mount is not null => GuidedBecause.Remounted,
            PacedStep.SetUp or PacedStep.FirstTouch when state.Mounting.Mount?.Found is not null => GuidedBecause.Remounted,
            PacedStep.Start when state.Cutting.Start is { Stopped.Kind: CutStopKind.BrokenOff } => GuidedBecause.BrokenOff,
            PacedStep.Start when state.Cutting.Chattered => GuidedBecause.Chatter,
            _ => null,
        };
        return incident
            ?? (
                MountsOnLathe < KnowsLatheFrom ? GuidedBecause.NewLathe
                : step == PacedStep.PutOn && MountsWithAdapter == 0 ? GuidedBecause.NewAdapter
                : null
            );
    }
}
