using System.Text;

namespace Uncial.Practice.Lessons;

/// <summary>The lessons that ship, the easier ones first.</summary>
public static class ShippedLessons
{
    private const string Folder = "lessons/";

    /// <summary>All of them.</summary>
    public static IReadOnlyList<Lesson> All { get; } = [.. Load().OrderBy(l => l.Grade).ThenBy(l => l.Id, StringComparer.Ordinal)];

    /// <summary>The file of one as it ships; null where none has that name.</summary>
    public static string? FileOf(string id)
    {
        using var stream = typeof(ShippedLessons).Assembly.GetManifestResourceStream($"{Folder}{id}.json");
        if (stream is null)
            return null;
        using var reader = new StreamReader(stream, Encoding.UTF8);
        return reader.ReadToEnd();
    }

    private static IEnumerable<Lesson> Load()
    {
        foreach (
            var name in typeof(ShippedLessons)
                .Assembly.GetManifestResourceNames()
                .Where(n => n.StartsWith(Folder, StringComparison.Ordinal))
        )
        {
            var (lesson, faults) = LessonFile.Read(FileOf(name[Folder.Length..^".json".Length]));
            yield return lesson ?? throw new InvalidOperationException($"{name}: {string.Join(", ", faults)}");
        }
    }
}
