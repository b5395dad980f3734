namespace Uncial.Core.Cutting;

/// <summary>How full the swarf bin is.</summary>
public enum BinState
{
    /// <summary>There is room.</summary>
    Room,

    /// <summary>Four fifths full: order its collection.</summary>
    Soon,

    /// <summary>Full.</summary>
    Due,
}

/// <summary>The bin for swarf, which is regulated waste in many places.</summary>
/// <param name="Grams">Iron that went into it since it was emptied, by the dials.</param>
/// <param name="Capacity">Iron that it takes, grams, above 0.</param>
public readonly record struct SwarfBin(decimal Grams, decimal Capacity)
{
    private const decimal SoonShare = 0.8m;

    /// <summary>Share that is full, 0 and up.</summary>
    public decimal Share => Grams / Capacity;

    /// <summary>Whether it is due.</summary>
    public BinState State =>
        Share >= 1 ? BinState.Due
        : Share >= SoonShare ? BinState.Soon
        : BinState.Room;
}
