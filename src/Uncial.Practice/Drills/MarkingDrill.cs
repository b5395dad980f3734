using System.Globalization;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Simulation;

namespace Uncial.Practice.Drills;

/// <summary>
/// Markings cast in parts, worn so that chalk alone brings some letters out: which limit it is, in which unit, and which figure is none.
/// </summary>
internal static class MarkingDrill
{
    private static readonly Dictionary<char, char> LooksLike = new()
    {
        ['0'] = '8',
        ['1'] = '7',
        ['2'] = '7',
        ['3'] = '8',
        ['4'] = '9',
        ['5'] = '6',
        ['6'] = '8',
        ['7'] = '1',
        ['8'] = '3',
        ['9'] = '8',
    };

    public static ChoiceItem Item(Chance chance)
    {
        var part = chance.Happens(0.5) ? PartKind.Rotor : PartKind.Drum;
        var inch = chance.Happens(0.35);
        var unit = inch ? LengthUnit.Inch : LengthUnit.Millimetre;
        var decimals = inch ? 3 : 1;
        var discard = Round(part == PartKind.Rotor ? chance.Between(8.2, 31) : chance.Between(162, 318), unit, decimals);
        var more = Length.From(inch ? 0.03m : (decimal)Math.Round(chance.Between(0.5, 1.2), 1), unit);
        var machineTo = part == PartKind.Rotor ? discard + more : discard - more;
        var form = (int)(chance.Share() * 4);
        string Text(Length value) => value.In(unit).ToString("F" + decimals, CultureInfo.InvariantCulture);
        var name = inch ? " IN" : " MM";
        var foundry = (1000 + (int)(chance.Share() * 8999)).ToString(CultureInfo.InvariantCulture);
        // The casting says discard in one way or another, or both limits, or machine-to in so many words.
        var (lines, kind) = (form, part) switch
        {
            (0, PartKind.Rotor) => (new[] { "MIN TH " + Text(discard) + name, foundry }, LimitKind.Discard),
            (0, _) => (["MAX DIA " + Text(discard) + name, foundry], LimitKind.Discard),
            (1, _) => (["DISCARD " + Text(discard) + name], LimitKind.Discard),
            (2, _) => (["MACH TO " + Text(machineTo) + name, foundry], LimitKind.MachineTo),
            _ => (["MACH TO " + Text(machineTo), "DISCARD " + Text(discard) + name], LimitKind.Discard),
        };
        var value = kind == LimitKind.Discard ? discard : machineTo;
        Choice Limit(LimitKind of, Length size, LengthUnit sizeUnit, MistakeCause cause) =>
            new Choice.Limit(of, size, sizeUnit, decimals, cause);
        string misread;
        do misread = Misread(Text(value), chance);
        while (misread == Text(machineTo) || misread == Text(discard));
        List<Choice> choices =
        [
            Limit(kind, value, unit, MistakeCause.None),
            Limit(kind == LimitKind.Discard ? LimitKind.MachineTo : LimitKind.Discard, value, unit, MistakeCause.OtherLimit),
            Limit(kind, Length.From(decimal.Parse(misread, CultureInfo.InvariantCulture), unit), unit, MistakeCause.WornDigit),
            form == 3
                ? Limit(LimitKind.Discard, machineTo, unit, MistakeCause.OtherLimit)
                : Limit(LimitKind.Nominal, value, unit, MistakeCause.OtherLimit),
        ];
        return new(new Ask.Marking(part), DrillItems.Mixed(chance, choices))
        {
            Picture = new DrillPicture.Casting(lines, (int)(chance.Share() * 1_000_000)),
        };
    }

    /// <summary>The figure with one digit taken for one that looks like it when worn.</summary>
    private static string Misread(string text, Chance chance)
    {
        var digits = Enumerable.Range(0, text.Length).Where(i => char.IsAsciiDigit(text[i])).ToList();
        var at = digits[(int)(chance.Share() * digits.Count)];
        return text[..at] + LooksLike[text[at]] + text[(at + 1)..];
    }

    private static Length Round(double mm, LengthUnit unit, int decimals) =>
        Length.From((decimal)Math.Round(unit == LengthUnit.Inch ? mm / 25.4 : mm, decimals), unit);
}
