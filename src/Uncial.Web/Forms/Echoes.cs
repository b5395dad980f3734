using Uncial.Core.Lengths;
using Uncial.Core.Times;
using Uncial.Web.Hosting;
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

    /// <summary>The day and time that a text says, and how long it is until then; or why it says none.</summary>
    private static IResult OfTime(string text, TimeProvider time)
    {
        var (at, fault) = TimeText.Read(text, time.GetUtcNow(), Dates.Shop.Zone, Dates.Shop.Style);
        return at is { } then
            ? Says(Words.Say("time.echo", Dates.DayAndTime(then), Words.Until(then - time.GetUtcNow())))
            : Wrong(Words.Say("timeFault." + fault));
    }

    /// <summary>The day that a text says, or why it says none.</summary>
    private static IResult OfDay(string text, DayLean lean, TimeProvider time)
    {
        var (day, fault) = DayText.Read(text, Dates.Shop.DayOf(time.GetUtcNow()), Dates.Shop.Style, lean);
        return day is { } then ? Says(Words.Say("day.echo", Dates.Weekday(then), Dates.Day(then))) : Wrong(Words.Say("dayFault." + fault));
    }

    public static void MapTimeEcho(this IEndpointRouteBuilder app)
    {
        app.MapGet("/times/echo", OfTime).WithMetadata(new WritesTimes()).ExcludeFromDescription();
        app.MapGet("/days/echo", OfDay).WithMetadata(new WritesTimes()).ExcludeFromDescription();
    }

    public static void MapLengthEcho(this IEndpointRouteBuilder app) =>
        app.MapGet("/lengths/echo", (string text, string? unit) =>
                Of(text, unit == LengthText.Name(LengthUnit.Inch) ? LengthUnit.Inch : LengthUnit.Millimetre)
            )
            .ExcludeFromDescription();
}
