using System.Globalization;

namespace Uncial.Core.Lengths;

/// <summary>
/// Reads a length the way a gauge gives it: a number, a fraction, a mixed number, thousandths, or a sum of them in either unit.
/// </summary>
/// <remarks>
/// Grammar, case and spaces free:
/// <code>
/// sum      = term { ("+" | "-") term }
/// term     = mixed | fraction | number
/// mixed    = whole [ "-" ] proper-fraction [ in ]       8 7/8   8-7/8   8 - 7/8
/// fraction = whole "/" denominator [ in ]               7/8     denominators 2, 4 … 128
/// number   = digits [ ("." | ",") digits ] [ unit ]     24.31   24,31   .957   0.957in   132t
/// unit     = "mm" | "in" | '"' | "t" | "thou"           t and thou are 0.001 in
/// </code>
/// A whole number without unit, a minus and a proper fraction is always the mixed number; to subtract, write <c>8in - 7/8in</c>.
/// A bare number or fraction takes the unit of the field; in a millimetre field a fraction needs <c>in</c>.
/// </remarks>
public static class LengthParser
{
    /// <summary>Longest text that is read, in characters.</summary>
    public const int LongestText = 120;

    /// <summary>Largest sum, in millimetres.</summary>
    public const decimal LargestMillimetres = 2000m;

    /// <summary>Letters that a length may hold, in its units. None begins with one.</summary>
    public const string Letters = "mminthou";

    private const int MostDigits = 12;

    private enum Suffix
    {
        None,
        Millimetre,
        Inch,
        Thou,
    }

    /// <summary>Reads a typed length.</summary>
    /// <param name="text">As typed; null reads as empty.</param>
    /// <param name="unit">Unit of the field.</param>
    /// <param name="allowZero">A depth, such as a groove or a run-out, may be nothing; a size may not.</param>
    public static ParseResult Parse(string? text, LengthUnit unit, bool allowZero = false)
    {
        if (string.IsNullOrWhiteSpace(text))
            return ParseResult.Bad(LengthFault.Empty, 0);
        if (text.Length > LongestText)
            return ParseResult.Bad(LengthFault.TooLong, LongestText);
        return new Reader(text, unit, allowZero).Read();
    }

    /// <summary>One term of the sum: how it is written again, its exact value, and whether it was meant in inches.</summary>
    private readonly record struct Term(string Written, Length Value, bool IsInch, bool IsPlain);

