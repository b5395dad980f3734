namespace Uncial.Practice.Causes;

/// <summary>What most likely led to an answer.</summary>
public enum MistakeCause
{
    /// <summary>Right.</summary>
    None,

    /// <summary>One division beside it.</summary>
    OneDivision,

    /// <summary>A turn of the thimble too much or too little: the half-millimetre mark overlooked.</summary>
    TurnOfThimble,

    /// <summary>A whole millimetre, or two marks of the sleeve.</summary>
    WholeMark,

    /// <summary>The wrong numeral of sleeve or beam.</summary>
    Numeral,

    /// <summary>Counted from a numeral in the wrong direction.</summary>
    CountedBackwards,

    /// <summary>Another line of the vernier than the one that meets.</summary>
    VernierLine,

    /// <summary>Eighth marks of the bar miscounted.</summary>
    Eighths,

    /// <summary>A turn of the hand too much or too little: the counter overlooked.</summary>
    TurnOfHand,

    /// <summary>The start beside the one that the bar is set at.</summary>
    AnotherStart,

    /// <summary>The dial alone, without the start of the bar.</summary>
    StartForgotten,

    /// <summary>What is seen instead of what is covered, on a depth micrometer.</summary>
    ReadWhatIsSeen,

    /// <summary>The figure of the other unit.</summary>
    OtherUnit,

    /// <summary>The decimal point one place or more off.</summary>
    PointMoved,

    /// <summary>Two digits in each other's place.</summary>
    DigitsSwapped,

    /// <summary>Half of the total reading: counted to one side only.</summary>
    HalfOfTotal,

    /// <summary>One end of the swing taken for the whole.</summary>
    OneEndOnly,

    /// <summary>The long way round the dial.</summary>
    LongWayRound,

    /// <summary>Rounded to the side on which too little is left.</summary>
    UnsafeRounding,

    /// <summary>Radius and diameter mixed up.</summary>
    RadiusForDiameter,

    /// <summary>One side of the rotor only.</summary>
    OneSideOnly,

    /// <summary>Added what has to be taken away, or the reverse.</summary>
    WrongDirection,

    /// <summary>Larger taken for better where it is worse, or the reverse.</summary>
    WrongWayWorse,

    /// <summary>Discard taken for machine-to, or the reverse.</summary>
    OtherLimit,

    /// <summary>A figure on the casting that is no limit.</summary>
    NoLimit,

    /// <summary>A worn digit taken for another.</summary>
    WornDigit,

    /// <summary>A run-out of the set-up put down to the part: it would be cut into the metal.</summary>
    PartBlamed,

    /// <summary>A run-out of the part put down to the set-up: mounted anew for nothing.</summary>
    SetUpBlamed,

    /// <summary>Both have their share, one was seen.</summary>
    ShareOverlooked,

    /// <summary>The adapter does not go in, or goes through.</summary>
    DoesNotCentre,

    /// <summary>It does not seat flat.</summary>
    DoesNotSeat,

    /// <summary>A larger one seats as well and tilts less.</summary>
    LargerSeats,

    /// <summary>Held in a way that the part does not allow.</summary>
    HeldWrongly,

    /// <summary>The dial does not reach the limit from there.</summary>
    OutOfReach,

    /// <summary>The start lies past the limit.</summary>
    PastTheLimit,

    /// <summary>A higher start reaches the limit and is nearer to it.</summary>
    HigherStart,

    /// <summary>What was wrong was not seen.</summary>
    Overlooked,

    /// <summary>Something was called wrong that is right.</summary>
    FalseAlarm,

    /// <summary>Nothing that is known explains it.</summary>
    Unknown,
}
