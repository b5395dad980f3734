namespace Uncial.Data.Commands;

/// <summary>Text as an operator types it.</summary>
internal static class Text
{
    public static string? Trimmed(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
