using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Microsoft.EntityFrameworkCore;

namespace Uncial.Web.Tests;

/// <summary>
/// No text stands in code or markup: in a language in which every text of the resource files is marked, what is left plain on a page
/// is what people of the shop have typed.
/// </summary>
public partial class PseudoTests(PseudoShop shop) : IClassFixture<PseudoShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Names that are no text: of units, keys, the product, and signs of the trade that are the same everywhere.</summary>
    private static readonly HashSet<string> Names =
    [
        // Of formulas, of a marking as it is cast in a part, and of time zones.
        .. "max min mean dia th etc utc".Split(' '),
        .. "mm in inch rpm uncial enter esc space tab csv json qr pin am pm mon tue wed thu fri sat sun".Split(' '),
        .. "jan feb mar apr may jun jul aug sep oct nov dec".Split(' '),
        .. "january february march april june july august september october november december".Split(' '),
        .. "monday tuesday wednesday thursday friday saturday sunday".Split(' '),
    ];

    /// <summary>Every word that people have typed or that names something of the shop.</summary>
    private async Task<HashSet<string>> TypedAsync()
    {
        await using var db = shop.Db();
        var rows = await db
            .Database.SqlQueryRaw<string>(
                """
                select concat_ws(' ', vehicle, customer) as "Value" from jobs
                union all select display_name from operators union all select name from screens union all select name from shops
                union all select name from gauges union all select profile::text from lathes union all select spec::text from adapters
                union all select spec::text from techniques union all select concat_ws(' ', vehicle, source) from book
                union all select concat_ws(' ', tag, mark) from parts union all select typed from readings where typed is not null
                union all select reason from withdrawals union all select reason from set_up_decisions where reason is not null
                union all select reason from limit_settlements union all select reason from outcomes where reason is not null
                union all select concat_ws(' ', place, preservative) from outcomes union all select reason from cut_stops
                union all select centring from mounts union all select note from readings where note is not null
                union all select note from findings where note is not null union all select reason from rule_changes
                union all select reason from confirmations union all select typed from limit_entries
                """
            )
            .ToListAsync(Cancel);
        return [.. rows.Where(r => r is not null).SelectMany(r => Word().Matches(r).Select(m => m.Value.ToLowerInvariant())), .. Names];
    }

    /// <summary>What is left of a text without what is marked, marks inside marks too.</summary>
    private static string Unmarked(string text)
    {
        var (left, depth) = (new StringBuilder(), 0);
        foreach (var c in text)
        {
            if (c == '\u2063')
                depth++;
            if (depth == 0)
                left.Append(c);
            if (c == '\u2064')
                depth--;
        }
        return left.ToString();
    }

    private static IEnumerable<string> TextsOf(IDocument page)
    {
        foreach (
            var node in page.Body!.Descendants<IText>().Where(t => t.ParentElement is not ({ LocalName: "script" or "style" } or null))
        )
            if (node.ParentElement!.Closest(".hash,.qr,.wordmark,datalist") is null)
                yield return node.Data;
        foreach (var element in page.All.Where(e => !e.ClassList.Contains("qr")))
        foreach (var name in new[] { "aria-label", "title", "placeholder", "alt", "aria-description" })
            if (element.GetAttribute(name) is { } said)
                yield return said;
    }

    [Fact]
    public async Task Every_text_of_a_page_is_of_the_resource_files()
    {
        using var marit = await new HttpPerson(shop.Address).SignInAsync("marit", "9051");
        var typed = await TypedAsync();
        List<string> left = [];
        await using var db = shop.Db();
        var gauge = await db.Gauges.OrderBy(g => g.Id).Select(g => g.Id).FirstAsync(Cancel);
        foreach (var path in PseudoShop.Pages.Append($"/gauges/{gauge}"))
        {
            var (code, text, _) = await marit.GetAsync(path);
            ((int)code).ShouldBe(200, path);
            var page = await new HtmlParser().ParseDocumentAsync(text, Cancel);
            foreach (var said in TextsOf(page))
            {
                var plain = Word()
                    .Matches(Address().Replace(Unmarked(said), ""))
                    .Select(m => m.Value)
                    .Where(w => !typed.Contains(w.ToLowerInvariant()))
                    .ToList();
                if (plain.Count > 0)
                    left.Add($"{path}: {string.Join(' ', plain)} <- {said.Trim()}");
            }
        }
        left.Distinct().ShouldBeEmpty();
    }

    [GeneratedRegex(@"https?://\S+", RegexOptions.NonBacktracking)]
    private static partial Regex Address();

    [GeneratedRegex("[A-Za-z]{3,}", RegexOptions.NonBacktracking)]
    private static partial Regex Word();
}
