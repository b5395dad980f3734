using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core.Scheduling;
using Uncial.Web.Board;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>How full the days to come are, against the hours that people work.</summary>
public class WeekModel(BoardKeeper keeper) : PageModel
{
    public IReadOnlyList<DayLoad> Days { get; private set; } = [];
    public IReadOnlyList<Data.Model.ShopLathe> Lathes { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel)
    {
        var now = await keeper.NowAsync(cancel);
        Days = DayLoad.Of(now.Plan, Dates.Shop);
        Lathes = [.. now.At.Shop.Lathes.Where(l => l.RetiredAt is null)];
        ViewData["Title"] = Words.Say("board.weekTitle");
        ViewData["At"] = "bench";
        ViewData["Board"] = now.Version;
    }

    /// <summary>Minutes as hours and minutes.</summary>
    public static string Hours(int minutes) => Words.Say("board.hoursMinutes", minutes / 60, minutes % 60);
}
