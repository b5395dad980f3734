using System.Globalization;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core.Lengths;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Charts;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>What the shop learns from the parts that it has cut: plots, each with the question that it answers.</summary>
public class StatisticsModel(UncialDb db, ShopFile file, Reader reader, TimeProvider time) : PageModel
{
    /// <summary>A plot: the question, the answer in one sentence, and the picture; nothing to draw where nothing was counted.</summary>
    public sealed record Plot(string Question, string Answer, IHtmlContent? Picture);

    /// <summary>Days that may be looked back.</summary>
    public static IReadOnlyList<int> Spans { get; } = [30, 90, 365];

    [BindProperty(SupportsGet = true)]
    public int Days { get; set; } = 90;

    public IReadOnlyList<Plot> Plots { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken cancel)
    {
        if (!Spans.Contains(Days))
            Days = 90;
        (ViewData["Title"], ViewData["Sub"], ViewData["At"]) = (
            Words.Say("statistics.statisticsOfTheShop"),
            Words.Say("statistics.theLastDays", Days),
            "logbook"
        );
        var since = time.GetUtcNow().AddDays(-Days);
        var (figures, shop) = (await ShopFigures.SinceAsync(db, since, Dates.Shop.ZoneName, cancel), await file.ShopAsync(cancel));
        var days = await DayRecords.SinceAsync(db, Dates.Shop.DayOf(since), cancel);
        Plots =
        [
            Promises(days),
            ChangeOvers(days),
            Metal(figures),
            Plans(figures),
            Mounts(figures, shop),
            Work(figures, shop),
            Leaves(figures),
            Scrap(figures),
            Edges(figures, shop),
        ];
    }

