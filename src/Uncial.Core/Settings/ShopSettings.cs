using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>Every figure of <see cref="ShopRules"/> with its group, unit and range, in the order in which they are shown.</summary>
public static class ShopSettings
{
    /// <summary>All settings. Each property of <see cref="ShopRules"/> is here once.</summary>
    public static IReadOnlyList<Setting> All { get; } =
    [
        Length(
            nameof(ShopRules.RotorMachineToAboveDiscard),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.RotorMachineToAboveDiscard,
            (r, v) => r with { RotorMachineToAboveDiscard = v }
        ),
        Length(
            nameof(ShopRules.DrumMachineToBelowDiscard),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.DrumMachineToBelowDiscard,
            (r, v) => r with { DrumMachineToBelowDiscard = v }
        ),
        Length(nameof(ShopRules.DrumFloor), SettingGroup.Limits, 0m, 3m, r => r.DrumFloor, (r, v) => r with { DrumFloor = v }),
        Length(
            nameof(ShopRules.GreatestVariation),
            SettingGroup.Limits,
            0.001m,
            0.5m,
            r => r.GreatestVariation,
            (r, v) => r with { GreatestVariation = v }
        ),
        Length(
            nameof(ShopRules.GreatestRunout),
            SettingGroup.Limits,
            0.001m,
            0.5m,
            r => r.GreatestRunout,
            (r, v) => r with { GreatestRunout = v }
        ),
        Length(
            nameof(ShopRules.GreatestOutOfRound),
            SettingGroup.Limits,
            0.001m,
            1m,
            r => r.GreatestOutOfRound,
            (r, v) => r with { GreatestOutOfRound = v }
        ),
        Length(
            nameof(ShopRules.GreatestTaper),
            SettingGroup.Limits,
            0.001m,
            1m,
            r => r.GreatestTaper,
            (r, v) => r with { GreatestTaper = v }
        ),
        Length(
            nameof(ShopRules.GreatestAxleDifference),
            SettingGroup.Limits,
            0m,
            3m,
            r => r.GreatestAxleDifference,
            (r, v) => r with { GreatestAxleDifference = v }
        ),
        Choice(
            nameof(ShopRules.LeadMayReleaseBetweenLimits),
            SettingGroup.Limits,
            r => r.LeadMayReleaseBetweenLimits,
            (r, v) => r with { LeadMayReleaseBetweenLimits = v }
        ),
        Length(
            nameof(ShopRules.UnlikeNeighbours),
            SettingGroup.Gauges,
            0m,
            2m,
            r => r.UnlikeNeighbours,
            (r, v) => r with { UnlikeNeighbours = v }
        ),
        Length(
            nameof(ShopRules.SecondReadingWithin),
            SettingGroup.Gauges,
            0m,
            2m,
            r => r.SecondReadingWithin,
            (r, v) => r with { SecondReadingWithin = v }
        ),
        Number(
            nameof(ShopRules.ZeroCheckHoldsMinutes),
            SettingGroup.Gauges,
            SettingUnit.Minutes,
            0,
            720,
            0,
            r => r.ZeroCheckHoldsMinutes,
            (r, v) => r with { ZeroCheckHoldsMinutes = (int)v }
        ),
        Number(
            nameof(ShopRules.TemperatureDifference),
            SettingGroup.Gauges,
            SettingUnit.Kelvin,
            0,
            30,
            1,
            r => r.TemperatureDifference,
            (r, v) => r with { TemperatureDifference = v }
        ),
        Length(
            nameof(ShopRules.MicrometerRepeat),
            SettingGroup.Gauges,
            0.0005m,
            0.1m,
            r => r.MicrometerRepeat,
            (r, v) => r with { MicrometerRepeat = v }
        ),
        Length(
            nameof(ShopRules.CaliperRepeat),
            SettingGroup.Gauges,
            0.001m,
            0.5m,
            r => r.CaliperRepeat,
            (r, v) => r with { CaliperRepeat = v }
        ),
        Length(
            nameof(ShopRules.DrumGaugeRepeat),
            SettingGroup.Gauges,
            0.001m,
            0.5m,
            r => r.DrumGaugeRepeat,
            (r, v) => r with { DrumGaugeRepeat = v }
        ),
        Length(nameof(ShopRules.TapeRepeat), SettingGroup.Gauges, 0.05m, 3m, r => r.TapeRepeat, (r, v) => r with { TapeRepeat = v }),
        Length(
            nameof(ShopRules.SetUpTolerance),
            SettingGroup.SetUp,
            0.005m,
            0.5m,
            r => r.SetUpTolerance,
            (r, v) => r with { SetUpTolerance = v }
        ),
        Choice(
            nameof(ShopRules.AcceptHalfRoundScratch),
            SettingGroup.SetUp,
            r => r.AcceptHalfRoundScratch,
            (r, v) => r with { AcceptHalfRoundScratch = v }
        ),
        Length(
            nameof(ShopRules.SecondChuckingRunout),
            SettingGroup.SetUp,
            0m,
            1m,
            r => r.SecondChuckingRunout,
            (r, v) => r with { SecondChuckingRunout = v }
        ),
        Length(nameof(ShopRules.AssumedRunout), SettingGroup.SetUp, 0m, 1m, r => r.AssumedRunout, (r, v) => r with { AssumedRunout = v }),
        Number(
            nameof(ShopRules.UnreadShareOfVariation),
            SettingGroup.Shape,
            SettingUnit.None,
            1,
            12,
            2,
            r => r.UnreadShareOfVariation,
            (r, v) => r with { UnreadShareOfVariation = v }
        ),
        Length(
            nameof(ShopRules.UnseenLobesFullRound),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.UnseenLobesFullRound,
            (r, v) => r with { UnseenLobesFullRound = v }
        ),
        Length(nameof(ShopRules.UnseenLobes), SettingGroup.Shape, 0m, 0.5m, r => r.UnseenLobes, (r, v) => r with { UnseenLobes = v }),
        Length(
            nameof(ShopRules.UnknownParallelism),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.UnknownParallelism,
            (r, v) => r with { UnknownParallelism = v }
        ),
        Length(nameof(ShopRules.UnknownRelief), SettingGroup.Shape, 0m, 1m, r => r.UnknownRelief, (r, v) => r with { UnknownRelief = v }),
        Length(
            nameof(ShopRules.DepthUncertainty),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.DepthUncertainty,
            (r, v) => r with { DepthUncertainty = v }
        ),
        Length(
            nameof(ShopRules.RepeatedDepthUncertainty),
            SettingGroup.Shape,
            0m,
            0.5m,
            r => r.RepeatedDepthUncertainty,
            (r, v) => r with { RepeatedDepthUncertainty = v }
        ),
        Length(
            nameof(ShopRules.LookAgainWithin),
            SettingGroup.Shape,
            0m,
            2m,
            r => r.LookAgainWithin,
            (r, v) => r with { LookAgainWithin = v }
        ),
        Length(nameof(ShopRules.HeaviestPass), SettingGroup.Cutting, 0.02m, 2m, r => r.HeaviestPass, (r, v) => r with { HeaviestPass = v }),
        Length(nameof(ShopRules.RubbingDepth), SettingGroup.Cutting, 0m, 0.5m, r => r.RubbingDepth, (r, v) => r with { RubbingDepth = v }),
        Length(nameof(ShopRules.ThinRotor), SettingGroup.Cutting, 0m, 50m, r => r.ThinRotor, (r, v) => r with { ThinRotor = v }),
        Length(
            nameof(ShopRules.LargeDiameter),
            SettingGroup.Cutting,
            50m,
            1000m,
            r => r.LargeDiameter,
            (r, v) => r with { LargeDiameter = v }
        ),
        Number(
            nameof(ShopRules.SwarfBinKilograms),
            SettingGroup.Cutting,
            SettingUnit.Kilograms,
            1,
            5000,
            2,
            r => r.SwarfBinKilograms,
            (r, v) => r with { SwarfBinKilograms = v }
        ),
        Number(
            nameof(ShopRules.LeastDistanceAfterCut),
            SettingGroup.Cost,
            SettingUnit.Kilometres,
            0,
            200_000,
            0,
            r => r.LeastDistanceAfterCut,
            (r, v) => r with { LeastDistanceAfterCut = v }
        ),
        Number(
            nameof(ShopRules.MountMinutes),
            SettingGroup.Cost,
            SettingUnit.Minutes,
            0,
            480,
            1,
            r => r.MountMinutes,
            (r, v) => r with { MountMinutes = v }
        ),
        Number(
            nameof(ShopRules.BenchMinutePrice),
            SettingGroup.Cost,
            SettingUnit.Money,
            0,
            100_000,
            2,
            r => r.BenchMinutePrice,
            (r, v) => r with { BenchMinutePrice = v }
        ),
        Number(
            nameof(ShopRules.ConsumablesPrice),
            SettingGroup.Cost,
            SettingUnit.Money,
            0,
            1_000_000,
            2,
            r => r.ConsumablesPrice,
            (r, v) => r with { ConsumablesPrice = v }
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
