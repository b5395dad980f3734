using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Uncial.Data.Practice;

namespace Uncial.Web.Tests;

/// <summary>Classes of practice over HTTP: whose they are, what a trainee gets of one that is open, and the results as a file.</summary>
public sealed partial class ClassPageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [GeneratedRegex("""class-code">([A-Z2-9]{8})<""")]
    private static partial Regex Code();

    private async Task<HttpPerson> InstructorAsync(string user, string pin)
    {
        await using var db = shop.Db();
        await db.Database.ExecuteSqlAsync($"update operators set instructs_since = now() where user_name = {user}", Cancel);
        return await new HttpPerson(shop.Address).SignInAsync(user, pin);
    }

    private static async Task<string> BeginAsync(HttpPerson instructor, string name)
    {
        var (code, _, to) = await instructor.PostAsync(
            "/practice/classes",
            [("Name", name), ("Same", "true"), ("Lesson", "clear-of-the-ridge"), ("Lesson", "it-sings")]
        );
        code.ShouldBe(HttpStatusCode.Found);
        return to!;
    }

    [Fact]
    public async Task A_class_is_its_instructors_alone()
    {
        using var ines = await InstructorAsync("ines", "2417");
        using var marit = await InstructorAsync("marit", "9051");
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var path = await BeginAsync(ines, "Autumn");
        (await ines.GetAsync(path)).Text.ShouldContain("Autumn");
        foreach (var (page, person) in new[] { (path, marit), (path + "/csv", marit), (path + "/certificate/1", marit) })
            (await person.GetAsync(page)).To.ShouldBe("/practice/classes", page);
        foreach (var page in new[] { "/practice/classes", path, path + "/csv" })
            (await tom.GetAsync(page)).To.ShouldBe("/practice", page);
        (await tom.GetAsync("/practice")).Text.ShouldNotContain("/practice/classes");
        var token = await tom.TokenAsync("/practice");
        foreach (var act in new[] { "Add", "Close", "Remove" })
            (await tom.PostWithAsync($"{path}?handler={act}", [("Names", "Zoe Quill")], token)).To.ShouldNotBe(path, act);
        using var guest = new HttpPerson(shop.Address);
        (await guest.GetAsync(path)).To!.ShouldContain("/SignIn");
        (await ines.GetAsync(path)).Text.ShouldNotContain("Zoe Quill");
    }

    [Fact]
    public async Task An_open_class_of_one_part_tells_a_trainee_nothing_and_its_results_are_a_file()
    {
        using var ines = await InstructorAsync("ines", "2417");
        var path = await BeginAsync(ines, "Winter");
        await ines.PostAsync($"{path}?handler=Add", [("Names", "=SUM(1)\nBo Falk")], path);
        var codes = Code().Matches((await ines.GetAsync(path)).Text).Select(m => m.Groups[1].Value).ToList();
        codes.Count.ShouldBe(2);
        using var trainee = new HttpPerson(shop.Address);
        (await trainee.PostAsync("/practice/class", [("Code", codes[0])])).To.ShouldBe("/practice");
        // A code that was not typed there is no way in.
        using (var sly = new HttpPerson(shop.Address))
        {
            sly.Cookies.Add(shop.Address, new Cookie("practice", codes[1]));
            (await sly.GetAsync("/practice")).Text.ShouldNotContain("The lessons of your class");
        }
        (await trainee.GetAsync("/practice")).Text.ShouldContain("The lessons of your class");
        var (_, _, look) = await trainee.PostAsync(
            "/practice?handler=Lesson",
            [("lesson", "clear-of-the-ridge"), ("ofClass", "true")],
            "/practice"
        );
        var tag = look!.Split('/')[^1];
        var job = $"/practice/job/{tag}";
        (await trainee.PostAsync($"{job}?handler=Decide", [("decision", "Scrap")], job)).To.ShouldBe(job);
        await using var db = new PracticeDb(PracticeDb.For(shop.PracticeConnection));
        var id = Attempt.IdOf(tag)!.Value;
        var attempt = await db.Attempts.AsNoTracking().SingleAsync(a => a.Id == id, Cancel);
        var size = attempt.Lesson.Draw(attempt.Seed).WorstSize(grooves: false);
        var token = await trainee.TokenAsync("/practice");
        foreach (var page in new[] { job, job + "?see=1", "/practice/progress", "/practice" })
        {
            var text = (await trainee.GetAsync(page)).Text;
            text.ShouldNotContain("debrief-lines", Case.Sensitive, page);
            text.ShouldNotContain(size.ToString("0.00", System.Globalization.CultureInfo.InvariantCulture), Case.Sensitive, page);
        }
        // The part of the class is worked once, and no copy of it besides.
        (await trainee.PostAsync($"{job}?handler=Again", [("same", "true")], job)).Code.ShouldBe(HttpStatusCode.NotFound);
        (
            await trainee.PostWithAsync("/practice?handler=Lesson", [("lesson", "clear-of-the-ridge"), ("ofClass", "true")], token)
        ).Text.ShouldContain("worked once");

        var csv = (await ines.GetAsync($"{path}/csv")).Text.Split(
            '\n',
            StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
        );
        csv[0].ShouldBe("class,trainee,lesson,begun,ended,minutes,outcome,reading,units,setUp,metal,judgement");
        csv.Length.ShouldBe(1 + 2 * 2);
        // No name is a formula.
        csv[1].ShouldStartWith("Winter,'=SUM(1),clear-of-the-ridge,");
        csv[1].ShouldContain(",goodPartScrapped,");
        await ines.PostAsync($"{path}?handler=Close", [], path);
        (await trainee.GetAsync(job)).Text.ShouldContain("debrief-lines");
    }

    [Fact]
    public async Task A_lead_gets_a_lesson_as_a_file_and_takes_it_in_changed_and_everybody_may_begin_it()
    {
        using var ines = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        var text = (await ines.GetAsync("/practice/lessons/file?lesson=clear-of-the-ridge")).Text;
        (await tom.GetAsync("/practice/lessons")).Code.ShouldNotBe(HttpStatusCode.OK);
        async Task<(HttpStatusCode Code, string Text, string? To)> TakeInAsync(HttpPerson person, string file) =>
            await person.PostFileAsync("/practice/lessons", "Lesson", file, "/practice");

        (await TakeInAsync(ines, text)).Text.ShouldContain("A lesson that ships has this id");
        var own = text.Replace("\"clear-of-the-ridge\"", "\"our-ridge\"", StringComparison.Ordinal)
            .Replace("Clear of the ridge", "Our <b>ridge</b>", StringComparison.Ordinal);
        var broken = await TakeInAsync(ines, own.Replace("\"rotor\"", "\"plate\"", StringComparison.Ordinal));
        broken.Text.ShouldContain("part.kind");
        broken.Text.ShouldContain("is none of the words");
        (await TakeInAsync(tom, own)).To.ShouldNotBe("/practice/lessons?kept=our-ridge");
        (await TakeInAsync(ines, own)).To.ShouldBe("/practice/lessons?kept=our-ridge");
        using var guest = new HttpPerson(shop.Address);
        (await guest.GetAsync("/practice")).Text.ShouldContain("Our <b>ridge</b>");
        (await guest.PostAsync("/practice?handler=Lesson", [("lesson", "our-ridge")], "/practice")).To!.ShouldStartWith("/look/P-");
        (await ines.PostAsync("/practice/lessons?handler=Remove", [("lesson", "our-ridge")], "/practice/lessons")).Code.ShouldBe(
            HttpStatusCode.Found
        );
        (await guest.GetAsync("/practice")).Text.ShouldNotContain("value=\"our-ridge\"");
    }
}
