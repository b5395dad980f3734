using System.Globalization;
using System.Text.RegularExpressions;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;

namespace Uncial.Core.Parts;

/// <summary>What is wrong with a cast marking as it was typed.</summary>
public enum MarkingFault
{
    /// <summary>There is no figure in it.</summary>
    NoFigure,

    /// <summary>It speaks of the other kind of part: a least thickness on a drum, a greatest diameter on a rotor.</summary>
    OtherPart,

    /// <summary>No such part has that size in the unit that is given, or in either.</summary>
    CannotBe,

    /// <summary>Without a unit it could be either.</summary>
    UnitUnclear,

    /// <summary>The same limit in two units, and they do not agree.</summary>
    UnitsDisagree,

    /// <summary>The same limit twice with different figures.</summary>
    Twice,
}

/// <summary>A limit read off a casting.</summary>
/// <param name="Kind">Which limit it is. A casting that does not say shows the discard limit nearly always.</param>
/// <param name="Value">The figure.</param>
/// <param name="Unit">Unit of the figure.</param>
/// <param name="KindIsGuessed">The marking does not say which limit it is.</param>
/// <param name="UnitIsGuessed">The marking gives no unit; only one of the two can be.</param>
public readonly record struct MarkedLimit(LimitKind Kind, Length Value, LengthUnit Unit, bool KindIsGuessed, bool UnitIsGuessed);

/// <summary>
/// A marking cast in a part, read as the operator types it: <c>MIN TH 22.4</c>, <c>MAX DIA 9.060 IN</c>, <c>22,4 mm min</c>,
/// <c>NEW 26.0 DISCARD 23.0</c>, <c>Ø MAX 230.1 MM / 9.060 IN</c>.
/// </summary>
/// <param name="Limits">The limits that it gives.</param>
/// <param name="NotUnderstood">Words that say nothing of a limit: foundry numbers, makers' signs.</param>
public sealed partial record CastMarking(IReadOnlyList<MarkedLimit> Limits, IReadOnlyList<string> NotUnderstood)
{
    /// <summary>Longest marking that is read, in characters.</summary>
    public const int LongestText = 120;

    private enum Clue
    {
        None,
        Least,
        Greatest,
        Thickness,
        Diameter,
        Nominal,
        MachineTo,
        Discard,
        Filler,
    }

    private sealed record Group(List<Clue> Clues, List<(decimal Figure, int Decimals, LengthUnit? Unit)> Figures);

    /// <summary>Reads a marking.</summary>
    /// <param name="text">As typed; upper or lower case.</param>
    /// <param name="part">The part that it is cast in.</param>
    /// <returns>The marking, or what is wrong with it.</returns>
    public static (CastMarking? Marking, MarkingFault? Fault) Read(string? text, PartKind part)
    {
        if (string.IsNullOrWhiteSpace(text) || text.Length > LongestText)
            return (null, MarkingFault.NoFigure);
        List<string> unknown = [];
        var groups = GroupsOf(text, unknown);
        if (groups.Count == 0)
            return (null, MarkingFault.NoFigure);
        List<MarkedLimit> limits = [];
        foreach (var group in groups)
        {
            var (limit, fault) = LimitOf(group, part);
            if (fault is not null)
                return (null, fault);
            limits.Add(limit!.Value);
        }
        if (limits.GroupBy(l => l.Kind).Any(g => g.Select(l => l.Value).Distinct().Skip(1).Any()))
            return (null, MarkingFault.Twice);
        return (new([.. limits.DistinctBy(l => l.Kind)], unknown), null);
    }

    /// <summary>The figures with the words that belong to each: before it, or behind it where the marking begins with a figure.</summary>
    private static List<Group> GroupsOf(string text, List<string> unknown)
    {
        List<Group> groups = [];
        List<Clue> waiting = [];
        var begun = false;
        var wordsFollow = false;
        foreach (Match match in Tokens().Matches(text))
        {
            if (match.Groups["figure"] is { Success: true } figure)
            {
                if (!begun)
                    wordsFollow = true;
                var (value, decimals) = FigureOf(figure.Value);
                LengthUnit? unit = match.Groups["unit"].Value.ToUpperInvariant() switch
                {
                    "" => null,
                    "MM" => LengthUnit.Millimetre,
                    _ => LengthUnit.Inch,
                };
                // Two figures with no word between are one limit in two units.
                if (
                    groups.Count > 0
                    && waiting.Count == 0
                    && groups[^1].Figures.Count == 1
                    && groups[^1].Figures[0].Unit != unit
                    && (!wordsFollow || groups[^1].Clues.Count == 0)
                )
                    groups[^1].Figures.Add((value, decimals, unit));
                else
                    groups.Add(new([.. waiting], [(value, decimals, unit)]));
                waiting.Clear();
            }
            else
            {
                var clue = ClueOf(match.Value);
                if (clue == Clue.None)
                    unknown.Add(match.Value);
                else if (clue != Clue.Filler)
                {
                    if (wordsFollow)
                        groups[^1].Clues.Add(clue);
                    else
                        waiting.Add(clue);
                }
            }
            begun = true;
        }
        // What stands behind the last figure belongs to it: MIN 22.4 DISCARD.
        if (groups.Count > 0)
            groups[^1].Clues.AddRange(waiting);
        return groups;
    }

