using System.Collections.Concurrent;
using System.Text;

namespace Uncial.Web.Text;

/// <summary>
/// A language that nobody speaks: every text stands between ⟦ and ⟧, in letters with marks, a third longer. What is left plain on a page in
/// it is no text of the resource files. On where the setting <c>Pseudo</c> is true.
/// </summary>
internal static class Pseudo
{
    private const string Plain = "AEIOUCNSYaeioucnsy";
    private const string Marked = "ÂÊÎÔÛĆŃŚÝâêîôûćńśý";
    private static readonly AsyncLocal<bool> On = new();
    private static readonly ConcurrentDictionary<string, string> Known = new(StringComparer.Ordinal);

    /// <summary>Whether texts come in it, for the length of a request.</summary>
    public static bool IsOn
    {
        get => On.Value;
        set => On.Value = value;
    }

    /// <summary>A text of the resource files, or what it is in this language.</summary>
    public static string Of(string text) => IsOn && text.Length > 0 ? Known.GetOrAdd(text, Make) : text;

    /// <summary>Marks the letters outside what is put in, and makes it longer.</summary>
    private static string Make(string text)
    {
        var (made, letters, inside) = (new StringBuilder("⟦"), 0, false);
        foreach (var c in text)
        {
            inside = c == '{' || (inside && c != '}');
            var at = inside ? -1 : Plain.IndexOf(c, StringComparison.Ordinal);
            made.Append(at < 0 ? c : Marked[at]);
            letters += !inside && char.IsLetter(c) ? 1 : 0;
        }
        return made.Append('~', (letters + 2) / 3).Append('⟧').ToString();
    }
}
