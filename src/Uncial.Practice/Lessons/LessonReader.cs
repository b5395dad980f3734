using System.Text.Json;

namespace Uncial.Practice.Lessons;

/// <summary>A place in a lesson file: reads its fields, keeps what is wrong with each by its path, and what was never asked for.</summary>
internal sealed class LessonReader(JsonElement here, string path, List<FaultAt> faults)
{
    private readonly HashSet<string> asked = new(StringComparer.Ordinal);

    /// <summary>Everything that is wrong so far, in the whole file.</summary>
    public IReadOnlyList<FaultAt> Faults => faults;

    public bool IsGroup => here.ValueKind == JsonValueKind.Object;

    public void Say(string name, LessonFault fault) => faults.Add(new(At(name), fault));

    /// <summary>Says so of every field that was not asked for.</summary>
    public void NothingElse()
    {
        foreach (var field in here.EnumerateObject())
            if (!asked.Contains(field.Name))
                Say(field.Name, LessonFault.Unknown);
    }

    /// <summary>A text that has to be there.</summary>
    public string? Text(string name, int most) => Find(name, isNeeded: true) is { } at ? at.Own(most) : null;

    /// <summary>A number that has to be there.</summary>
    public double? Number(string name, double least, double most) =>
        Find(name, isNeeded: true) is { } at ? at.OwnNumber(least, most) : null;

    /// <summary>A number that may be missing.</summary>
    public double? NumberOr(string name, double least, double most) => Find(name, isNeeded: false)?.OwnNumber(least, most);

    /// <summary>True or false; false where it is missing.</summary>
    public bool Flag(string name)
    {
        if (Find(name, isNeeded: false) is not { } at)
            return false;
        if (at.Kind is not (JsonValueKind.True or JsonValueKind.False))
            Say(name, LessonFault.NotFlag);
        return at.Kind == JsonValueKind.True;
    }

    /// <summary>A figure or a pair of them; null where it is missing.</summary>
    public Range? Range(string name, double least, double most, bool isNeeded = false) => Find(name, isNeeded)?.OwnRange(least, most);

    /// <summary>A word of a closed set, in small camel letters.</summary>
    public T? Word<T>(string name)
        where T : struct, Enum => Find(name, isNeeded: true)?.OwnWord<T>();

    /// <summary>Words of a closed set, each once.</summary>
    public IReadOnlyList<T> Words<T>(string name, int least, int most)
        where T : struct, Enum
    {
        List<T> words = [.. List(name, least, most).Select(w => w.OwnWord<T>()).OfType<T>()];
        if (words.Distinct().Count() < words.Count)
            Say(name, LessonFault.WrongCount);
        return words;
    }

    /// <summary>A group of fields that has to be there.</summary>
    public LessonReader? Group(string name) => Group(name, isNeeded: true);

    /// <summary>A group of fields that may be missing.</summary>
    public LessonReader? GroupOr(string name) => Group(name, isNeeded: false);

    private LessonReader? Group(string name, bool isNeeded)
    {
        if (Find(name, isNeeded) is not { } at)
            return null;
        if (at.IsGroup)
            return at;
        Say(name, LessonFault.NotGroup);
        return null;
    }

    /// <summary>The items of a list; a list that may be empty may be missing.</summary>
    public IEnumerable<LessonReader> List(string name, int least, int most)
    {
        if (Find(name, isNeeded: least > 0) is not { } at)
            return [];
        if (at.Kind != JsonValueKind.Array)
        {
            Say(name, LessonFault.NotList);
            return [];
        }
        List<LessonReader> items = [.. at.Items()];
        if (items.Count < least || items.Count > most)
        {
            Say(name, LessonFault.WrongCount);
            return [];
        }
        return items;
    }

    /// <summary>What stands here itself, as a text.</summary>
    public string? Own(int most)
    {
        if (here.ValueKind != JsonValueKind.String || here.GetString() is not { } text || string.IsNullOrWhiteSpace(text))
            return Wrong<string>(LessonFault.NotText);
        return text.Length <= most ? text : Wrong<string>(LessonFault.TooLong);
    }

    /// <summary>The same as a figure, or as a pair of the least and the greatest.</summary>
    public Range? OwnRange(double least, double most)
    {
        if (Kind != JsonValueKind.Array)
            return OwnNumber(least, most) is { } one ? new(one, one) : null;
        List<LessonReader> ends = [.. Items()];
        if (ends.Count != 2)
            return Wrong(LessonFault.WrongCount);
        if (ends[0].OwnNumber(least, most) is not { } low || ends[1].OwnNumber(least, most) is not { } high)
            return null;
        return low <= high ? new Range(low, high) : Wrong(LessonFault.RangeReversed);

        Range? Wrong(LessonFault fault)
        {
            faults.Add(new(path, fault));
            return null;
        }
    }

    private JsonValueKind Kind => here.ValueKind;

    private double? OwnNumber(double least, double most)
    {
        LessonFault? wrong =
            here.ValueKind != JsonValueKind.Number ? LessonFault.NotNumber
            : here.GetDouble() is var number && number >= least && number <= most ? null
            : LessonFault.OutOfRange;
        if (wrong is null)
            return here.GetDouble();
        faults.Add(new(path, wrong.Value));
        return null;
    }

    private T? OwnWord<T>()
        where T : struct, Enum
    {
        if (
            here.ValueKind == JsonValueKind.String
            && here.GetString() is { Length: > 0 } text
            && char.IsAsciiLetterLower(text[0])
            && Enum.TryParse<T>(text, ignoreCase: true, out var word)
            && Enum.IsDefined(word)
        )
            return word;
        faults.Add(new(path, LessonFault.NotAWord));
        return null;
    }

    private IEnumerable<LessonReader> Items() => here.EnumerateArray().Select((item, i) => new LessonReader(item, $"{path}[{i}]", faults));

    private LessonReader? Find(string name, bool isNeeded)
    {
        asked.Add(name);
        if (here.TryGetProperty(name, out var value) && value.ValueKind != JsonValueKind.Null)
            return new(value, At(name), faults);
        if (isNeeded)
            Say(name, LessonFault.Missing);
        return null;
    }

    private string At(string name) => path.Length == 0 ? name : $"{path}.{name}";

    private T? Wrong<T>(LessonFault fault)
        where T : class
    {
        faults.Add(new(path, fault));
        return null;
    }
}
