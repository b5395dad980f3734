using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using Uncial.Core.Lengths;

namespace Uncial.Data.Storage;

/// <summary>A length is an exact numeric of millimetres in a column whose name ends in <c>_mm</c>.</summary>
internal sealed class LengthColumn() : ValueConverter<Length, decimal>(l => l.Millimetres, mm => Length.FromMillimetres(mm));

/// <summary>A length is a JSON number of millimetres, read as decimal.</summary>
public sealed class LengthJson : JsonConverter<Length>
{
    public override Length Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Length.FromMillimetres(reader.GetDecimal());

    public override void Write(Utf8JsonWriter writer, Length value, JsonSerializerOptions options)
    {
        ArgumentNullException.ThrowIfNull(writer);
        writer.WriteNumberValue(value.Millimetres);
    }
}

/// <summary>JSON as it is stored in the database.</summary>
public static class StoredJson
{
    public static JsonSerializerOptions Options { get; } =
        new(JsonSerializerDefaults.Web)
        {
            Converters = { new LengthJson(), new NoteJson(), new RulesJson(), new JsonStringEnumConverter() },
            DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        };

    public static string Write<T>(T value) => JsonSerializer.Serialize(value, Options);

    public static T Read<T>(string json) => JsonSerializer.Deserialize<T>(json, Options) ?? throw new JsonException("Stored JSON is null.");
}

/// <summary>How objects are stored in a column.</summary>
internal static class StoredAs
{
    /// <summary>As a document, read and written as <see cref="StoredJson"/> does.</summary>
    public static void StoredAsJson<T>(this PropertyBuilder<T> property) =>
        property.HasColumnType("jsonb").HasConversion(value => StoredJson.Write(value), json => StoredJson.Read<T>(json));
}