    private static Plot Promises(IReadOnlyList<DayKept> days)
    {
        var all = new Share(days.Sum(d => d.Happened.Kept), days.Sum(d => d.Happened.Promised));
        return new(
            Words.Say("statistics.promises"),
            all.Percent is { } p ? Words.Say("statistics.promisesKept", p, days.Sum(d => d.Planned.InDanger)) : Words.Say("figures.none"),
            all.Whole == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.promises"),
                    [
                        .. days.Where(d => d.Happened.Promised > 0)
                            .Take(8)
                            .Select(d => new ChartBar(
                                Dates.ShortDay(d.Day),
                                new Share(d.Happened.Kept, d.Happened.Promised).Percent ?? 0,
                                Words.Say("statistics.of", d.Happened.Kept, d.Happened.Promised)
                            )),
                    ],
                    whole: 100
                )
        );
    }

    private static Plot ChangeOvers(IReadOnlyList<DayKept> days)
    {
        var (change, waiting) = (days.Sum(d => d.Happened.ChangeOverMinutes), days.Sum(d => d.Happened.WaitingMinutes));
        return new(
            Words.Say("statistics.changeOvers"),
            days.Count == 0 ? Words.Say("figures.none") : Words.Say("statistics.changeOversTook", days.Count, change, waiting),
            days.Count == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.changeOvers"),
                    [
                        .. days.Take(8)
                            .Select(d => new ChartBar(
                                Dates.ShortDay(d.Day),
                                d.Happened.ChangeOverMinutes,
                                Words.Say("statistics.changeOversOf", d.Happened.ChangeOverMinutes, d.Planned.ChangeOverMinutes),
                                d.Planned.ChangeOverMinutes
                            )),
                    ]
                )
        );
    }

    private Plot Metal(ShopFigures f)
    {
        var (taken, needed) = (f.Metal.Sum(m => m.Taken), f.Metal.Sum(m => m.Needed));
        string Part(decimal mm, int parts) => reader.Figure(Length.FromMillimetres(Share.Each(mm, parts, 6) ?? 0));
        return new(
            Words.Say("statistics.doWeTakeMoreMetal"),
            f.Metal.Count == 0
                ? Words.Say("figures.none")
                : Words.Say(
                    "figures.metal",
                    new Share(taken, needed).Percent?.ToString(CultureInfo.InvariantCulture) ?? "–",
                    reader.UnitName
                ),
            f.Metal.Count == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.metalTakenAPartOver"),
                    [
                        .. f
                            .Metal.Take(8)
                            .Select(m => new ChartBar(
                                Words.Technique(m.Technique),
                                m.Taken / m.Surfaces,
                                Words.Say("statistics.ofCut", Part(m.Taken, m.Surfaces), Part(m.Needed, m.Surfaces), m.Surfaces),
                                m.Needed / m.Surfaces
                            )),
                    ]
                )
        );
    }

    private static Plot Plans(ShopFigures f)
    {
        var all = new Share(f.Metal.Sum(m => m.PlanHeld), f.Metal.Sum(m => m.Surfaces));
        return new(
            Words.Say("statistics.howOftenDoesTheFirst"),
            all.Percent is { } p ? Words.Say("figures.plans", p) : Words.Say("figures.none"),
            all.Whole == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.partsWhoseFirstPlanHeld"),
                    [
                        .. f
                            .Metal.Take(8)
                            .Select(m => new ChartBar(
                                Words.Technique(m.Technique),
                                new Share(m.PlanHeld, m.Surfaces).Percent ?? 0,
                                Words.Say("statistics.of", m.PlanHeld, m.Surfaces)
                            )),
                    ],
                    whole: 100
                )
        );
    }

    private static Plot Mounts(ShopFigures f, Shop shop)
    {
        var all = new Share(f.Lathes.Sum(l => l.MountedAgain), f.Lathes.Sum(l => l.Mounted));
        return new(
            Words.Say("statistics.howOftenMustAPart"),
            all.Percent is { } p ? Words.Say("figures.mounts", p) : Words.Say("figures.none"),
            all.Whole == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.partsMountedMoreThanOnce"),
                    [
                        .. f
                            .Lathes.Where(l => l.Mounted > 0)
                            .Select(l => new ChartBar(
                                NameOf(shop, l.LatheId),
                                new Share(l.MountedAgain, l.Mounted).Percent ?? 0,
                                Words.Say("statistics.of", l.MountedAgain, l.Mounted)
                            )),
                    ],
                    "bc-brass",
                    100
                )
        );
    }

    private static Plot Work(ShopFigures f, Shop shop)
    {
        var cut = f.Lathes.Where(l => l.Surfaces > 0).ToList();
        var (minutes, parts) = (cut.Sum(l => l.Minutes), cut.Sum(l => l.Surfaces));
        static string Minutes(decimal? m) => m is { } x ? x.ToString("0.0", CultureInfo.InvariantCulture) : "–";
        return new(
            Words.Say("statistics.howMuchIsCutBy"),
            parts == 0 ? Words.Say("figures.none") : Words.Say("figures.work", parts, Minutes(Share.Each(minutes, parts, 1))),
            parts == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.partsCutAndMinutesIn"),
                    [
                        .. cut.Select(l => new ChartBar(
                            NameOf(shop, l.LatheId),
                            l.Surfaces,
                            Words.Say("statistics.minEach", l.Surfaces, Minutes(Share.Each(l.Minutes, l.Surfaces, 1)))
                        )),
                        .. f
                            .Metal.Take(6)
                            .Select(m => new ChartBar(
                                Words.Technique(m.Technique),
                                m.Surfaces,
                                Words.Say("statistics.minEach", m.Surfaces, Minutes(Share.Each(m.Minutes, m.Surfaces, 1)))
                            )),
                    ]
                )
        );
    }

    private static Plot Leaves(ShopFigures f)
    {
        var kinds = new[]
        {
            (Kind: OutcomeKind.Released, Css: "bc-blue"),
            (Kind: OutcomeKind.Shelved, Css: "bc-iron"),
            (Kind: OutcomeKind.Refused, Css: "bc-line"),
            (Kind: OutcomeKind.Scrapped, Css: "bc-ink"),
        };
        var total = f.Weeks.Sum(w => w.Parts);
        if (total == 0)
            return new(Words.Say("statistics.whatLeavesTheShopWeek"), Words.Say("figures.none"), null);
        List<(string, IReadOnlyList<int>)> columns = [];
        // Every week has its place, also one in which nothing left.
        for (var week = f.Weeks.Min(w => w.Week); week <= f.Weeks.Max(w => w.Week); week = week.AddDays(7))
            columns.Add(
                (Dates.ShortDay(week), [.. kinds.Select(k => f.Weeks.Where(w => w.Week == week && w.Kind == k.Kind).Sum(w => w.Parts))])
            );
        return new(
            Words.Say("statistics.whatLeavesTheShopWeek"),
            Words.Say(
                "figures.leaves",
                total,
                new Share(f.Weeks.Where(w => w.Kind == OutcomeKind.Released).Sum(w => w.Parts), total).Percent
            ),
            BarChart.Standing(
                Words.Say("statistics.partsThatLeft"),
                columns,
                [.. kinds.Select(k => (Words.Say("outcome." + k.Kind), k.Css))]
            )
        );
    }

    private static Plot Scrap(ShopFigures f)
    {
        var total = f.Scrap.Sum(s => s.Parts);
        return new(
            Words.Say("statistics.whyDoPartsEndAs"),
            total == 0
                ? Words.Say("figures.noScrap")
                : Words.Say(total == 1 ? "figures.scrap.one" : "figures.scrap", total, CauseOf(f.Scrap[0]).ToLowerInvariant()),
            total == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.scrapByCause"),
                    [.. f.Scrap.Select(s => new ChartBar(CauseOf(s), s.Parts, s.Parts.ToString(CultureInfo.InvariantCulture)))],
                    "bc-ink"
                )
        );
    }

    private static Plot Edges(ShopFigures f, Shop shop) =>
        new(
            Words.Say("statistics.howFarDoesAnInsert"),
            f.Edges.Count == 0 ? Words.Say("figures.noEdge") : Words.Say("figures.edges", f.Edges.Sum(e => e.Edges)),
            f.Edges.Count == 0
                ? null
                : BarChart.Lying(
                    Words.Say("statistics.metresAnEdgeWent"),
                    [
                        .. f.Edges.Select(e => new ChartBar(
                            $"{NameOf(shop, e.LatheId)}, {Words.Say("holder." + e.Holder).ToLowerInvariant()}",
                            e.Metres,
                            $"{Share.Each(e.Metres, 1, 0)} m, {e.Edges} {Words.Say(e.Edges == 1 ? "count.edge" : "count.edges")}"
                        )),
                    ]
                )
        );

    private static string CauseOf(ScrapCount scrap) =>
        scrap.Cause is { } cause ? Words.Say("scrapCause." + cause) : Words.Say("statistics.notSaid");

    private static string NameOf(Shop shop, int lathe) => shop.Lathes.Find(l => l.Id == lathe)?.Profile.Name ?? "";
}
