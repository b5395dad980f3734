namespace Uncial.Core.Lengths;

/// <summary>What is wrong with a typed length; the wording is made at the edge.</summary>
public enum LengthFault
{
    /// <summary>Nothing was typed.</summary>
    Empty,

    /// <summary>More than <see cref="LengthParser.LongestText"/> characters.</summary>
    TooLong,

    /// <summary>A number was expected here.</summary>
    NumberExpected,

    /// <summary>Digits were expected after the decimal point or comma.</summary>
    DigitsExpected,

    /// <summary>A second decimal point or comma in one number.</summary>
    SecondPoint,

    /// <summary>More digits than any gauge shows (12).</summary>
    TooManyDigits,

    /// <summary>A plus, a minus or the end was expected here.</summary>
    SignExpected,

    /// <summary>A whole number was expected as the denominator of the fraction.</summary>
    DenominatorExpected,

    /// <summary>The denominator is not 2, 4, 8, 16, 32, 64 or 128.</summary>
    DenominatorNotOfATape,

    /// <summary>After a whole number the fraction must be less than one.</summary>
    FractionNotProper,

    /// <summary>A fraction has no meaning in millimetres; it needs <c>in</c> behind it in a millimetre field.</summary>
    FractionInMillimetres,

    /// <summary>The sum is nothing or less.</summary>
    NotPositive,

    /// <summary>The sum is over 2000 mm.</summary>
    TooLarge,
}

/// <summary>
/// A length as it was typed: the text, the unit of the field, the exact value and the echo that shows how it was understood.
/// </summary>
/// <param name="Text">As typed.</param>
/// <param name="Unit">Unit that a bare number took.</param>
/// <param name="Value">The exact sum, above 0 and up to 2000 mm.</param>
/// <param name="Echo">Every step, such as <c>8 7/8 + 132t = 8.875 + 0.132 = 9.007 in = 228.7778 mm</c>.</param>
public sealed record TypedLength(string Text, LengthUnit Unit, Length Value, string Echo);

/// <summary>The outcome of reading a typed length: either a length, or what is wrong and where.</summary>
public sealed record ParseResult
{
    private ParseResult(TypedLength? typed, LengthFault? fault, int position) => (Typed, Fault, Position) = (typed, fault, position);

    /// <summary>The length, or null where the text is bad.</summary>
    public TypedLength? Typed { get; }

    /// <summary>What is wrong, or null where the text is good.</summary>
    public LengthFault? Fault { get; }

    /// <summary>Where it is wrong: index of the character, from 0.</summary>
    public int Position { get; }

    internal static ParseResult Good(TypedLength typed) => new(typed, null, 0);

    internal static ParseResult Bad(LengthFault fault, int position) => new(null, fault, position);
}
