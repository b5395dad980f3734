using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>Every figure of <see cref="ShopRules"/> with its group, unit and range, in the order in which they are shown.</summary>
public static class ShopSettings
{
    /// <summary>All settings. Each property of <see cref="ShopRules"/> is here once.</summary>
    public static IReadOnlyList<Setting> All { get; } =
    [
        Length(
            nameof(LimitRules.RotorMachineToAboveDiscard),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.Limits.RotorMachineToAboveDiscard,
            (r, v) => r with { Limits = r.Limits with { RotorMachineToAboveDiscard = v } }
        ),
        Length(
            nameof(LimitRules.DrumMachineToBelowDiscard),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.Limits.DrumMachineToBelowDiscard,
            (r, v) => r with { Limits = r.Limits with { DrumMachineToBelowDiscard = v } }
        ),
        Length(
            nameof(LimitRules.DrumFloor),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.Limits.DrumFloor,
            (r, v) => r with { Limits = r.Limits with { DrumFloor = v } }
        ),
        Length(
            nameof(LimitRules.GreatestVariation),
            SettingGroup.Limits,
            0.001m,
            0.5m,
            r => r.Limits.GreatestVariation,
            (r, v) => r with { Limits = r.Limits with { GreatestVariation = v } }
        ),
        Length(
            nameof(LimitRules.GreatestRunout),
            SettingGroup.Limits,
            0.001m,
            0.5m,
            r => r.Limits.GreatestRunout,
            (r, v) => r with { Limits = r.Limits with { GreatestRunout = v } }
        ),
        Length(
            nameof(LimitRules.GreatestOutOfRound),
            SettingGroup.Limits,
            0.001m,
            1m,
            r => r.Limits.GreatestOutOfRound,
            (r, v) => r with { Limits = r.Limits with { GreatestOutOfRound = v } }
        ),
        Length(
            nameof(LimitRules.GreatestTaper),
            SettingGroup.Limits,
            0.001m,
            1m,
            r => r.Limits.GreatestTaper,
            (r, v) => r with { Limits = r.Limits with { GreatestTaper = v } }
        ),
        Length(
            nameof(LimitRules.GreatestAxleDifference),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.Limits.GreatestAxleDifference,
            (r, v) => r with { Limits = r.Limits with { GreatestAxleDifference = v } }
        ),
        Choice(
            nameof(LimitRules.LeadMayReleaseBetweenLimits),
            SettingGroup.Limits,
            r => r.Limits.LeadMayReleaseBetweenLimits,
            (r, v) => r with { Limits = r.Limits with { LeadMayReleaseBetweenLimits = v } }
        ),
        Length(
            nameof(GaugeRules.UnlikeNeighbours),
            SettingGroup.Gauges,
            0m,
            2m,
            r => r.Gauges.UnlikeNeighbours,
            (r, v) => r with { Gauges = r.Gauges with { UnlikeNeighbours = v } }
        ),
        Length(
            nameof(GaugeRules.SecondReadingWithin),
            SettingGroup.Gauges,
            0m,
            2m,
            r => r.Gauges.SecondReadingWithin,
            (r, v) => r with { Gauges = r.Gauges with { SecondReadingWithin = v } }
        ),
        Number(
            nameof(GaugeRules.ZeroCheckHoldsMinutes),
            SettingGroup.Gauges,
            SettingUnit.Minutes,
            0,
            720,
            0,
            r => r.Gauges.ZeroCheckHoldsMinutes,
            (r, v) => r with { Gauges = r.Gauges with { ZeroCheckHoldsMinutes = (int)v } }
        ),
        Number(
            nameof(GaugeRules.TemperatureDifference),
            SettingGroup.Gauges,
            SettingUnit.Kelvin,
            0,
            30,
            1,
            r => r.Gauges.TemperatureDifference,
            (r, v) => r with { Gauges = r.Gauges with { TemperatureDifference = v } }
        ),
        Length(
            nameof(GaugeRules.MicrometerRepeat),
            SettingGroup.Gauges,
            0.0005m,
            0.1m,
            r => r.Gauges.MicrometerRepeat,
            (r, v) => r with { Gauges = r.Gauges with { MicrometerRepeat = v } }
        ),
        Length(
            nameof(GaugeRules.CaliperRepeat),
            SettingGroup.Gauges,
            0.001m,
            0.5m,
            r => r.Gauges.CaliperRepeat,
            (r, v) => r with { Gauges = r.Gauges with { CaliperRepeat = v } }
        ),
        Length(
            nameof(GaugeRules.DrumGaugeRepeat),
            SettingGroup.Gauges,
            0.001m,
            0.5m,
            r => r.Gauges.DrumGaugeRepeat,
            (r, v) => r with { Gauges = r.Gauges with { DrumGaugeRepeat = v } }
        ),
        Length(
            nameof(GaugeRules.TapeRepeat),
            SettingGroup.Gauges,
            0.05m,
            3m,
            r => r.Gauges.TapeRepeat,
            (r, v) => r with { Gauges = r.Gauges with { TapeRepeat = v } }
        ),
        Length(
            nameof(SetUpRules.SetUpTolerance),
            SettingGroup.SetUp,
            0.005m,
            0.5m,
            r => r.SetUp.SetUpTolerance,
            (r, v) => r with { SetUp = r.SetUp with { SetUpTolerance = v } }
        ),
        Choice(
            nameof(SetUpRules.AcceptHalfRoundScratch),
            SettingGroup.SetUp,
            r => r.SetUp.AcceptHalfRoundScratch,
            (r, v) => r with { SetUp = r.SetUp with { AcceptHalfRoundScratch = v } }
        ),
        Length(
            nameof(SetUpRules.SecondChuckingRunout),
            SettingGroup.SetUp,
            0m,
            1m,
            r => r.SetUp.SecondChuckingRunout,
            (r, v) => r with { SetUp = r.SetUp with { SecondChuckingRunout = v } }
        ),
        Length(
            nameof(SetUpRules.AssumedRunout),
            SettingGroup.SetUp,
            0m,
            1m,
            r => r.SetUp.AssumedRunout,
            (r, v) => r with { SetUp = r.SetUp with { AssumedRunout = v } }
        ),
        Number(
            nameof(ShapeRules.UnreadShareOfVariation),
            SettingGroup.Shape,
            SettingUnit.None,
            1,
            12,
            2,
            r => r.Shape.UnreadShareOfVariation,
            (r, v) => r with { Shape = r.Shape with { UnreadShareOfVariation = v } }
        ),
        Length(
            nameof(ShapeRules.UnseenLobesFullRound),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.Shape.UnseenLobesFullRound,
            (r, v) => r with { Shape = r.Shape with { UnseenLobesFullRound = v } }
        ),
        Length(
            nameof(ShapeRules.UnseenLobes),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.Shape.UnseenLobes,
            (r, v) => r with { Shape = r.Shape with { UnseenLobes = v } }
        ),
        Length(
            nameof(ShapeRules.UnknownParallelism),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.Shape.UnknownParallelism,
            (r, v) => r with { Shape = r.Shape with { UnknownParallelism = v } }
        ),
        Length(
            nameof(ShapeRules.UnknownRelief),
            SettingGroup.Shape,
            0m,
            1m,
            r => r.Shape.UnknownRelief,
            (r, v) => r with { Shape = r.Shape with { UnknownRelief = v } }
        ),
        Length(
            nameof(ShapeRules.DepthUncertainty),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.Shape.DepthUncertainty,
            (r, v) => r with { Shape = r.Shape with { DepthUncertainty = v } }
        ),
        Length(
            nameof(ShapeRules.RepeatedDepthUncertainty),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.Shape.RepeatedDepthUncertainty,
            (r, v) => r with { Shape = r.Shape with { RepeatedDepthUncertainty = v } }
        ),
        Length(
            nameof(ShapeRules.LookAgainWithin),
            SettingGroup.Shape,
            0m,
            2m,
            r => r.Shape.LookAgainWithin,
            (r, v) => r with { Shape = r.Shape with { LookAgainWithin = v } }
        ),
        Length(
            nameof(CuttingRules.HeaviestPass),
            SettingGroup.Cutting,
            0.02m,
            2m,
            r => r.Cutting.HeaviestPass,
            (r, v) => r with { Cutting = r.Cutting with { HeaviestPass = v } }
        ),
        Length(
            nameof(CuttingRules.RubbingDepth),
            SettingGroup.Cutting,
            0m,
            0.5m,
            r => r.Cutting.RubbingDepth,
            (r, v) => r with { Cutting = r.Cutting with { RubbingDepth = v } }
        ),
        Length(
            nameof(CuttingRules.ThinRotor),
            SettingGroup.Cutting,
            0m,
            50m,
            r => r.Cutting.ThinRotor,
            (r, v) => r with { Cutting = r.Cutting with { ThinRotor = v } }
        ),
        Length(
            nameof(CuttingRules.LargeDiameter),
            SettingGroup.Cutting,
            50m,
            1000m,
            r => r.Cutting.LargeDiameter,
            (r, v) => r with { Cutting = r.Cutting with { LargeDiameter = v } }
        ),
        Number(
            nameof(CuttingRules.SwarfBinKilograms),
            SettingGroup.Cutting,
            SettingUnit.Kilograms,
            1,
            5000,
            2,
            r => r.Cutting.SwarfBinKilograms,
            (r, v) => r with { Cutting = r.Cutting with { SwarfBinKilograms = v } }
        ),
        Number(
            nameof(CostRules.LeastDistanceAfterCut),
            SettingGroup.Cost,
            SettingUnit.Kilometres,
            0,
            200_000,
            0,
            r => r.Cost.LeastDistanceAfterCut,
            (r, v) => r with { Cost = r.Cost with { LeastDistanceAfterCut = v } }
        ),
        Number(
            nameof(CostRules.MountMinutes),
            SettingGroup.Cost,
            SettingUnit.Minutes,
            0,
            480,
            1,
            r => r.Cost.MountMinutes,
            (r, v) => r with { Cost = r.Cost with { MountMinutes = v } }
        ),
        Number(
            nameof(CostRules.BenchMinutePrice),
            SettingGroup.Cost,
            SettingUnit.Money,
            0,
            100_000,
            2,
            r => r.Cost.BenchMinutePrice,
            (r, v) => r with { Cost = r.Cost with { BenchMinutePrice = v } }
        ),
        Number(
            nameof(CostRules.ConsumablesPrice),
            SettingGroup.Cost,
            SettingUnit.Money,
            0,
            1_000_000,
            2,
            r => r.Cost.ConsumablesPrice,
            (r, v) => r with { Cost = r.Cost with { ConsumablesPrice = v } }
        ),
    ];

    /// <summary>The settings of a group.</summary>
    public static IReadOnlyList<Setting> Of(SettingGroup group) => [.. All.Where(s => s.Group == group)];

    private static LengthSetting Length(
        string key,
        SettingGroup group,
        decimal least,
        decimal most,
        Func<ShopRules, Length> of,
        Func<ShopRules, Length, ShopRules> with
    ) => new(key, group, Lengths.Length.FromMillimetres(least), Lengths.Length.FromMillimetres(most), of, with);

    private static NumberSetting Number(
        string key,
        SettingGroup group,
        SettingUnit unit,
        decimal least,
        decimal most,
        int decimals,
        Func<ShopRules, decimal> of,
        Func<ShopRules, decimal, ShopRules> with
    ) => new(key, group, unit, least, most, decimals, of, with);

    private static ChoiceSetting Choice(string key, SettingGroup group, Func<ShopRules, bool> of, Func<ShopRules, bool, ShopRules> with) =>
        new(key, group, of, with);
}
