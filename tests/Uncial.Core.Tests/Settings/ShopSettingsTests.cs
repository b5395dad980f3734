using Uncial.Core;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Settings;

namespace Uncial.Core.Tests.Settings;

public class ShopSettingsTests
{
    private static IEnumerable<(SettingGroup Group, string Key, object? Value)> Figures(ShopRules rules) =>
        from g in typeof(ShopRules).GetProperties()
        where g.GetMethod is { IsStatic: false } && g.Name != "EqualityContract"
        from p in g.PropertyType.GetProperties()
        where p.SetMethod is not null
        select (Enum.Parse<SettingGroup>(g.Name), p.Name, p.GetValue(g.GetValue(rules)));

    /// <summary>A rule without a setting can be changed by nobody; one with two could be changed behind the other's back.</summary>
    [Fact]
    public void Every_rule_of_the_shop_has_one_setting()
    {
        ShopSettings.All.Select(s => (s.Group, s.Key)).Order().ShouldBe(Figures(ShopRules.Default).Select(f => (f.Group, f.Key)).Order());
        ShopSettings.All.Select(s => s.Key).ShouldBeUnique(); // stored side by side
        // Time and dates are no rules.
        ShopSettings.All.Select(s => s.Group).Distinct().ShouldBe(Enum.GetValues<SettingGroup>().Where(g => g != SettingGroup.Time));
    }

    /// <summary>A setting that wrote another rule than it reads would show one figure and plan with another.</summary>
    [Fact]
    public void A_setting_changes_the_rule_that_it_is_named_after_and_no_other()
    {
        foreach (var setting in ShopSettings.All)
        {
            var (changed, kept) = setting switch
            {
                LengthSetting s => (s.With(ShopRules.Default, Other(s)), s.With(ShopRules.Default, s.Of(ShopRules.Default))),
                NumberSetting s => (s.With(ShopRules.Default, s.Most), s.With(ShopRules.Default, s.Of(ShopRules.Default))),
                ChoiceSetting s => (
                    s.With(ShopRules.Default, !s.Of(ShopRules.Default)),
                    s.With(ShopRules.Default, s.Of(ShopRules.Default))
                ),
                _ => throw new InvalidOperationException(setting.Key),
            };
            kept.ShouldBe(ShopRules.Default, setting.Key);
            Figures(changed).Except(Figures(ShopRules.Default)).Select(f => (f.Group, f.Key)).ShouldBe([(setting.Group, setting.Key)]);
        }
        static Length Other(LengthSetting setting) => setting.Of(ShopRules.Default) == setting.Most ? setting.Least : setting.Most;
    }

    [Fact]
    public void What_a_new_shop_starts_with_lies_inside_the_range_and_what_lies_outside_is_not_kept()
    {
        // The database refuses what is negative.
        ShopSettings.All.OfType<LengthSetting>().ShouldAllBe(s => s.Least >= Length.Zero);
        ShopSettings.All.OfType<NumberSetting>().ShouldAllBe(s => s.Least >= 0);
        foreach (var s in ShopSettings.All.OfType<LengthSetting>())
        {
            s.Allows(s.Of(ShopRules.Default)).ShouldBeTrue(s.Key);
            s.Allows(s.Most + Length.FromMillimetres(0.001m)).ShouldBeFalse(s.Key);
            s.Allows(s.Least - Length.FromMillimetres(0.001m)).ShouldBeFalse(s.Key);
        }
        foreach (var s in ShopSettings.All.OfType<NumberSetting>())
        {
            s.Allows(s.Of(ShopRules.Default)).ShouldBeTrue(s.Key);
            s.Allows(s.Most + 1).ShouldBeFalse(s.Key);
            s.Allows(s.Least - 1).ShouldBeFalse(s.Key);
            s.Allows(s.Least + 0.0001m).ShouldBeFalse(s.Key);
        }
    }

    /// <summary>A lead signs for rules by which more may be machined off than before, be it of rotors or of drums alone.</summary>
    [Theory]
    [InlineData(0.40, 0.75, false)]
    [InlineData(0.39, 0.75, true)]
    [InlineData(0.40, 0.74, true)]
    [InlineData(0.50, 0.74, true)]
    [InlineData(0.50, 0.80, false)]
    public void Rules_are_laxer_where_either_machine_to_limit_comes_nearer_to_discard(double rotor, double drum, bool laxer) =>
        new LimitRules { RotorMachineToAboveDiscard = Mm.Of((decimal)rotor), DrumMachineToBelowDiscard = Mm.Of((decimal)drum) }
            .DeriveLaxerThan(new())
            .ShouldBe(laxer);

    [Theory]
    [InlineData(GaugeKind.Micrometer, 0.003)]
    [InlineData(GaugeKind.Caliper, 0.02)]
    [InlineData(GaugeKind.DrumGauge, 0.02)]
    [InlineData(GaugeKind.DrumGaugeStations, 0.02)]
    [InlineData(GaugeKind.DrumGaugeEighths, 0.02)]
    [InlineData(GaugeKind.Tape, 0.5)]
    public void A_gauge_whose_repeats_nobody_took_is_given_those_of_its_kind(GaugeKind kind, double mm) =>
        ShopRules.Default.Gauges.RepeatOf(kind).ShouldBe(Mm.Of((decimal)mm));
}
