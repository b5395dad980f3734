using System.Text.Json;
using System.Text.Json.Serialization;

namespace Uncial.Practice.Jobs;

/// <summary>Deeds and what is at hand, as they are stored.</summary>
public static class JobJson
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        NumberHandling = JsonNumberHandling.Strict,
        // The database keeps the fields in an order of its own.
        AllowOutOfOrderMetadataProperties = true,
    };

    /// <summary>A deed as text.</summary>
    public static string Write(Deed deed) => JsonSerializer.Serialize(deed, Options);

    /// <summary>A deed that was written before.</summary>
    /// <exception cref="JsonException">It is none.</exception>
    public static Deed ReadDeed(string text) =>
        JsonSerializer.Deserialize<Deed>(text, Options) ?? throw new JsonException("It is no deed.");

    /// <summary>What is at hand as text.</summary>
    public static string Write(BenchHand hand) => JsonSerializer.Serialize(hand, Options);

    /// <summary>What was at hand.</summary>
    /// <exception cref="JsonException">It is nothing of that kind.</exception>
    public static BenchHand ReadHand(string text) =>
        JsonSerializer.Deserialize<BenchHand>(text, Options) ?? throw new JsonException("Nothing is at hand.");
}
