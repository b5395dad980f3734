using Uncial.Core.Lengths;
using Uncial.Core.Parts;

namespace Uncial.Core.Reasoning;

/// <summary>What a figure of a step is.</summary>
public enum TermKind
{
    /// <summary>A length, shown in the reader's unit.</summary>
    Length,

    /// <summary>A plain number: a count, a share, a rate, a sum of money.</summary>
    Number,

    /// <summary>An angle in degrees, clockwise from the index mark.</summary>
    Degrees,

    /// <summary>A named state in camelCase, such as a verdict; worded at the edge.</summary>
    Name,
}

/// <summary>One figure in a step of reasoning. The default value is a length of nothing.</summary>
/// <param name="Kind">What the figure is.</param>
/// <param name="Value">Millimetres, the plain number or degrees; 0 for a name.</param>
/// <param name="Name">The state's name; null for figures.</param>
public readonly record struct Term(TermKind Kind, decimal Value, string? Name = null)
{
    /// <summary>A length.</summary>
    public static implicit operator Term(Length length) => new(TermKind.Length, length.Millimetres);

    /// <summary>A plain number.</summary>
    public static implicit operator Term(decimal number) => new(TermKind.Number, number);

    /// <summary>A count.</summary>
    public static implicit operator Term(int count) => new(TermKind.Number, count);

    /// <summary>A count.</summary>
    public static implicit operator Term(long count) => new(TermKind.Number, count);

    /// <summary>A place.</summary>
    public static implicit operator Term(ClockAngle at) => new(TermKind.Degrees, at.Degrees);

    /// <summary>A plain number that went through trigonometry or a quotient: kept to nine decimals.</summary>
    /// <exception cref="OverflowException">The number is beyond a decimal.</exception>
    public static Term Number(double number) => new(TermKind.Number, Math.Round((decimal)number, 9));

    /// <summary>A named state.</summary>
    public static Term Named<T>(T state)
        where T : struct, Enum => State(NamesOf<T>.All[Convert.ToInt32(state, System.Globalization.CultureInfo.InvariantCulture)]);

    /// <summary>A state by its name.</summary>
    public static Term State(string name) => new(TermKind.Name, 0, name);

    private static class NamesOf<T>
        where T : struct, Enum
    {
        public static readonly string[] All = [.. Enum.GetNames<T>().Select(n => char.ToLowerInvariant(n[0]) + n[1..])];
    }
}
