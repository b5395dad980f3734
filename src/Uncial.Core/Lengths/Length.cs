using System.Globalization;

namespace Uncial.Core.Lengths;

/// <summary>The unit in which a gauge shows, a marking is cast or a reader reads.</summary>
public enum LengthUnit
{
    /// <summary>Millimetres; the unit in which every <see cref="Length"/> is kept.</summary>
    Millimetre,

    /// <summary>Inches of exactly 25.4 mm.</summary>
    Inch,
}

/// <summary>
/// An exact length, signed, kept as decimal millimetres: a thickness, a diameter, a depth of cut, a margin.
/// One inch is exactly 25.4 mm, so an inch figure goes in and comes out without loss.
/// </summary>
/// <remarks>Range: that of <see cref="decimal"/>; readings are held to 0 (exclusive) … 2000 mm by the parser. The default value is
/// 0.</remarks>
public readonly record struct Length : IComparable<Length>
{
    /// <summary>Millimetres in one inch, by definition.</summary>
    public const decimal MillimetresPerInch = 25.4m;

    private Length(decimal millimetres) => Millimetres = millimetres;

    /// <summary>No length at all.</summary>
    public static Length Zero => default;

    /// <summary>The length in millimetres, exact.</summary>
    public decimal Millimetres { get; }

    /// <summary>The length in inches; exact wherever the quotient by 25.4 ends, otherwise to 28 digits.</summary>
    public decimal Inches => Millimetres / MillimetresPerInch;

    /// <summary>A length of so many millimetres.</summary>
    public static Length FromMillimetres(decimal millimetres) => new(millimetres);

    /// <summary>A length of so many inches of 25.4 mm.</summary>
    public static Length FromInches(decimal inches) => new(inches * MillimetresPerInch);

    /// <summary>A length of so many of the given unit.</summary>
    public static Length From(decimal value, LengthUnit unit) => unit == LengthUnit.Inch ? FromInches(value) : FromMillimetres(value);

    /// <summary>The only way back from trigonometry, which runs in binary floating point.</summary>
    /// <param name="millimetres">Finite figure in millimetres.</param>
    /// <param name="toward">Which way the last millionth of a millimetre goes; the safe side is the caller's to name.</param>
    /// <exception cref="ArgumentOutOfRangeException">The figure is not finite or beyond the range of a decimal.</exception>
    public static Length FromTrigonometry(double millimetres, Toward toward)
    {
        if (!double.IsFinite(millimetres) || Math.Abs(millimetres) > 1e9)
            throw new ArgumentOutOfRangeException(
                nameof(millimetres),
                millimetres,
                "A computed length is finite and below a thousand kilometres."
            );

        // Binary noise (around 1e-13 here) must not push an exact figure over to the next millionth.
        var quiet = Math.Round((decimal)millimetres, 9, MidpointRounding.ToEven);
        return new(
            toward switch
            {
                Toward.Greater => Math.Ceiling(quiet * 1_000_000m) / 1_000_000m,
                Toward.Less => Math.Floor(quiet * 1_000_000m) / 1_000_000m,
                _ => Math.Round(quiet, 6, MidpointRounding.ToEven),
            }
        );
    }

    /// <summary>The length in the given unit.</summary>
    public decimal In(LengthUnit unit) => unit == LengthUnit.Inch ? Inches : Millimetres;

    /// <summary>The greater of two lengths.</summary>
    public static Length Max(Length a, Length b) => a >= b ? a : b;

    /// <summary>The lesser of two lengths.</summary>
    public static Length Min(Length a, Length b) => a <= b ? a : b;

    /// <summary>The length without its sign.</summary>
    public Length Abs() => new(Math.Abs(Millimetres));

    /// <inheritdoc/>
    public int CompareTo(Length other) => Millimetres.CompareTo(other.Millimetres);

    /// <summary>Millimetres, invariant, for logs and test failures; the reader's text is made at the edge.</summary>
    public override string ToString() => Millimetres.ToString("0.##########", CultureInfo.InvariantCulture) + " mm";

#pragma warning disable CS1591, CA2225 // Plain arithmetic of lengths.
    public static Length operator +(Length a, Length b) => new(a.Millimetres + b.Millimetres);

    public static Length operator -(Length a, Length b) => new(a.Millimetres - b.Millimetres);

    public static Length operator -(Length a) => new(-a.Millimetres);

    public static Length operator *(Length a, decimal times) => new(a.Millimetres * times);

    public static Length operator *(decimal times, Length a) => new(a.Millimetres * times);

    public static Length operator /(Length a, decimal parts) => new(a.Millimetres / parts);

    public static decimal operator /(Length a, Length b) => a.Millimetres / b.Millimetres;

    public static bool operator <(Length a, Length b) => a.Millimetres < b.Millimetres;

    public static bool operator >(Length a, Length b) => a.Millimetres > b.Millimetres;

    public static bool operator <=(Length a, Length b) => a.Millimetres <= b.Millimetres;

    public static bool operator >=(Length a, Length b) => a.Millimetres >= b.Millimetres;
#pragma warning restore CS1591, CA2225
}

/// <summary>The side to which a figure is rounded when digits must go.</summary>
public enum Toward
{
    /// <summary>Nearest, half to even.</summary>
    Nearest,

    /// <summary>Never less than the figure.</summary>
    Greater,

    /// <summary>Never more than the figure.</summary>
    Less,
}
