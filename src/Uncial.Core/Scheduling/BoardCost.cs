namespace Uncial.Core.Scheduling;

/// <summary>What a board costs: a greater figure weighs more than all that stand after it.</summary>
/// <param name="NotKept">Steps that find no time, and pins that are not kept.</param>
/// <param name="Lateness">Minutes after promised times, by the sure times; those of an urgent job count three times.</param>
/// <param name="Idle">
/// Minutes of change-overs, and of waiting between the parts of one job while somebody works; a part that is pinned to a time aside.
/// </param>
/// <param name="Finish">Minutes until the last step of the day ends.</param>
/// <param name="Moves">Surfaces that are on another lathe, or more than five minutes from where people saw them last.</param>
public readonly record struct BoardCost(int NotKept, int Lateness, int Idle, int Finish, int Moves) : IComparable<BoardCost>
{
    /// <summary>The weightiest figure that differs decides.</summary>
    public int CompareTo(BoardCost other) =>
        NotKept != other.NotKept ? NotKept.CompareTo(other.NotKept)
        : Lateness != other.Lateness ? Lateness.CompareTo(other.Lateness)
        : Idle != other.Idle ? Idle.CompareTo(other.Idle)
        : Finish != other.Finish ? Finish.CompareTo(other.Finish)
        : Moves.CompareTo(other.Moves);

    /// <summary>Costs less.</summary>
    public static bool operator <(BoardCost a, BoardCost b) => a.CompareTo(b) < 0;

    /// <summary>Costs more.</summary>
    public static bool operator >(BoardCost a, BoardCost b) => a.CompareTo(b) > 0;

    /// <summary>Costs no more.</summary>
    public static bool operator <=(BoardCost a, BoardCost b) => a.CompareTo(b) <= 0;

    /// <summary>Costs no less.</summary>
    public static bool operator >=(BoardCost a, BoardCost b) => a.CompareTo(b) >= 0;
}
