using System.Text.Json;
using System.Text.Json.Serialization;

namespace Uncial.Web.Api;

/// <summary>A technique in a request is the key of a built-in one, or an object with depths of its own.</summary>
internal sealed class TechniqueJson : JsonConverter<TechniqueBody>
{
    private sealed record Own(
        string? Key,
        decimal? RoughMinMm,
        decimal? RoughMaxMm,
        decimal? FinishMinMm,
        decimal? FinishMaxMm,
        int? MinRough,
        int? MaxRough
    );

    public override TechniqueBody Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.String)
            return new(reader.GetString(), null, null, null, null, null, null, BuiltIn: true);
        var own = JsonSerializer.Deserialize<Own>(ref reader, options) ?? throw new JsonException();
        return new(own.Key, own.RoughMinMm, own.RoughMaxMm, own.FinishMinMm, own.FinishMaxMm, own.MinRough, own.MaxRough, BuiltIn: false);
    }

    public override void Write(Utf8JsonWriter writer, TechniqueBody value, JsonSerializerOptions options) =>
        throw new NotSupportedException("Techniques are only read.");
}
