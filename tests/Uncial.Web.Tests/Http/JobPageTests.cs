using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Workflow;
using Uncial.Data.Practice;
using Uncial.Practice.Debriefs;
using Uncial.Practice.Jobs;
using Uncial.Practice.Lessons;
using Uncial.Simulation.Scales;

namespace Uncial.Web.Tests;

/// <summary>Lessons over HTTP: each to its own trainee alone, and nothing that tells the truth before the decision.</summary>
public sealed partial class JobPageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [GeneratedRegex(
        """\b(d|x|y|cx|cy|r|viewBox|points|transform|stroke-width|data-closer|data-line|data-face|width|height)=['"][^'"]*['"]"""
    )]
    private static partial Regex Geometry();

    [GeneratedRegex("""\d+\.\d+""")]
    private static partial Regex Number();

    private static async Task<string> BeginAsync(HttpPerson person, string lesson)
    {
        var (code, _, to) = await person.PostAsync("/practice?handler=Lesson", [("lesson", lesson)]);
        code.ShouldBe(HttpStatusCode.Found);
        return to!.Split('/')[^1];
    }

    private async Task<Attempt> AttemptAsync(string tag)
    {
        await using var db = new PracticeDb(PracticeDb.For(shop.PracticeConnection));
        var id = Attempt.IdOf(tag)!.Value;
        return await db.Attempts.AsNoTracking().Include(a => a.Steps).SingleAsync(a => a.Id == id, Cancel);
    }

    /// <summary>States the limits of the lesson, so that every station opens.</summary>
    private async Task StateLimitsAsync(Attempt attempt)
    {
        await using var db = PracticeShop.Open(shop.PracticeConnection, attempt.Id);
        var surface = (await db.PartAsync(attempt.Tag, Cancel))!.Surfaces[0];
        var actor = new Actor(await db.Operators.Select(o => o.Id).SingleAsync(Cancel), Role.Operator, DateTimeOffset.UtcNow);
        var part = attempt.Lesson.Part;
        foreach (
            var (kind, mm) in new[]
            {
                (LimitKind.Nominal, part.NominalMm),
                (LimitKind.MachineTo, part.MachineToMm),
                (LimitKind.Discard, part.DiscardMm),
            }
        )
            ReceiveCommands.StateLimit(
                surface,
                kind,
                TestParts.Typed(mm.ToString(CultureInfo.InvariantCulture)),
                LengthUnit.Millimetre,
                LimitSource.CastMarking,
                actor
            );
        await db.SaveChangesAsync(Cancel);
    }

    [Theory]
    [InlineData("clear-of-the-ridge")]
    [InlineData("eighths-and-thousandths")]
    [InlineData("turn-it-to-the-light")]
    [InlineData("dirt-on-the-arbor")]
    public async Task Nothing_on_the_wire_tells_the_truth_before_the_decision(string lesson)
    {
        using var guest = new HttpPerson(shop.Address);
        var tag = await BeginAsync(guest, lesson);
        List<string> wire = [];
        async Task<string> OpenAsync(string path)
        {
            var (code, text, _) = await guest.GetAsync(path);
            code.ShouldBe(HttpStatusCode.OK, path);
            wire.Add(text);
            return text;
        }
        await OpenAsync($"/look/{tag}");
        var attempt = await AttemptAsync(tag);
        var rotor = attempt.Lesson.Part.Kind == PartKind.Rotor;
        await StateLimitsAsync(attempt);
        var token = await guest.TokenAsync($"/measure/{tag}");
        async Task TouchAsync(params string[] acts)
        {
            foreach (var act in acts)
            {
                var (code, text, _) = await guest.PostWithAsync($"/practice/bench/{tag}", [("Act", act)], token);
                code.ShouldBe(HttpStatusCode.OK, act);
                text.ShouldContain("data-at-bench");
                wire.Add(text);
            }
        }
        await OpenAsync($"/measure/{tag}");
        string[] bring = rotor
            ? ["in:2", "in:5", "in:15", "rockTo:0", "close:Ratchet"]
            : ["start:1", "start:8", "start:16", "rockTo:0", "lean:1", "lean:-1", "lean:-1"];
        await TouchAsync(bring);
        foreach (var tool in Enum.GetNames<BenchTool>())
            await TouchAsync($"tool:{tool}");
        await TouchAsync("clean:part", "cone:1", "cups:2", "notches", "mount", "tool:Bit", "scratch", "turn:180", "scratch", "zero:0");
        await TouchAsync("tool:Lamp", "light:30", "light:30", "light:60", "tool:Lathe", "dial:0:5", "lock:2", "lock:3", "lever", "run");
        await OpenAsync($"/mount/{tag}");
        await OpenAsync($"/practice/job/{tag}");

        attempt = await AttemptAsync(tag);
        var gauge = attempt.Lesson.Gauges[attempt.On(1).Hand().Gauge].Design;
        var forbidden = TruthsOf(attempt, gauge);
        var seed = attempt.Seed.ToString(CultureInfo.InvariantCulture);
        foreach (var text in wire)
        {
            text.ShouldNotContain(seed);
            text.ShouldNotContain("\"deed\"");
            foreach (var word in Enum.GetNames<JobCause>().Concat(Enum.GetNames<DebriefOf>()).Where(n => n.Length > 8))
                text.ShouldNotContain(word, Case.Sensitive);
            Number()
                .Matches(Geometry().Replace(text, ""))
                .Select(m => double.Parse(m.Value, CultureInfo.InvariantCulture))
                .Where(n => forbidden.Exists(t => Math.Abs(n - t.Value) < t.Within))
                .ShouldBeEmpty(lesson);
        }
    }

    /// <summary>Sizes of the metal all round and what its gauge shows of it, in both units, each with what would give it away.</summary>
    private static List<(double Value, double Within)> TruthsOf(Attempt attempt, GaugeDesign gauge)
    {
        List<(double, double)> truths = [];
        void Add(double mm)
        {
            truths.Add((mm, 0.004));
            truths.Add((mm / 25.4, 0.0002));
        }
        var part = attempt.Lesson.Draw(attempt.Seed);
        for (var i = 0; i < Uncial.Simulation.WorkFace.Angles; i++)
            Add(part.SizeAt(i, part.ReadingStation));
        if (
            attempt.On(1).Bench().Peek((attempt.On(1).Hand() with { Tool = BenchTool.Gauge, OnStandard = false }).Holds(attempt.Lesson)!)
            is Seen.Gauge seen
        )
            truths.Add((Eye.Read(seen.Picture), gauge.Division / 2));
        // A limit that somebody stated is no secret.
        var known = new[] { attempt.Lesson.Part.NominalMm, attempt.Lesson.Part.MachineToMm, attempt.Lesson.Part.DiscardMm };
        return [.. truths.Where(t => known.All(k => Math.Abs(k - t.Item1) > 0.01 && Math.Abs(k / 25.4 - t.Item1) > 0.0006))];
    }

    [Fact]
    public async Task Nobody_else_comes_to_it_and_from_it_nobody_comes_into_the_workshop()
    {
        using var guest = new HttpPerson(shop.Address);
        var tag = await BeginAsync(guest, "clear-of-the-ridge");
        (await guest.GetAsync($"/look/{tag}")).Text.ShouldContain("Practice");
        using var other = new HttpPerson(shop.Address);
        using var ines = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        foreach (var person in new[] { other, ines })
        {
            (await person.GetAsync($"/look/{tag}")).To.ShouldBe("/practice");
            (await person.GetAsync($"/practice/job/{tag}")).To.ShouldBe("/practice");
            (await person.PostWithAsync($"/practice/bench/{tag}", [("Act", "mount")], "")).Code.ShouldBe(HttpStatusCode.NotFound);
        }
        // The trainee is nobody of the shop: every page of it asks for a sign-in, whatever stands in the address.
        foreach (
            var path in new[]
            {
                "/",
                $"/?practice={tag}",
                $"/logbook?practice={tag}",
                $"/part/{tag}",
                $"/certificate/{tag}",
                $"/tag/{tag}",
                $"/pair/{tag}",
            }
        )
            (await guest.GetAsync(path)).To.ShouldNotBeNull(path).ShouldContain("/SignIn", customMessage: path);
        var token = await guest.TokenAsync($"/look/{tag}");
        foreach (var handler in new[] { "Promise", "Job", "Part", "Pair", "Again", "" })
            (await guest.PostWithAsync($"/receive/1001/{tag}?handler={handler}", [("By", "now")], token)).Code.ShouldBe(
                HttpStatusCode.NotFound,
                handler
            );
        (await guest.PostWithAsync($"/look/{tag}?handler=Keep", [("Note", new string('x', 70_000))], token)).Code.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await guest.GetAsync($"/lengths/echo?practice={tag}&text=21.5")).Text.ShouldContain("21.5");
        (await other.GetAsync($"/lengths/echo?practice={tag}&text=21.5")).To.ShouldBe("/practice");
        // A tag of the workshop stays one of the workshop.
        await using var db = shop.Db();
        (await guest.GetAsync($"/measure/{(await db.Parts.FirstAsync(Cancel)).Tag}")).To!.ShouldContain("/SignIn");
    }

    [Fact]
    public async Task A_touch_that_is_none_is_refused_and_the_decision_ends_it()
    {
        using var guest = new HttpPerson(shop.Address);
        var tag = await BeginAsync(guest, "turn-it-to-the-light");
        // Left in the middle, it goes on.
        (await BeginAsync(guest, "turn-it-to-the-light")).ShouldBe(tag);
        var token = await guest.TokenAsync($"/look/{tag}");
        foreach (var act in new[] { "", "seed", "cone:9", new string('9', 400) })
            (await guest.PostWithAsync($"/practice/bench/{tag}", [("Act", act)], token)).Code.ShouldBe(HttpStatusCode.BadRequest, act);
        (await guest.PostWithAsync($"/practice/bench/{tag}", [("Act", "run")], token)).Text.ShouldContain("not on the arbor");
        (await guest.PostWithAsync($"/practice/job/{tag}?handler=Decide", [("decision", "9")], token)).Code.ShouldBe(HttpStatusCode.OK);
        (await AttemptAsync(tag)).IsEnded.ShouldBeFalse();
        (await guest.PostWithAsync($"/practice/job/{tag}?handler=Decide", [("decision", "Release")], token)).To.ShouldBe(
            $"/practice/job/{tag}"
        );
        var page = (await guest.GetAsync($"/practice/job/{tag}")).Text;
        page.ShouldContain("It would have failed on the road");
        page.ShouldContain("There was a crack.");
        page.ShouldContain("no proof of any part");
        foreach (var station in new[] { "look", "measure", "mount", "cut", "confirm", "release" })
            (await guest.GetAsync($"/{station}/{tag}")).To.ShouldBe($"/practice/job/{tag}", station);
        (await guest.PostWithAsync($"/practice/bench/{tag}", [("Act", "mount")], token)).To.ShouldBe($"/practice/job/{tag}");
        // The same part once more, and another one.
        var again = (await guest.PostWithAsync($"/practice/job/{tag}?handler=Again", [("same", "true")], token)).To!.Split('/')[^1];
        (await AttemptAsync(again)).Seed.ShouldBe((await AttemptAsync(tag)).Seed);
        var another = (await guest.PostWithAsync($"/practice/job/{tag}?handler=Again", [("same", "false")], token)).To!.Split('/')[^1];
        (await AttemptAsync(another)).Seed.ShouldNotBe((await AttemptAsync(tag)).Seed);
    }
}
