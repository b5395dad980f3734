using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Data;
using Uncial.Web.Accounts;
using Uncial.Web.Board;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// The board for a screen on the wall: what is on each lathe and what comes next, by tag, corner and time. It names no customer and no
/// plate, takes no entry, and is shown without signing in, on an enrolled screen only.
/// </summary>
[AllowAnonymous]
public class WallModel(BoardKeeper keeper, PinDesk desk) : PageModel
{
    /// <summary>Lathes and promises that fit on the wall at a time.</summary>
    public const int LathesAtATime = 3,
        PromisesAtATime = 8;

    /// <summary>Parts that are named as the next ones of a lathe.</summary>
    public const int NamesNext = 4;

    public BoardView Board { get; private set; } = null!;

    /// <summary>Pages of lathes.</summary>
    public IReadOnlyList<IReadOnlyList<BoardLane>> Lathes => [.. Board.Lanes.Chunk(LathesAtATime)];

    /// <summary>Pages of promises that are still open.</summary>
    public IReadOnlyList<IReadOnlyList<PromiseFlag>> Promises =>
        [.. Board.Flags.Where(f => f.State is not null || f.Waits).Chunk(PromisesAtATime)];

    public async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        if (!Request.Query.ContainsKey("wall"))
            return LocalRedirect("/");
        if (!await desk.IsEnrolledAsync(ScreenCookie.Of(Request), cancel))
            return LocalRedirect("/SignIn");
        var now = await keeper.NowAsync(cancel);
        Board = new(now, now.Plan, Dates.Shop.DayOf(now.Plan.Day.Plan.Now));
        ViewData["Title"] = Words.Say("board.wallTitle");
        ViewData["PrefersDark"] = true;
        return Page();
    }
}
