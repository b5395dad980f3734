using System.Text.Json;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Settings;

namespace Uncial.Data.Tests;

/// <summary>The rules of a shop stand in its database and its files as one flat object, which triggers read by name.</summary>
public class StoredRulesTests
{
    [Fact]
    public void Every_rule_is_stored_under_its_key_and_read_back_whatever_it_is_set_to()
    {
        JsonDocument
            .Parse(StoredJson.Write(ShopRules.Default))
            .RootElement.EnumerateObject()
            .Select(p => p.Name)
            .Order(StringComparer.Ordinal)
            .ShouldBe(ShopSettings.All.Select(s => JsonNamingPolicy.CamelCase.ConvertName(s.Key)).Order(StringComparer.Ordinal));
        var other = ShopSettings.All.Aggregate(ShopRules.Default, (rules, setting) => setting switch
            {
                LengthSetting s => s.With(rules, s.Most - Length.FromMillimetres(0.001m)),
                NumberSetting s => s.With(rules, s.Most - 1),
                ChoiceSetting s => s.With(rules, !s.Of(rules)),
                _ => throw new InvalidOperationException(setting.Key),
            });
        other.ShouldNotBe(ShopRules.Default);
        StoredJson.Read<ShopRules>(StoredJson.Write(other)).ShouldBe(other);
    }

    [Fact]
    public void A_rule_that_an_earlier_version_did_not_have_is_what_a_new_shop_starts_with() =>
        StoredJson
            .Read<ShopRules>("""{"drumFloor":0.5,"longGone":7}""")
            .ShouldBe(ShopRules.Default with { Limits = new() { DrumFloor = Length.FromMillimetres(0.5m) } });
}
