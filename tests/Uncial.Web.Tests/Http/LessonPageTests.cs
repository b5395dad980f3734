using System.Net;
using CsCheck;
using Uncial.Practice.Lessons;
using Uncial.Web.Pages;

namespace Uncial.Web.Tests;

/// <summary>Writing a lesson in a form: what stands in the fields comes to the file, and every fault of it to its field.</summary>
public sealed class LessonPageTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static IEnumerable<(string Name, string Value)> Fields(LessonForm form, params (string Path, string Value)[] changed) =>
        LessonForm
            .Groups.SelectMany(g => g.Fields)
            .Select(f => (f.Path, Array.Find(changed, c => c.Path == f.Path).Value ?? form[f.Path]))
            .Where(f => f.Item2.Length > 0)
            .Concat(form.Marked.Select(m => ("marked", m)));

    [Fact]
    public void Each_lesson_comes_through_the_form_as_it_was()
    {
        foreach (var lesson in ShippedLessons.All)
        {
            var text = LessonWriter.Write(lesson);
            var (again, faults) = LessonFile.Read(LessonForm.Of(text).ToFile());
            faults.ShouldBeEmpty(lesson.Id);
            LessonWriter.Write(again!).ShouldBe(text);
        }
    }

    [Fact]
    public void Whatever_is_typed_comes_to_a_file_that_is_read_or_told_where_it_is_wrong()
    {
        var fields = LessonForm.Groups.SelectMany(g => g.Fields).ToList();
        var typed = Gen.OneOf(
            Gen.String,
            Gen.Double.Select(d => d.ToString("R", System.Globalization.CultureInfo.InvariantCulture)),
            Gen.OneOfConst(
                "1 to",
                "to",
                "1 to 2 to 3",
                "1 to 0.5",
                ";;",
                "NaN",
                "1e400",
                "1,5",
                "\r\n\r\n",
                "{",
                "\"",
                "\u0000",
                "true",
                "[1]"
            )
        );
        Gen.Select(Gen.Int[0, fields.Count - 1], typed, Gen.Int[0, ShippedLessons.All.Count - 1])
            .Sample(
                (at, text, which) =>
                {
                    var sent = Fields(LessonForm.Of(LessonWriter.Write(ShippedLessons.All[which])), (fields[at].Path, text))
                        .GroupBy(f => f.Name)
                        .ToDictionary(g => g.Key, g => new Microsoft.Extensions.Primitives.StringValues([.. g.Select(f => f.Value)]));
                    var form = LessonForm.Of(new Microsoft.AspNetCore.Http.FormCollection(sent));
                    var (lesson, faults) = LessonFile.Read(form.ToFile());
                    if (lesson is null)
                        faults.ShouldNotBeEmpty();
                },
                iter: 3000,
                threads: 1
            );
    }

    [Fact]
    public async Task What_is_wrong_stands_at_its_field_and_nothing_typed_is_lost()
    {
        using var ines = await new HttpPerson(shop.Address).SignInAsync("ines", "2417");
        (await ines.GetAsync("/practice/lesson?from=the-drum-in-the-hat")).Text.ShouldContain("the-drum-in-the-hat-2");
        var form = LessonForm.Of(LessonWriter.Write(ShippedLessons.All.Single(l => l.Id == "the-drum-in-the-hat")));
        var wrong = (
            await ines.PostAsync(
                "/practice/lesson",
                Fields(form, ("id", "our-hat"), ("wear.leftMm", "a lot"), ("hat.wear.ovalMm", "0.3 to 0.1"), ("gauges[1].biasMm", "7"))
            )
        ).Text;
        foreach (
            var (field, says) in new[]
            {
                ("wear.leftMm", "has to be a number"),
                ("hat.wear.ovalMm", "least above"),
                ("gauges[1].biasMm", "less or more"),
            }
        )
        {
            var at = wrong.IndexOf($"name=\"{field}\"", StringComparison.Ordinal);
            wrong.IndexOf(says, at, StringComparison.Ordinal).ShouldBeInRange(at, at + 200, field);
        }
        wrong.ShouldContain("value=\"a lot\"");
        wrong.ShouldContain("value=\"0.3 to 0.1\"");
        // The preview keeps nothing; a decision that is not right is told at it.
        var preview = (
            await ines.PostAsync(
                "/practice/lesson?handler=Preview",
                Fields(form, ("id", "our-hat"), ("decision", "scrap")),
                "/practice/lesson"
            )
        ).Text;
        preview.ShouldContain("is not right for the part");
        (await ines.PostAsync("/practice/lesson?handler=Preview", Fields(form, ("id", "our-hat")), "/practice/lesson")).Text.ShouldContain(
            "lesson-samples"
        );
        (await ines.GetAsync("/practice/lessons")).Text.ShouldNotContain("our-hat");
        (await ines.PostAsync("/practice/lesson", Fields(form))).Text.ShouldContain("A lesson that ships has this id");
        (await ines.PostAsync("/practice/lesson", Fields(form, ("id", "our-hat"), ("title", "Our hat")))).To.ShouldBe("/practice/lessons");
        (await ines.GetAsync("/practice/lesson?lesson=our-hat")).Text.ShouldContain("value=\"Our hat\"");
        using var tom = await new HttpPerson(shop.Address).SignInAsync("tom", "1304");
        (await tom.PostAsync("/practice/lesson", Fields(form, ("id", "toms-hat")), "/practice")).Code.ShouldNotBe(HttpStatusCode.OK);
        (await ines.GetAsync("/practice/lessons")).Text.ShouldNotContain("toms-hat");
    }
}