    private static (MarkedLimit? Limit, MarkingFault? Fault) LimitOf(Group group, PartKind part)
    {
        var rotor = part == PartKind.Rotor;
        if (group.Clues.Any(c => rotor ? c is Clue.Greatest or Clue.Diameter : c is Clue.Least or Clue.Thickness))
            return (null, MarkingFault.OtherPart);
        LimitKind? said =
            group.Clues.Contains(Clue.MachineTo) ? LimitKind.MachineTo
            : group.Clues.Contains(Clue.Discard) ? LimitKind.Discard
            : group.Clues.Contains(Clue.Nominal) ? LimitKind.Nominal
            : null;
        List<(Length Value, LengthUnit Unit, bool Guessed, Length Half)> read = [];
        foreach (var (figure, decimals, unit) in group.Figures)
        {
            var (given, fault) = UnitOf(figure, unit, part);
            if (fault is not null)
                return (null, fault);
            read.Add((Length.From(figure, given), given, unit is null, Length.From(0.5m / Power(decimals), given)));
        }
        if (read is [var one, var other] && (one.Value - other.Value).Abs() > one.Half + other.Half)
            return (null, MarkingFault.UnitsDisagree);
        // Of two roundings of one limit the stricter holds.
        var held =
            said == LimitKind.Nominal ? read[0]
            : rotor ? read.MaxBy(r => r.Value)
            : read.MinBy(r => r.Value);
        return (new(said ?? LimitKind.Discard, held.Value, held.Unit, said is null, held.Guessed), null);
    }

    private static (LengthUnit Unit, MarkingFault? Fault) UnitOf(decimal figure, LengthUnit? given, PartKind part)
    {
        bool Can(LengthUnit unit) => Plausibility.QuestionLimit(Length.From(figure, unit), part) is null;
        if (given is { } unit)
            return Can(unit) ? (unit, null) : (unit, MarkingFault.CannotBe);
        return (Can(LengthUnit.Millimetre), Can(LengthUnit.Inch)) switch
        {
            (true, true) => (default, MarkingFault.UnitUnclear),
            (true, false) => (LengthUnit.Millimetre, null),
            (false, true) => (LengthUnit.Inch, null),
            _ => (default, MarkingFault.CannotBe),
        };
    }

    private static (decimal Figure, int Decimals) FigureOf(string text)
    {
        var plain = text.Replace(',', '.');
        var point = plain.IndexOf('.', StringComparison.Ordinal);
        return (
            decimal.Parse(plain, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture),
            point < 0 ? 0 : plain.Length - point - 1
        );
    }

    private static decimal Power(int decimals)
    {
        var power = 1m;
        for (var i = 0; i < decimals; i++)
            power *= 10;
        return power;
    }

    private static Clue ClueOf(string word) =>
        word.TrimEnd('.').ToUpperInvariant() switch
        {
            "MIN" or "MINIMUM" or "LEAST" => Clue.Least,
            "MAX" or "MAXIMUM" or "GREATEST" => Clue.Greatest,
            "TH" or "THK" or "THICK" or "THICKNESS" => Clue.Thickness,
            "DIA" or "DIAM" or "DIAMETER" or "ID" or "Ø" or "BORE" => Clue.Diameter,
            "NEW" or "NOM" or "NOMINAL" or "ORIG" or "ORIGINAL" or "STD" or "STANDARD" => Clue.Nominal,
            "MACH" or "MACHINE" or "MACHINING" or "TURN" or "REFINISH" or "RECUT" or "CUT" => Clue.MachineTo,
            "DISCARD" or "WEAR" or "SCRAP" or "REJECT" => Clue.Discard,
            "TO" or "LIMIT" or "AT" or "SIZE" or "THE" or "OF" => Clue.Filler,
            _ => Clue.None,
        };

    [GeneratedRegex(
        @"(?<![A-Za-z0-9.,])(?<figure>[0-9]{1,4}(?:[.,][0-9]{1,6})?|[.,][0-9]{1,6})(?![0-9.,]*[A-Za-z]*[0-9])\s*"
            + @"(?<unit>mm\b|inch(?:es)?\b|in\b\.?|""|'')?|Ø|[A-Za-z][A-Za-z0-9]*\.?|[0-9][0-9A-Za-z-]+",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant,
        matchTimeoutMilliseconds: 2000
    )]
    private static partial Regex Tokens();
}
