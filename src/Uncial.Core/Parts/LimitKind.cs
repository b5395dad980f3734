namespace Uncial.Core.Parts;

/// <summary>Which limit a figure is.</summary>
public enum LimitKind
{
    /// <summary>Size when new.</summary>
    Nominal,

    /// <summary>How far machining may go.</summary>
    MachineTo,

    /// <summary>The size at which the part is scrap.</summary>
    Discard,
}
