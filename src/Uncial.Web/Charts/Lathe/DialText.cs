using Uncial.Core.Lengths;
using Uncial.Core.Planning;

namespace Uncial.Web.Charts;

/// <summary>Dial settings as they stand on the scale of a head, in the unit that it is marked in.</summary>
internal static class DialText
{
    public static string Of(HeadDial dial, Length setting)
    {
        var division = dial.Division.In(dial.Unit);
        var decimals = 2;
        while (decimals < 5 && decimal.Round(division, decimals) != division)
            decimals++;
        return LengthText.Figure(setting, dial.Unit, decimals);
    }
}
