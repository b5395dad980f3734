namespace Uncial.Web.Forms;

/// <summary>
/// Depths that somebody looks for on a face: grooves and low lands. None is a finding; where nothing is said nobody looked.
/// </summary>
internal static class LookedFor
{
    /// <summary>What a field says where there is none.</summary>
    public const string None = "none";

    /// <summary>What a field says where nobody looked.</summary>
    public const string NotLooked = "not looked";

    /// <summary>Letters of those two answers, the first of both first.</summary>
    public const string Letters = "noetlkd";

    public static bool Is(ReadingKind kind) =>
        kind
            is ReadingKind.GrooveOuter
                or ReadingKind.GrooveInner
                or ReadingKind.Groove
                or ReadingKind.ReliefOuter
                or ReadingKind.ReliefInner
                or ReadingKind.Relief;

    public static bool IsNone(string text) => text.Trim().Equals(None, StringComparison.OrdinalIgnoreCase);

    public static bool IsNotLooked(string text) => text.Trim().Equals(NotLooked, StringComparison.OrdinalIgnoreCase);
}
