using Uncial.Core.Lengths;
using Uncial.Web.Text;

namespace Uncial.Web.Forms;

/// <summary>
/// Says how a text is understood while it is typed. What cannot be read yet is an answer like any other: a text is wrong until it is
/// typed to its end.
/// </summary>
internal static class Echoes
{
    /// <summary>How it is understood, beside the field.</summary>
    public static IResult Says(string echo) => Results.Json(new { echo });

    /// <summary>Why it cannot be read as it stands.</summary>
    public static IResult Wrong(string why) => Results.Json(new { wrong = why });

    /// <summary>How a length is understood, or why it is none.</summary>
    public static IResult Of(string text, LengthUnit unit) =>
        LengthParser.Parse(text, unit) is { Typed: { } typed }
            ? Says(typed.Echo)
            : Wrong(Words.Of(LengthParser.Parse(text, unit).Fault!.Value, unit));

    public static void MapLengthEcho(this IEndpointRouteBuilder app) =>
        app.MapGet("/lengths/echo", (string text, string? unit) =>
                Of(text, unit == LengthText.Name(LengthUnit.Inch) ? LengthUnit.Inch : LengthUnit.Millimetre)
            )
            .ExcludeFromDescription();
}
