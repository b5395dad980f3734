using Uncial.Core.Lengths;

namespace Uncial.Core.Cutting;

/// <summary>What dial and metal say of one another.</summary>
public enum DialAgreement
{
    /// <summary>They agree within what setting and reading can be wrong by.</summary>
    Agrees,

    /// <summary>The dial drifts: more or less metal went than it says.</summary>
    Drifts,

    /// <summary>Twice the metal went: the dial counts depth where diameter or thickness was thought.</summary>
    TwiceTheMetal,

    /// <summary>Half the metal went: the dial counts diameter or thickness where depth was thought.</summary>
    HalfTheMetal,
}

/// <summary>Metal by the dial against metal by the gauge.</summary>
public static class DialCheck
{
    /// <summary>Compares the two, both on the thickness or diameter.</summary>
    /// <param name="byDial">Metal that the dial says, above 0.</param>
    /// <param name="bySize">Metal that the sizes before and after say.</param>
    /// <param name="slack">What setting and reading may be wrong by.</param>
    public static DialAgreement Compare(Length byDial, Length bySize, Length slack)
    {
        if ((bySize - byDial).Abs() <= slack || byDial <= Length.Zero)
            return DialAgreement.Agrees;
        return (bySize / byDial) switch
        {
            > 1.6m and < 2.5m => DialAgreement.TwiceTheMetal,
            > 0.4m and < 0.6m => DialAgreement.HalfTheMetal,
            _ => DialAgreement.Drifts,
        };
    }

    /// <summary>
    /// Whether a measured cut rules a dial of twice or half the depth out. A cut so shallow that the slack would hide the difference rules
    /// nothing out; a drift of up to three tenths is no factor of two.
    /// </summary>
    public static bool Verifies(Length byDial, Length bySize, Length slack) =>
        byDial > 2 * slack && (bySize - byDial).Abs() <= Length.Max(slack, 0.3m * byDial);
}
