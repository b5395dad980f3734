using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core.Scheduling;
using Uncial.Web.Board;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The day's list for each lathe, to be printed.</summary>
public class ListModel(BoardKeeper keeper, TimeProvider time) : PageModel
{
    /// <summary>The day; today where none is named.</summary>
    [BindProperty(SupportsGet = true, Name = "day")]
    public DateOnly? Chosen { get; set; }

    public BoardView Board { get; private set; } = null!;
    public DateTimeOffset Now { get; private set; }

    public async Task OnGetAsync(CancellationToken cancel)
    {
        Now = time.GetUtcNow();
        var now = await keeper.NowAsync(cancel);
        var today = Dates.Shop.DayOf(Now);
        Board = new(now, now.Plan, Chosen is { } day && day >= today && day <= today.AddDays(ShopDay.Days) ? day : today);
        ViewData["Title"] = Words.Say("board.listTitle", Dates.Day(Board.Day));
        ViewData["At"] = "bench";
    }
}
