using Uncial.Core.Lengths;

namespace Uncial.Core.Settings;

/// <summary>What a setting is about.</summary>
public enum SettingGroup
{
    /// <summary>Limits, and what a finished part may have left of its faults.</summary>
    Limits,

    /// <summary>Gauges and readings.</summary>
    Gauges,

    /// <summary>The set-up on the lathe.</summary>
    SetUp,

    /// <summary>What is allowed for the shape that nobody read.</summary>
    Shape,

    /// <summary>Passes, tools and swarf.</summary>
    Cutting,

    /// <summary>Whether turning pays.</summary>
    Cost,

    /// <summary>Time zone and dates; no rule, so that a change ends no judgement.</summary>
    Time,
}

/// <summary>Unit of a setting that is no length.</summary>
public enum SettingUnit
{
    /// <summary>A number without a unit.</summary>
    None,

    /// <summary>Minutes.</summary>
    Minutes,

    /// <summary>Kelvin.</summary>
    Kelvin,

    /// <summary>Kilograms.</summary>
    Kilograms,

    /// <summary>Kilometres.</summary>
    Kilometres,

    /// <summary>The shop's money.</summary>
    Money,
}

/// <summary>One of the figures that a shop settles for itself. Where it comes from is said in the texts, under its key.</summary>
/// <param name="Key">Name of the property of <see cref="ShopRules"/>.</param>
/// <param name="Group">What it is about.</param>
public abstract record Setting(string Key, SettingGroup Group);

/// <summary>A setting that is a length.</summary>
/// <param name="Key">Name of the property of <see cref="ShopRules"/>.</param>
/// <param name="Group">What it is about.</param>
/// <param name="Least">Least that it may be.</param>
/// <param name="Most">Most that it may be.</param>
/// <param name="Of">Reads it.</param>
/// <param name="With">Rules with another value of it.</param>
public sealed record LengthSetting(
    string Key,
    SettingGroup Group,
    Length Least,
    Length Most,
    Func<ShopRules, Length> Of,
    Func<ShopRules, Length, ShopRules> With
) : Setting(Key, Group)
{
    /// <summary>Whether a value may be kept.</summary>
    public bool Allows(Length value) => value >= Least && value <= Most;
}

/// <summary>A setting that is a number.</summary>
/// <param name="Key">Name of the property of <see cref="ShopRules"/>.</param>
/// <param name="Group">What it is about.</param>
/// <param name="Unit">Its unit.</param>
/// <param name="Least">Least that it may be.</param>
/// <param name="Most">Most that it may be.</param>
/// <param name="Decimals">Digits that it may have after the point.</param>
/// <param name="Of">Reads it.</param>
/// <param name="With">Rules with another value of it.</param>
public sealed record NumberSetting(
    string Key,
    SettingGroup Group,
    SettingUnit Unit,
    decimal Least,
    decimal Most,
    int Decimals,
    Func<ShopRules, decimal> Of,
    Func<ShopRules, decimal, ShopRules> With
) : Setting(Key, Group)
{
    /// <summary>Whether a value may be kept: inside the range, and with no more digits than it has.</summary>
    public bool Allows(decimal value) => value >= Least && value <= Most && decimal.Round(value, Decimals) == value;
}

/// <summary>A setting that is yes or no.</summary>
/// <param name="Key">Name of the property of <see cref="ShopRules"/>.</param>
/// <param name="Group">What it is about.</param>
/// <param name="Of">Reads it.</param>
/// <param name="With">Rules with another value of it.</param>
public sealed record ChoiceSetting(string Key, SettingGroup Group, Func<ShopRules, bool> Of, Func<ShopRules, bool, ShopRules> With)
    : Setting(Key, Group);
