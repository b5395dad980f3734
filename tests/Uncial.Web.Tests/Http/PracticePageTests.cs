using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Data.Practice;
using Uncial.Practice.Drills;

namespace Uncial.Web.Tests;

/// <summary>The drills over HTTP: for guests, marked at once, and nothing that tells the answer before it is given.</summary>
public sealed partial class PracticePageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [GeneratedRegex("""\b(d|x|y|cx|cy|r|viewBox|points|stroke-width|data-closer|data-line|width|height)=['"][^'"]*['"]""")]
    private static partial Regex Geometry();

    [GeneratedRegex("""\d+(\.\d+)?""")]
    private static partial Regex Number();

    private static async Task<long> BeginAsync(HttpPerson person, DrillKind kind)
    {
        var (code, _, to) = await person.PostAsync("/practice?handler=Begin", [("kind", kind.ToString())]);
        code.ShouldBe(HttpStatusCode.Found);
        return long.Parse(to!.Split('/')[^1], CultureInfo.InvariantCulture);
    }

    private async Task<DrillRun> RunAsync(long id)
    {
        await using var db = new PracticeDb(PracticeDb.For(shop.PracticeConnection));
        return await db.DrillRuns.AsNoTracking().Include(r => r.Answers).SingleAsync(r => r.Id == id, Cancel);
    }

    private static string RightAnswer(DrillItem item) =>
        item is SizeItem size
            ? LengthText.Figure(size.Right, size.Unit, size.Decimals)
            : (((ChoiceItem)item).Right + 1).ToString(CultureInfo.InvariantCulture);

    /// <summary>Items of each drill that are looked at; the others are drawn by the same code.</summary>
    private const int Looked = 6;

    [Theory]
    [InlineData(DrillKind.Micrometer)]
    [InlineData(DrillKind.Caliper)]
    [InlineData(DrillKind.Indicator)]
    [InlineData(DrillKind.DepthGauge)]
    [InlineData(DrillKind.Eighths)]
    [InlineData(DrillKind.Starts)]
    [InlineData(DrillKind.Units)]
    [InlineData(DrillKind.Markings)]
    [InlineData(DrillKind.Scratches)]
    [InlineData(DrillKind.Adapters)]
    [InlineData(DrillKind.Locks)]
    public async Task Nothing_on_the_wire_tells_an_answer_before_it_is_given(DrillKind kind)
    {
        using var guest = new HttpPerson(shop.Address);
        var id = await BeginAsync(guest, kind);
        var run = await RunAsync(id);
        var token = await guest.TokenAsync($"/practice/drill/{id}");
        for (var n = 1; n <= Looked; n++)
        {
            var (code, page, _) = await guest.GetAsync($"/practice/drill/{id}");
            code.ShouldBe(HttpStatusCode.OK);
            var item = run.Item(n);
            page.ShouldNotContain(run.Seed.ToString(CultureInfo.InvariantCulture));
            // Marks of a gauge stand where an eye sees them; digits that say its reading stand nowhere.
            var text = Geometry().Replace(page, "");
            if (item is ReadingItem or TotalItem && item is SizeItem size)
            {
                var right = (double)size.Right.In(size.Unit);
                var half = Math.Pow(10, -size.Decimals) / 2;
                Number()
                    .Matches(text)
                    .Select(m => m.Value)
                    .Where(v => v.Contains('.', StringComparison.Ordinal) && Math.Abs(Parsed(v) - right) < half)
                    .ShouldBeEmpty($"{kind} {n}: {right}");
            }
            if (item is ChoiceItem choice)
            {
                // One choice is drawn as the other.
                var buttons = ChoiceButton().Matches(page).Select(m => DigitsOf().Replace(m.Groups[1].Value, "")).ToList();
                buttons.Count.ShouldBe(choice.Choices.Count);
                buttons.Distinct().Count().ShouldBe(1);
            }
            foreach (var cause in Enum.GetNames<Uncial.Practice.Causes.MistakeCause>().Where(c => c.Length > 8))
                page.ShouldNotContain(cause, Case.Sensitive);
            (await guest.PostWithAsync($"/practice/drill/{id}?n={n}", [("Answer", RightAnswer(item))], token)).Code.ShouldBe(
                HttpStatusCode.Found
            );
        }
        (await RunAsync(id)).Right.ShouldBe(Looked);

        static double Parsed(string text) => double.Parse(text, CultureInfo.InvariantCulture);
    }

    [GeneratedRegex("""<button name="Answer" ([^>]*)>""")]
    private static partial Regex ChoiceButton();

    [GeneratedRegex("""\d+""")]
    private static partial Regex DigitsOf();

    [Fact]
    public async Task A_wrong_reading_is_told_with_what_led_to_it_and_what_was_typed_is_never_lost()
    {
        using var guest = new HttpPerson(shop.Address);
        var id = await BeginAsync(guest, DrillKind.Micrometer);
        var item = (SizeItem)(await RunAsync(id)).Item(1);
        var (code, page, _) = await guest.PostAsync($"/practice/drill/{id}?n=1", [("Answer", "twelve and a half")]);
        code.ShouldBe(HttpStatusCode.OK);
        page.ShouldContain("value=\"twelve and a half\"");
        page.ShouldContain("aria-invalid=\"true\"");
        var typed = LengthText.Figure(item.Right + Length.FromMillimetres(0.5m), item.Unit, item.Decimals);
        var (_, _, to) = await guest.PostAsync($"/practice/drill/{id}?n=1", [("Answer", typed)]);
        page = (await guest.GetAsync(to!)).Text;
        page.ShouldContain("Not right");
        page.ShouldContain("A turn of the thimble.");
        page.ShouldContain("+0.50");
        // Sent once more with the right answer: what was given stays.
        await guest.PostAsync($"/practice/drill/{id}?n=1", [("Answer", RightAnswer(item))]);
        (await RunAsync(id)).Answers.Single().IsRight.ShouldBeFalse();
        // An item that is not there yet, and one that will never be.
        (await guest.PostAsync($"/practice/drill/{id}?n=5", [("Answer", "1")])).Code.ShouldBe(HttpStatusCode.Found);
        (await guest.PostAsync($"/practice/drill/{id}?n=21", [("Answer", "1")])).Code.ShouldBe(HttpStatusCode.Found);
        (await RunAsync(id)).Answers.Count.ShouldBe(1);
    }

    [Fact]
    public async Task A_choice_that_is_not_offered_is_asked_for_again()
    {
        using var guest = new HttpPerson(shop.Address);
        var id = await BeginAsync(guest, DrillKind.Locks);
        foreach (var answer in new[] { "", "0", "8", "-1", "one" })
            (await guest.PostAsync($"/practice/drill/{id}?n=1", [("Answer", answer)])).Text.ShouldContain("Pick one of the answers.");
        (await RunAsync(id)).Answers.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_guest_sees_no_drill_of_another_and_no_page_of_the_shop()
    {
        using var guest = new HttpPerson(shop.Address);
        var id = await BeginAsync(guest, DrillKind.Units);
        using var other = new HttpPerson(shop.Address);
        await BeginAsync(other, DrillKind.Units);
        (await other.GetAsync($"/practice/drill/{id}")).To.ShouldBe("/practice");
        foreach (var page in new[] { "/", "/logbook", "/gauges", "/people", "/shop", "/list" })
            (await guest.GetAsync(page)).To.ShouldNotBeNull().ShouldContain("/SignIn");
        (await guest.GetAsync("/SignIn")).Text.ShouldContain("href=\"/practice\"");
    }

    [Fact]
    public async Task Who_works_here_finds_the_own_results_at_any_screen_and_can_remove_them()
    {
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var id = await BeginAsync(tom, DrillKind.Locks);
        await tom.PostAsync($"/practice/drill/{id}?n=1", [("Answer", "7")]);
        using var tablet = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var home = (await tablet.GetAsync("/practice?drills=true")).Text;
        home.ShouldContain("1 of 20 answered");
        home.ShouldContain($"href=\"/practice/drill/{id}\"");
        home.ShouldContain("Tom Okoro");
        await tablet.PostAsync("/practice?handler=Remove", []);
        (await tom.GetAsync($"/practice/drill/{id}")).To.ShouldBe("/practice");
    }
}
