using Uncial.Core.Parts;

namespace Uncial.Core.Vehicles;

/// <summary>What is done when a part goes back on its vehicle. The maker's data and licensed practice come first.</summary>
public enum RefitStep
{
    /// <summary>Face of the hub and inside of the hat are free of rust, down to the metal.</summary>
    HubFaceClean,

    /// <summary>It goes on in the position that leaves the least run-out.</summary>
    BestPosition,

    /// <summary>It goes on in the place of its index mark.</summary>
    IndexMark,

    /// <summary>Oil of the hand, rust guard and dust are washed off the swept faces.</summary>
    FacesClean,

    /// <summary>Level of the fluid is looked at before pistons go back: it rises.</summary>
    FluidLevel,

    /// <summary>Fluid from the brake or an open bottle is not used again.</summary>
    FluidFresh,

    /// <summary>Slide pins move by hand and are greased as the maker says.</summary>
    SlidePins,

    /// <summary>Shoes are set to the new bore.</summary>
    ShoesSet,

    /// <summary>Run-out is read again on the vehicle.</summary>
    RunoutRead,

    /// <summary>The pedal or lever is pumped until it is hard, before the vehicle is moved.</summary>
    PedalPumped,

    /// <summary>It is bedded in as the maker of the pads or shoes says.</summary>
    BeddedIn,
}

/// <summary>Steps of refitting, in their order.</summary>
public static class RefitSteps
{
    /// <summary>The steps of a part.</summary>
    /// <param name="kind">Rotor or drum.</param>
    /// <param name="hasBestPosition">Run-out was read at the vehicle, and another position than that of the mark may be the best.</param>
    public static IReadOnlyList<RefitStep> Of(PartKind kind, bool hasBestPosition) =>
        [
            RefitStep.HubFaceClean,
            hasBestPosition ? RefitStep.BestPosition : RefitStep.IndexMark,
            RefitStep.FacesClean,
            RefitStep.FluidLevel,
            RefitStep.FluidFresh,
            .. kind == PartKind.Rotor ? [RefitStep.SlidePins, RefitStep.RunoutRead] : new[] { RefitStep.ShoesSet },
            RefitStep.PedalPumped,
            RefitStep.BeddedIn,
        ];
}
