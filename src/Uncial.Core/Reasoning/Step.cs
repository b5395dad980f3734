using System.Globalization;
using System.Text;
using Uncial.Core.Lengths;

namespace Uncial.Core.Reasoning;

/// <summary>
/// One step of how a result was worked out: a quantity, the formula with its numbers in, and what it comes to. Steps are made where the
/// result is made, in the order in which it is made, so that what is shown is what was computed.
/// </summary>
/// <param name="Quantity">Name in camelCase of what is worked out, such as <c>touch</c>; worded at the edge.</param>
/// <param name="Formula">Formula with places <c>{0}</c>, <c>{1}</c> … for the terms; empty where the figure was read or found.</param>
/// <param name="Terms">The figures that go in.</param>
/// <param name="Result">What comes out.</param>
/// <param name="Subject">Which side or technique it is for, if any.</param>
public sealed record Step(string Quantity, string Formula, IReadOnlyList<Term> Terms, Term Result, string? Subject = null)
{
    /// <summary>The formula with its numbers in, such as <c>24.34 + (0.09 + 0.05)/2</c>; empty where there is none.</summary>
    /// <param name="unit">Unit of the reader, in which every length is written.</param>
    public string Arithmetic(LengthUnit unit)
    {
        if (Formula.Length == 0)
            return "";
        var text = new StringBuilder(Formula.Length + 24);
        for (var i = 0; i < Formula.Length; i++)
        {
            if (Formula[i] != '{')
            {
                text.Append(Formula[i]);
                continue;
            }
            var close = Formula.IndexOf('}', i);
            var inside = Formula.AsSpan(i + 1, close - i - 1);
            if (inside is "…")
                text.AppendJoin(", ", Terms.Select(t => Figure(t, unit)));
            else
                text.Append(Figure(Terms[int.Parse(inside, CultureInfo.InvariantCulture)], unit));
            i = close;
        }
        return text.ToString();
    }

    /// <summary>The result as a figure with its unit; a name is given as it stands.</summary>
    public string Outcome(LengthUnit unit) =>
        Result.Kind switch
        {
            TermKind.Length => Figure(Result, unit) + " " + LengthText.Name(unit),
            TermKind.Degrees => Figure(Result, unit) + "°",
            TermKind.Name => Result.Name!,
            _ => Figure(Result, unit),
        };

    /// <summary>
    /// Lengths at the trade's digits at least, and at most four of a millimetre or six of an inch: more than any gauge has, so that the sum
    /// can
    /// be followed.
    /// </summary>
    private static string Figure(Term term, LengthUnit unit)
    {
        if (term.Kind == TermKind.Name)
            return term.Name!;
        var inch = unit == LengthUnit.Inch;
        var (value, format) = term.Kind switch
        {
            TermKind.Length => inch ? (term.Value / Length.MillimetresPerInch, "0.0000##") : (term.Value, "0.00##"),
            TermKind.Degrees => (term.Value, "0.#"),
            _ => (term.Value, "0.####"),
        };
        var text = Math.Abs(value).ToString(format, CultureInfo.InvariantCulture);
        return value < 0 && text.AsSpan().ContainsAnyExcept('0', '.') ? "−" + text : text;
    }
}

/// <summary>Collects steps while a result is worked out, and hands each result on.</summary>
internal sealed class Steps
{
    private const int MostListed = 12;

    private readonly List<Step> all = new(12);

    public IReadOnlyList<Step> All => all;

    public void Add(string quantity, string formula, Term result, string? subject, params ReadOnlySpan<Term> terms) =>
        all.Add(new(quantity, formula, terms.Length == 0 ? [] : terms.ToArray(), result, subject));

    /// <summary>A step whose terms are a list, such as all readings: written out up to twelve, else only counted.</summary>
    public void AddOver(string quantity, string function, Term result, string? subject, Term[] terms)
    {
        if (terms.Length <= MostListed)
            all.Add(new(quantity, function + "({…})", terms, result, subject));
        else
            all.Add(new(quantity, function + " · {0}×", [terms.Length], result, subject));
    }
}
