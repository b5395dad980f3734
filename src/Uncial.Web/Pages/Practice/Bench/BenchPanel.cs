using Microsoft.AspNetCore.Mvc;
using Uncial.Data.Practice;
using Uncial.Practice.Jobs;
using Uncial.Web.Accounts;

namespace Uncial.Web.Pages;

/// <summary>The virtual bench beside a station, where an attempt is worked; nothing in the workshop.</summary>
public sealed class BenchPanel(Practising practising, AttemptDesk desk) : ViewComponent
{
    /// <param name="station">The station; another than before takes up what is used there.</param>
    /// <param name="tool">What is used there.</param>
    /// <param name="at">Degrees of the place that is asked for; null where none is.</param>
    /// <param name="depth">Its depth in millimetres; null for the usual one.</param>
    public async Task<IViewComponentResult> InvokeAsync(string station, BenchTool tool, decimal? at = null, decimal? depth = null)
    {
        if (practising.Surface is not { Attempt: { IsEnded: false } attempt } surface)
            return Content("");
        var hand = surface.Hand();
        var before = hand;
        if (hand.Station != station)
            hand = hand with { Station = station, Tool = tool };
        if (at is { } degrees && ((double)degrees != hand.Degrees || hand.Station != before.Station))
            hand = hand.At((double)degrees, depth is { } mm && surface.Lesson.Part.Kind == Core.Parts.PartKind.Drum ? (double)mm : null);
        if (hand != before || attempt.Hand is null)
            await desk.TakeUpAsync(attempt, hand, HeldOf(surface, hand), HttpContext.RequestAborted);
        return View("/Pages/Practice/Bench/_Bench.cshtml", new BenchView(surface, hand));
    }

    /// <summary>What is held where it reads a size: the database adds it when its reading is entered.</summary>
    public static Deed? HeldOf(AttemptSurface surface, BenchHand hand)
    {
        ArgumentNullException.ThrowIfNull(surface);
        ArgumentNullException.ThrowIfNull(hand);
        var held = hand.Tool == BenchTool.Gauge ? hand.Holds(surface.Lesson) : null;
        return held is Deed.HoldMicrometer or Deed.HoldBar ? held : null;
    }
}
