using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Uncial.Data.Storage;

/// <summary>
/// Reads rows that PostgreSQL hands out as JSON (<c>to_json</c>) into their entities, by the columns of EF Core's model. Navigations stay
/// empty.
/// </summary>
internal static class RowJson
{
    private static JsonSerializerOptions? options;

    /// <summary>How rows of a model are read.</summary>
    public static JsonSerializerOptions OptionsOf(IModel model) => options ??= Make(model);

    private static JsonSerializerOptions Make(IModel model)
    {
        var resolver = new DefaultJsonTypeInfoResolver();
        resolver.Modifiers.Add(type =>
        {
            if (model.FindEntityType(type.Type) is not { } entity)
                return;
            for (var i = type.Properties.Count - 1; i >= 0; i--)
            {
                var property = type.Properties[i];
                if (property.AttributeProvider is MemberInfo member && entity.FindProperty(member.Name) is { } column)
                {
                    property.Name = column.GetColumnName();
                    if (column.GetColumnType() == "jsonb")
                        property.CustomConverter =
                            property.PropertyType == typeof(string)
                                ? new RawText()
                                : (JsonConverter)Activator.CreateInstance(typeof(Nested<>).MakeGenericType(property.PropertyType))!;
                }
                else
                    type.Properties.RemoveAt(i);
            }
        });
        return new() { TypeInfoResolver = resolver, Converters = { new LengthJson(), new JsonStringEnumConverter(), new UtcTime() } };
    }

    /// <summary>A document that the entity keeps as text.</summary>
    private sealed class RawText : JsonConverter<string>
    {
        public override string Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            using var document = JsonDocument.ParseValue(ref reader);
            return document.RootElement.GetRawText();
        }

        public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => throw new NotSupportedException();
    }

    /// <summary>A document that the entity keeps as objects.</summary>
    private sealed class Nested<T> : JsonConverter<T>
    {
        public override T? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            JsonSerializer.Deserialize<T>(ref reader, StoredJson.Options);

        public override void Write(Utf8JsonWriter writer, T value, JsonSerializerOptions options) => throw new NotSupportedException();
    }

    /// <summary>A time in UTC, whatever the zone of the connection.</summary>
    private sealed class UtcTime : JsonConverter<DateTimeOffset>
    {
        public override DateTimeOffset Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.GetDateTimeOffset().ToUniversalTime();

        public override void Write(Utf8JsonWriter writer, DateTimeOffset value, JsonSerializerOptions options) =>
            throw new NotSupportedException();
    }
}
