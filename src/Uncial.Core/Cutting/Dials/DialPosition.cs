using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>Where a dial stands against where it shall stand.</summary>
/// <param name="Word">toGo, there or past; empty where nothing is asked of it.</param>
/// <param name="ToGo">How far it is off, without sign; null where nothing is asked of it.</param>
public readonly record struct DialPosition(string Word, Length? ToGo)
{
    /// <summary>Holds a dial against its setting. Within half a division it is there.</summary>
    /// <param name="at">Where it stands.</param>
    /// <param name="target">Where it shall stand, or null.</param>
    /// <param name="division">One division of its scale, above 0.</param>
    public static DialPosition Of(Length at, Length? target, Length division)
    {
        if (target is not { } to)
            return new("", null);
        var off = to - at;
        return off.Abs() <= division / 2 ? new("there", Length.Zero) : new(off > Length.Zero ? "toGo" : "past", off.Abs());
    }

    /// <summary>Turn of its collar from its zero, clockwise, degrees, 0 … below 360.</summary>
    public static double Degrees(Length at, Length division, int divisionsPerTurn)
    {
        var turns = at / division / divisionsPerTurn;
        return (double)((turns - Math.Floor(turns)) * 360);
    }
}