    private ref struct Reader(string text, LengthUnit unit, bool allowZero)
    {
        private int at;
        private (LengthFault Fault, int At)? bad;

        public ParseResult Read()
        {
            List<(Term Term, bool Minus)> terms = [];
            var minus = false;
            while (true)
            {
                Skip();
                var term = ReadTerm();
                if (bad is { } b)
                    return ParseResult.Bad(b.Fault, b.At);
                terms.Add((term, minus));
                Skip();
                if (at == text.Length)
                    break;
                if (text[at] is not ('+' or '-'))
                    return ParseResult.Bad(LengthFault.SignExpected, at);
                minus = text[at++] == '-';
            }

            var sum = Length.Zero;
            foreach (var (term, isMinus) in terms)
                sum = isMinus ? sum - term.Value : sum + term.Value;
            if (sum < Length.Zero || (sum == Length.Zero && !allowZero))
                return ParseResult.Bad(LengthFault.NotPositive, 0);
            if (sum.Millimetres > LargestMillimetres)
                return ParseResult.Bad(LengthFault.TooLarge, 0);
            return ParseResult.Good(new(text, unit, sum, Echo.Of(terms, sum)));
        }

        private Term ReadTerm()
        {
            var start = at;
            var (value, digits, isWhole) = ReadNumber();
            if (bad is not null)
                return default;
            if (isWhole)
            {
                var afterWhole = at;
                Skip();
                if (At('/'))
                {
                    at = start;
                    return ReadFractionTerm(whole: null, wholeDigits: "");
                }
                // Space or minus, then a fraction: the mixed number. A minus and anything else is a subtraction.
                var hyphen = At('-');
                if (hyphen)
                {
                    at++;
                    Skip();
                }
                if (at < text.Length && char.IsAsciiDigit(text[at]) && FractionStartsHere() && (!hyphen || FractionIsProper()))
                    return ReadFractionTerm(value, digits);
                at = afterWhole;
            }
            return Suffixed(value, digits, ReadSuffix());
        }

        private Term Suffixed(decimal value, string digits, Suffix suffix) =>
            suffix switch
            {
                Suffix.Thou => new(digits + "t", Length.FromInches(value / 1000m), true, false),
                Suffix.Inch => new(digits + "in", Length.FromInches(value), true, unit == LengthUnit.Inch),
                Suffix.Millimetre => new(digits + "mm", Length.FromMillimetres(value), false, unit == LengthUnit.Millimetre),
                _ => new(digits, Length.From(value, unit), unit == LengthUnit.Inch, true),
            };

        private Term ReadFractionTerm(decimal? whole, string wholeDigits)
        {
            var start = at;
            var (numerator, numeratorDigits, _) = ReadNumber();
            if (bad is not null)
                return default;
            Skip();
            at++; // the stroke, seen before
            Skip();
            var denominatorAt = at;
            if (at == text.Length || !char.IsAsciiDigit(text[at]))
                return Fail(LengthFault.DenominatorExpected, at);
            var (denominator, denominatorDigits, denominatorIsWhole) = ReadNumber();
            if (bad is not null)
                return default;
            if (!denominatorIsWhole || denominator is not (2 or 4 or 8 or 16 or 32 or 64 or 128))
                return Fail(LengthFault.DenominatorNotOfATape, denominatorAt);
            if (whole is not null && numerator >= denominator)
                return Fail(LengthFault.FractionNotProper, start);
            var suffixAt = at;
            var suffix = ReadSuffix();
            if (suffix is Suffix.Millimetre or Suffix.Thou)
                return Fail(LengthFault.FractionInMillimetres, suffixAt);
            if (suffix == Suffix.None && unit == LengthUnit.Millimetre)
                return Fail(LengthFault.FractionInMillimetres, start);
            var fraction = numeratorDigits + "/" + denominatorDigits;
            var written =
                (whole is null ? fraction : wholeDigits + " " + fraction) + (suffix == Suffix.Inch && unit != LengthUnit.Inch ? "in" : "");
            return new(written, Length.FromInches((whole ?? 0m) + numerator / denominator), true, false);
        }

        private readonly bool FractionStartsHere() => PeekFraction() is not null;

        private readonly bool FractionIsProper() => PeekFraction() is { } f && (f.Denominator is null || f.Numerator < f.Denominator);

        /// <summary>Looks ahead for digits and a stroke, without moving.</summary>
        private readonly (decimal Numerator, decimal? Denominator)? PeekFraction()
        {
            var i = at;
            var numerator = PeekDigits(ref i);
            while (i < text.Length && char.IsWhiteSpace(text[i]))
                i++;
            if (numerator is null || i == text.Length || text[i] != '/')
                return null;
            i++;
            while (i < text.Length && char.IsWhiteSpace(text[i]))
                i++;
            return (numerator.Value, PeekDigits(ref i));
        }

        private readonly decimal? PeekDigits(ref int i)
        {
            var start = i;
            while (i < text.Length && char.IsAsciiDigit(text[i]))
                i++;
            return i > start && i - start <= MostDigits
                ? decimal.Parse(text.AsSpan(start, i - start), NumberStyles.None, CultureInfo.InvariantCulture)
                : null;
        }

        private (decimal Value, string Digits, bool IsWhole) ReadNumber()
        {
            var start = at;
            var count = 0;
            var point = -1;
            for (; at < text.Length; at++)
            {
                if (char.IsAsciiDigit(text[at]))
                    count++;
                else if (text[at] is '.' or ',')
                {
                    if (point >= 0)
                    {
                        Fail(LengthFault.SecondPoint, at);
                        return default;
                    }
                    point = at;
                }
                else
                    break;
            }
            if (point < 0 && count == 0)
            {
                Fail(LengthFault.NumberExpected, start);
                return default;
            }
            if (point >= 0 && point == at - 1)
            {
                Fail(LengthFault.DigitsExpected, at);
                return default;
            }
            if (count > MostDigits)
            {
                Fail(LengthFault.TooManyDigits, start);
                return default;
            }
            var value = decimal.Parse(text[start..at].Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);
            return (value, text[start..at].Replace(',', '.'), point < 0);
        }

        private Suffix ReadSuffix()
        {
            var before = at;
            Skip();
            if (Take("thou") || Take("t"))
                return Suffix.Thou;
            if (Take("mm"))
                return Suffix.Millimetre;
            if (Take("in") || Take("\""))
                return Suffix.Inch;
            at = before;
            return Suffix.None;
        }

        private bool Take(string word)
        {
            if (string.Compare(text, at, word, 0, word.Length, StringComparison.OrdinalIgnoreCase) != 0)
                return false;
            at += word.Length;
            return true;
        }

        private readonly bool At(char c) => at < text.Length && text[at] == c;

        private void Skip()
        {
            while (at < text.Length && char.IsWhiteSpace(text[at]))
                at++;
        }

        private Term Fail(LengthFault fault, int position)
        {
            bad ??= (fault, position);
            return default;
        }
    }

    /// <summary>Writes the steps from what was typed to the sum in both units.</summary>
    private static class Echo
    {
        public static string Of(List<(Term Term, bool Minus)> terms, Length sum)
        {
            var inInches = terms.TrueForAll(t => t.Term.IsInch);
            var unit = inInches ? LengthUnit.Inch : LengthUnit.Millimetre;
            List<string> steps = [];
            if (terms.Count > 1 || !terms[0].Term.IsPlain)
                steps.Add(Join(terms, t => t.Written));
            if (terms.Count > 1)
                steps.Add(Join(terms, t => LengthText.Plain(t.Value.In(unit), 6)));
            steps.Add(LengthText.Plain(sum.In(unit), 6) + " " + LengthText.Name(unit));
            var other = inInches ? LengthUnit.Millimetre : LengthUnit.Inch;
            // A hundredth of a millimetre is four tenths of a thou: small figures keep two digits more.
            var shown = LengthText.Plain(sum.In(other), sum.In(other) < 0.01m ? 6 : 4);
            var exact = Length.From(decimal.Parse(shown, CultureInfo.InvariantCulture), other) == sum;
            var distinct = steps.Where((s, i) => i == 0 || s != steps[i - 1]);
            return string.Join(" = ", distinct) + (exact ? " = " : " ≈ ") + shown + " " + LengthText.Name(other);
        }

        private static string Join(List<(Term Term, bool Minus)> terms, Func<Term, string> write)
        {
            var text = write(terms[0].Term);
            foreach (var (term, minus) in terms.Skip(1))
                text += (minus ? " - " : " + ") + write(term);
            return text;
        }
    }
}
