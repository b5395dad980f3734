using System.Globalization;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Practice.Causes;
using Uncial.Simulation;

namespace Uncial.Practice.Drills;

/// <summary>Converting and comparing: limit in one unit, gauge in the other; which is worse; radius, diameter, thickness, dial.</summary>
internal static class UnitDrill
{
    private const decimal Inch = Length.MillimetresPerInch;

    public static DrillItem Item(Chance chance, int number) =>
        (number % 6) switch
        {
            0 => LimitInOtherUnit(chance),
            1 => WithinOrBeyond(chance),
            2 => DiameterAfter(chance),
            3 => WhichIsWorse(chance),
            4 => DialForDepth(chance),
            _ => ThicknessAfter(chance),
        };

    private static (PartKind Part, decimal Mm) Size(Chance chance)
    {
        var part = chance.Happens(0.5) ? PartKind.Rotor : PartKind.Drum;
        return (part, (decimal)Math.Round(part == PartKind.Rotor ? chance.Between(8, 34) : chance.Between(160, 320), 1));
    }

    private static FigureItem LimitInOtherUnit(Chance chance)
    {
        var (part, mm) = Size(chance);
        var isLeast = part == PartKind.Rotor;
        var toInch = chance.Happens(0.6);
        var limit = toInch ? Length.FromMillimetres(mm) : Length.FromInches(Math.Round(mm / Inch, 3));
        var (from, to) = toInch ? (LengthUnit.Millimetre, LengthUnit.Inch) : (LengthUnit.Inch, LengthUnit.Millimetre);
        var decimals = toInch ? 3 : 2;
        var step = Length.From(toInch ? 0.001m : 0.01m, to);
        var toward = isLeast ? Toward.Greater : Toward.Less;
        var told = Length.From(decimal.Parse(LengthText.Figure(limit, to, decimals, toward), CultureInfo.InvariantCulture), to);
        // Any answer on the safe side that gives away no more than a step is right.
        var (least, greatest) = isLeast ? (limit, limit + step) : (limit - step, limit);
        return new(
            new Ask.LimitInOtherUnit(limit, part, from, to),
            to,
            decimals,
            Length.Min(least, told),
            Length.Max(greatest, told),
            told,
            [
                (isLeast ? told - step : told + step, MistakeCause.UnsafeRounding),
                (Length.From(toInch ? mm * Inch : limit.Inches / Inch, to), MistakeCause.WrongDirection),
                (Length.From(limit.In(to) * 25.4m / 25m, to), MistakeCause.OtherUnit), // 25 for 25.4
                (Length.From(limit.In(from), to), MistakeCause.OtherUnit),
            ]
        );
    }

    private static ChoiceItem WithinOrBeyond(Chance chance)
    {
        var (part, mm) = Size(chance);
        var limitInInch = chance.Happens(0.5);
        var limit = limitInInch ? Length.FromInches(Math.Round(mm / Inch, 3)) : Length.FromMillimetres(mm);
        // Within a few hundredths on either side, never at the limit itself.
        var by = (decimal)Math.Round(chance.Between(0.02, 0.35), 2) * (chance.Happens(0.5) ? 1 : -1);
        var reading = limitInInch
            ? Length.FromMillimetres(Math.Round(limit.Millimetres + by, 2))
            : Length.FromInches(Math.Round((limit.Millimetres + by) / Inch, 3));
        var within = Limits.Margin(part, reading, limit) >= Length.Zero;
        var (limitUnit, readingUnit) = limitInInch ? (LengthUnit.Inch, LengthUnit.Millimetre) : (LengthUnit.Millimetre, LengthUnit.Inch);
        return new(
            new Ask.WithinOrBeyond(part, limit, limitUnit, reading, readingUnit),
            [
                new Choice.Within(within ? MistakeCause.None : MistakeCause.WrongWayWorse),
                new Choice.Beyond(within ? MistakeCause.WrongWayWorse : MistakeCause.None),
            ]
        );
    }

    private static ChoiceItem WhichIsWorse(Chance chance)
    {
        var (part, mm) = Size(chance);
        var metric = Length.FromMillimetres(mm);
        var by = (decimal)Math.Round(chance.Between(0.04, 0.5), 2) * (chance.Happens(0.5) ? 1 : -1);
        var inch = Length.FromInches(Math.Round((mm + by) / Inch, 3));
        var metricIsWorse = Limits.Margin(part, metric, inch) < Length.Zero;
        return new(
            new Ask.WhichIsWorse(part),
            [
                new Choice.Size(metric, LengthUnit.Millimetre, 1, metricIsWorse ? MistakeCause.None : MistakeCause.WrongWayWorse),
                new Choice.Size(inch, LengthUnit.Inch, 3, metricIsWorse ? MistakeCause.WrongWayWorse : MistakeCause.None),
            ]
        );
    }

    private static FigureItem DiameterAfter(Chance chance)
    {
        var inch = chance.Happens(0.4);
        var (unit, decimals) = inch ? (LengthUnit.Inch, 3) : (LengthUnit.Millimetre, 2);
        var diameter = Length.From((decimal)(inch ? Math.Round(chance.Between(7, 12), 3) : Math.Round(chance.Between(160, 320), 2)), unit);
        var depth = Length.From(
            (decimal)(inch ? Math.Round(chance.Between(0.003, 0.012), 3) : Math.Round(chance.Between(0.06, 0.3), 2)),
            unit
        );
        return Exactly(
            new Ask.DiameterAfter(diameter, depth, unit),
            unit,
            decimals,
            diameter + depth * 2,
            (diameter + depth, MistakeCause.RadiusForDiameter),
            (diameter - depth * 2, MistakeCause.WrongDirection),
            (diameter - depth, MistakeCause.WrongDirection)
        );
    }

    private static FigureItem ThicknessAfter(Chance chance)
    {
        var inch = chance.Happens(0.4);
        var (unit, decimals) = inch ? (LengthUnit.Inch, 3) : (LengthUnit.Millimetre, 2);
        var thickness = Length.From(
            (decimal)(inch ? Math.Round(chance.Between(0.4, 1.3), 3) : Math.Round(chance.Between(10, 34), 2)),
            unit
        );
        var each = Length.From(
            (decimal)(inch ? Math.Round(chance.Between(0.003, 0.01), 3) : Math.Round(chance.Between(0.06, 0.25), 2)),
            unit
        );
        return Exactly(
            new Ask.ThicknessAfter(thickness, each, unit),
            unit,
            decimals,
            thickness - each * 2,
            (thickness - each, MistakeCause.OneSideOnly),
            (thickness + each * 2, MistakeCause.WrongDirection),
            (thickness + each, MistakeCause.WrongDirection)
        );
    }

    private static FigureItem DialForDepth(Chance chance)
    {
        var inch = chance.Happens(0.4);
        var (unit, decimals) = inch ? (LengthUnit.Inch, 3) : (LengthUnit.Millimetre, 2);
        var depth = Length.From(
            (decimal)(inch ? Math.Round(chance.Between(0.003, 0.01), 3) : Math.Round(chance.Between(0.05, 0.25), 2)),
            unit
        );
        return Exactly(
            new Ask.DialForDepth(depth, unit),
            unit,
            decimals,
            depth * 2,
            (depth, MistakeCause.RadiusForDiameter),
            (depth / 2, MistakeCause.WrongDirection)
        );
    }

    private static FigureItem Exactly(
        Ask ask,
        LengthUnit unit,
        int decimals,
        Length right,
        params (Length Value, MistakeCause Cause)[] mistakes
    ) => new(ask, unit, decimals, right, right, right, mistakes);
}
