using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The handbook: a page for each station, found by words, printed as one document.</summary>
public class HandbookModel : PageModel
{
    private const int LongestSearch = 80;

    /// <summary>The topic of a page, for the key ? to open.</summary>
    public static string TopicOf(ViewDataDictionary page)
    {
        ArgumentNullException.ThrowIfNull(page);
        return page["Help"] as string
            ?? (page["Rail"] as RailView)?.Stops.FirstOrDefault(s => s.IsCurrent)?.Station.ToString().ToLowerInvariant()
            ?? "bench";
    }

    /// <summary>What is looked for.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Find { get; set; }

    /// <summary>The pages that are shown: one, or all as one document.</summary>
    public IReadOnlyList<HandbookPage> Shown { get; private set; } = [];

    /// <summary>Sections that were found; null where nothing is looked for.</summary>
    public IReadOnlyList<(HandbookPage Page, HandbookSection Section)>? Found { get; private set; }

    public IActionResult OnGet(string? topic)
    {
        (ViewData["Title"], ViewData["At"]) = (Words.Say("handbook.title"), "handbook");
        if (topic is null && string.IsNullOrWhiteSpace(Find))
            return Redirect("/handbook/bench");
        if (!string.IsNullOrWhiteSpace(Find) && Find.Length <= LongestSearch)
            Found = [.. Handbook.Find(Find)];
        else if (topic == "all")
            Shown = Handbook.Pages;
        else if (Handbook.Page(topic ?? "") is { } page)
            Shown = [page];
        else
            return NotFound();
        return Page();
    }
}
