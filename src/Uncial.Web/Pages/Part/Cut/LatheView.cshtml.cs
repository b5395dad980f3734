using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Uncial.Data;
using Uncial.Web.Board;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>
/// What a second screen at a lathe shows: where the dials shall stand, where they do, and the time that is left. It follows whatever is on
/// the lathe, and leads to the part. A screen that is pinned to the lathe opens here.
/// </summary>
public class LatheViewModel(UncialDb db, ShopFile shop, Reader reader, TimeProvider time) : CutModel(db, shop, reader, time)
{
    [BindProperty(SupportsGet = true)]
    public int LatheId { get; set; }

    /// <summary>Name of the lathe.</summary>
    public string LatheName { get; private set; } = "";

    /// <summary>Something is to be cut on it now.</summary>
    public bool HasWork { get; private set; }

    /// <summary>What the board has for it next, where nothing is on it: when, which corner, and which part.</summary>
    public IReadOnlyList<BoardBlock> Next { get; private set; } = [];

    /// <summary>So many are named.</summary>
    private const int NamesNext = 3;

    /// <summary>What is to be done, for whoever looks over.</summary>
    public string Says =>
        View switch
        {
            CutView.Cutting => Words.Say("lathe.cutting", PassName),
            CutView.Look => Words.Say("cut.tapWhatIsStillDark"),
            CutView.Finish => Words.Say("cut.finishIt"),
            _ => Words.Say("lathe.ready", PassName),
        };

    public override async Task<IActionResult> OnGetAsync(CancellationToken cancel)
    {
        ViewData["PrefersDark"] = true;
        if ((await ShopFile.ShopAsync(cancel)).Lathes.Find(l => l.Id == LatheId) is not { } lathe)
            return NotFound();
        (LatheName, ViewData["Title"]) = (lathe.Profile.Name, lathe.Profile.Name);
        foreach (var (tag, number) in await LatheQueries.OnLatheAsync(Db, LatheId, cancel))
        {
            (Tag, Number) = (tag, number);
            if (await LoadAsync(cancel) is not null || Record.Station != Core.Parts.Station.Cut || Record.Planning.Document is null)
                continue;
            (HasWork, ViewData["Title"]) = (true, LatheName);
            return Page();
        }
        var now = await HttpContext.RequestServices.GetRequiredService<BoardKeeper>().NowAsync(cancel);
        var board = new BoardView(now, now.Plan, Dates.Shop.DayOf(now.Plan.Day.Plan.Now));
        Next =
        [
            .. board
                .Lanes.Where(l => l.Lathe.Id == LatheId)
                .SelectMany(l => l.Blocks)
                .Where(b => b.State is BlockState.Planned or BlockState.Waiting)
                .Take(NamesNext),
        ];
        return Page();
    }

    /// <summary>Seconds since the pass was started.</summary>
    public string Gone =>
        Record.Cutting.Start is { } start ? Math.Max(0, (int)(Now - start.At).TotalSeconds).ToString(CultureInfo.InvariantCulture) : "0";
}
