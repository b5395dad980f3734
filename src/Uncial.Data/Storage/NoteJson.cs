using System.Collections.Frozen;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using Uncial.Core;
using Uncial.Core.Lengths;

namespace Uncial.Data.Storage;

/// <summary>
/// How notes are stored: their code and what their wording names, <c>{"code", "length", "second", "degrees", "subject"}</c>.
/// </summary>
internal sealed class NoteJson : JsonConverter<Note>
{
    private sealed record Stored(string Code, Length? Length, Length? Second, decimal? Degrees, string? Subject);

    private static readonly FrozenDictionary<string, ConstructorInfo> ByCode = typeof(Note)
        .GetNestedTypes()
        .Where(t => t.IsAssignableTo(typeof(Note)) && t != typeof(Note.OfEarlierVersion))
        .ToFrozenDictionary(t => char.ToLowerInvariant(t.Name[0]) + t.Name[1..], t => t.GetConstructors().Single(), StringComparer.Ordinal);

    public override Note Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        var stored = JsonSerializer.Deserialize<Stored>(ref reader, options) ?? throw new JsonException("A stored note is null.");
        if (!ByCode.TryGetValue(stored.Code, out var make))
            return new Note.OfEarlierVersion(stored.Code);
        var lengths = new Queue<Length?>([stored.Length, stored.Second]);
        var values = make.GetParameters()
            .Select(p => Nullable.GetUnderlyingType(p.ParameterType) ?? p.ParameterType)
            .Select(t =>
                t == typeof(Length) ? lengths.Dequeue()
                : t == typeof(decimal) ? stored.Degrees
                : (object?)stored.Subject
            )
            .ToArray();
        // Where a figure is missing that the note needs, an earlier version did not know it.
        return make.GetParameters().Zip(values).Any(p => p.Second is null && IsNeeded(p.First))
            ? new Note.OfEarlierVersion(stored.Code)
            : (Note)make.Invoke(values);
    }

    public override void Write(Utf8JsonWriter writer, Note value, JsonSerializerOptions options) =>
        JsonSerializer.Serialize(writer, new Stored(value.Code, value.Length, value.Second, value.Degrees, value.Subject), options);

    private static bool IsNeeded(ParameterInfo parameter) =>
        parameter.ParameterType == typeof(string) || Nullable.GetUnderlyingType(parameter.ParameterType) is null;
}
