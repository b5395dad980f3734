using System.Text.Json;
using System.Text.Json.Serialization;
using Uncial.Core;
using Uncial.Core.Settings;

namespace Uncial.Data.Storage;

/// <summary>
/// The rules of a shop are stored as one flat object, each under the key of its setting: the database reads some of them by name, and a
/// rule may go to another group without a change of what is stored.
/// </summary>
public sealed class RulesJson : JsonConverter<ShopRules>
{
    public override ShopRules Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        using var document = JsonDocument.ParseValue(ref reader);
        var flat = document.RootElement;
        return new()
        {
            Limits = Group<LimitRules>(),
            Gauges = Group<GaugeRules>(),
            SetUp = Group<SetUpRules>(),
            Shape = Group<ShapeRules>(),
            Cutting = Group<CuttingRules>(),
            Cost = Group<CostRules>(),
        };

        T Group<T>() => flat.Deserialize<T>(options) ?? throw new JsonException("Rules are null.");
    }

    public override void Write(Utf8JsonWriter writer, ShopRules value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        ArgumentNullException.ThrowIfNull(value);
        writer.WriteStartObject();
        foreach (object group in (object[])[value.Limits, value.Gauges, value.SetUp, value.Shape, value.Cutting, value.Cost])
        foreach (var rule in JsonSerializer.SerializeToElement(group, group.GetType(), options).EnumerateObject())
            rule.WriteTo(writer);
        writer.WriteEndObject();
    }
}
