namespace Uncial.Simulation;

/// <summary>What an operator gets wrong, each with how often. Rates as in the product's study.</summary>
[Flags]
public enum Slips
{
    /// <summary>Nothing: a careful operator.</summary>
    None = 0,

    /// <summary>A reading is typed in the other unit: one in 500.</summary>
    WrongUnit = 1 << 0,

    /// <summary>Two digits of a reading change places: one in 200.</summary>
    TransposedDigits = 1 << 1,

    /// <summary>The gauge lies on the ridge or lip: one reading in 200.</summary>
    AcrossTheRidge = 1 << 2,

    /// <summary>Read somewhere else than said: one reading in 200.</summary>
    WrongPoint = 1 << 3,

    /// <summary>A groove is read at half of its depth: one in 20.</summary>
    GrooveAtHalfDepth = 1 << 4,

    /// <summary>"None" is said of a face that nobody looked at: one in 20.</summary>
    NoneWithoutLooking = 1 << 5,

    /// <summary>The tool touches another land than was read: one in 20.</summary>
    TouchOnAnotherLand = 1 << 6,

    /// <summary>A dial that nobody has verified counts twice or half the depth: one head in 50.</summary>
    DialOfAnotherWorth = 1 << 7,

    /// <summary>The zero check is left out: one in 10.</summary>
    ZeroCheckSkipped = 1 << 8,

    /// <summary>All of them.</summary>
    All = (1 << 9) - 1,
}

/// <summary>How often each slip happens.</summary>
public static class SlipRates
{
    /// <summary>Share, 0 … 1, of the readings, grooves, faces, touches, heads or checks that a slip is about.</summary>
    public static double Of(Slips slip) =>
        slip switch
        {
            Slips.WrongUnit => 0.002,
            Slips.TransposedDigits or Slips.AcrossTheRidge or Slips.WrongPoint => 0.005,
            Slips.GrooveAtHalfDepth or Slips.NoneWithoutLooking or Slips.TouchOnAnotherLand => 0.05,
            Slips.DialOfAnotherWorth => 0.02,
            Slips.ZeroCheckSkipped => 0.10,
            _ => throw new ArgumentOutOfRangeException(nameof(slip), slip, "One slip at a time."),
        };
}
