using Uncial.Core.Lengths;
using Uncial.Core.Planning;

namespace Uncial.Web.Drawing;

/// <summary>Dial settings as they stand on the scale of a lathe, in the unit that it is marked in.</summary>
internal static class DialText
{
    public static string Of(Lathe lathe, Length setting)
    {
        var division = lathe.Division.In(lathe.DialUnit);
        var decimals = 2;
        while (decimals < 5 && decimal.Round(division, decimals) != division) decimals++;
        return LengthText.Figure(setting, lathe.DialUnit, decimals);
    }
}
