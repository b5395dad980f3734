using System.Text;

namespace Uncial.Data.Storage;

/// <summary>Text as a database in UTF-8 takes it.</summary>
public static class PlainText
{
    /// <summary>The text without NUL and with halves of letters replaced: neither can be stored as UTF-8.</summary>
    public static string Of(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        for (var i = 0; i < text.Length; i++)
            if (
                text[i] == '\0'
                || char.IsSurrogate(text[i]) && !(char.IsHighSurrogate(text[i]) && i + 1 < text.Length && char.IsLowSurrogate(text[++i]))
            )
                return Encoding.UTF8.GetString(Encoding.UTF8.GetBytes(text.Replace("\0", "", StringComparison.Ordinal)));
        return text;
    }
}
