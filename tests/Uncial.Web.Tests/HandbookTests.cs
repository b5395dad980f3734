using System.Text.RegularExpressions;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Web.Pages;
using Uncial.Web.Text;

namespace Uncial.Web.Tests;

/// <summary>The handbook speaks of everything that is on the screens.</summary>
public partial class HandbookTests
{
    private static string TextOf(string topic) => Handbook.Page(topic)!.Html;

    [Fact]
    public void Every_station_has_its_page_which_says_what_it_is_for_its_keys_and_its_cautions()
    {
        var stations = Enum.GetValues<Station>().Where(s => s != Station.Done).Select(s => s.ToString().ToLowerInvariant());
        Handbook.Pages.Select(p => p.Topic).ShouldBe(["bench", .. stations, "look", "practice"], ignoreOrder: true);
        foreach (var page in Handbook.Pages)
        {
            page.Sections.Select(s => s.Heading).ShouldContain("What it is for", page.Topic);
            page.Sections.Select(s => s.Heading).ShouldContain("Keys", page.Topic);
            page.Sections.Select(s => s.Heading).ShouldContain("Caution", page.Topic);
        }
    }

    [Fact]
    public void Every_verdict_is_explained_at_its_station()
    {
        void Explains(string topic, params IEnumerable<string> words)
        {
            foreach (var word in words)
                TextOf(topic).ShouldContain($"<strong>{word}</strong>", Case.Sensitive, topic);
        }
        Explains("measure", Enum.GetValues<WorthWord>().Select(w => Words.Say("worthWord." + w)));
        Explains(
            "measure",
            new[]
            {
                "beyondDiscardScrap",
                "tooCloseToDiscardTo",
                "insideDiscardNothingLeftTo",
                "closeToMachineTo",
                "withinMachineTo",
            }.Select(w => Words.Say("measure." + w))
        );
        Explains("plan", Enum.GetValues<Core.Planning.PlanRefusal>().Select(r => Words.Say("refusal." + r)));
        Explains(
            "confirm",
            new[]
            {
                "withinLimit",
                "betweenLimits",
                "beyondDiscard",
                "tooCloseToCall",
                "readTheWorstTwice",
                "notAllIsRead",
                "notLookedAtYet",
            }.Select(w => Words.Say("confirm." + w))
        );
        Explains("release", new[] { "readyToGo", "leadDecides", "notConfirmed" }.Select(w => Words.Say("release." + w)));
    }

    [Fact]
    public void Every_key_that_is_printed_at_a_station_is_in_its_page()
    {
        var pages = Path.Combine(Repository.Root(), "src", "Uncial.Web", "Pages");
        (string Topic, string[] Folders)[] stations =
        [
            ("bench", ["Board", "Board/Week"]),
            ("receive", ["Intake"]),
            ("look", ["Part/Inspect"]),
            ("measure", ["Part/Measure", "Part/Reading"]),
            ("mount", ["Part/Mount"]),
            ("plan", ["Part/Plan"]),
            ("cut", ["Part/Cut"]),
            ("confirm", ["Part/Confirm", "Part/Reading"]),
            ("release", ["Part/Release"]),
            ("practice", ["Practice", "Practice/Bench", "Practice/Job"]),
        ];
        foreach (var (topic, folders) in stations)
        {
            var keys = folders
                .SelectMany(f => Directory.EnumerateFiles(Path.Combine(pages, f), "*.cshtml"))
                .SelectMany(f => PrintedKey().Matches(File.ReadAllText(f)))
                .Select(m => m.Groups["key"].Value)
                .Select(k => k.Length == 1 ? k.ToUpperInvariant() : k)
                .Distinct()
                .ToList();
            keys.ShouldNotBeEmpty(topic);
            foreach (var key in keys)
                TextOf(topic).ShouldContain($"<strong>{key}</strong>", Case.Sensitive, topic);
        }
        // Those of the moves after measuring are named in code.
        foreach (var key in new[] { "R", "O", "V", "S", "H", "X" })
            TextOf("measure").ShouldContain($"<strong>{key}</strong>");
    }

    [Fact]
    public void Words_are_found_where_they_stand_and_every_drawing_is_there()
    {
        Handbook.Find("chatter").Select(f => (f.Page.Topic, f.Section.Heading)).ShouldContain(("cut", "When it chatters"));
        Handbook.Find("oval half").ShouldBeEmpty();
        Handbook.Find("half nut").Select(f => f.Page.Topic).ShouldContain("mount");
        Handbook.Find("  ").ShouldBeEmpty();
        var drawings = Handbook.Pages.SelectMany(p => Image().Matches(p.Html)).Select(m => m.Groups["name"].Value).ToList();
        drawings.Count.ShouldBeGreaterThanOrEqualTo(3);
        foreach (var name in drawings)
            Handbook.Drawing(name).ShouldNotBeNull(name).Dispose();
        // No address that is written by hand, no markup of its own.
        Handbook.Pages.ShouldAllBe(p => !p.Html.Contains("<script", StringComparison.Ordinal));
    }

    [GeneratedRegex("data-key=\"(?<key>[a-z0-9]|Space)\"", RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex PrintedKey();

    [GeneratedRegex("<img src=\"(?<name>[a-z]+)\\.svg\" alt=\"[^\"]+\"", RegexOptions.ExplicitCapture | RegexOptions.NonBacktracking)]
    private static partial Regex Image();
}
