using System.Collections.Concurrent;
using System.Text;

namespace Uncial.Web.Text;

/// <summary>
/// A language that nobody speaks: every text stands between two marks that take no room, in letters with accents, each word a third longer.
/// What is left plain on a page in it is no text of the resource files. On where the setting <c>Pseudo</c> is true.
/// </summary>
internal static class Pseudo
{
    /// <summary>Before a text; it takes no room.</summary>
    public const char Begin = '\u2063';

    /// <summary>After it.</summary>
    public const char End = '\u2064';

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

    /// <summary>Marks the letters outside what is put in, and makes each word longer.</summary>
    private static string Make(string text)
    {
        var (made, letters, inside) = (new StringBuilder().Append(Begin), 0, false);
        foreach (var c in text)
        {
            if (!char.IsLetter(c) || inside)
                letters = Lengthen(made, letters);
            inside = c == '{' || (inside && c != '}');
            var at = inside ? -1 : Plain.IndexOf(c, StringComparison.Ordinal);
            made.Append(at < 0 ? c : Marked[at]);
            letters += !inside && char.IsLetter(c) ? 1 : 0;
        }
        Lengthen(made, letters);
        return made.Append(End).ToString();
    }

    /// <summary>Makes the word at the end a third longer; the next one begins with no letters.</summary>
    private static int Lengthen(StringBuilder made, int letters)
    {
        made.Append('~', (letters + 1) / 3);
        return 0;
    }
}
