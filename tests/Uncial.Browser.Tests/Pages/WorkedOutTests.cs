using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using Uncial.Core;
using Uncial.Core.Cutting;
using Uncial.Core.Gauges;
using Uncial.Core.Lengths;
using Uncial.Core.Measuring;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Planning;
using Uncial.Core.Reasoning;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Browser.Tests;

/// <summary>How a figure came about is a key away, in words and in the reader's unit.</summary>
public class WorkedOutTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static Length Mm(decimal mm) => Length.FromMillimetres(mm);

    [Fact]
    public void The_way_to_a_figure_opens_over_the_page_and_closes_again()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/plan/TQB3S");
        screen.UntilHeading("Pick a technique");
        screen.Send(By.TagName("body"), "w");
        var sheet = screen.Driver.FindElement(By.Id("worked"));
        screen.Until(() => sheet.Displayed, "how it was worked out");
        sheet.Text.ShouldContain("Size at first touch");
        sheet.Text.ShouldContain("24.395 + (0.04 + 0.05)/2");
        sheet.Text.ShouldContain("24.44 mm");
        sheet.Text.ShouldContain("Surely no worse than after pass 1");
        screen.IsAccessible();
        screen.Press(Keys.Escape);
        screen.Until(() => !sheet.Displayed, "the page alone again");
        screen.Path_.ShouldBe("/plan/TQB3S");
        // Under the sheet no key presses anything: V would have left the part uncut.
        screen.Send(By.TagName("body"), "w");
        screen.Until(() => sheet.Displayed, "how it was worked out");
        screen.Send(By.TagName("body"), "v");
        screen.Send(By.TagName("body"), "w");
        screen.Until(() => !sheet.Displayed, "the page alone again");
        screen.UntilHeading("Pick a technique");
    }

    [Fact]
    public async Task A_part_that_is_only_scuffed_keeps_its_grooves_in_the_judgement()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/plan/TQB4T");
        screen.UntilText("leaves 0.05 run-out");
        await NarrowAsync("TQB4T", 27.60m);
        screen.Go("/plan/TQB4T");
        screen.UntilHeading("No way to cut it");
        screen.UntilText("Measure the run-out on the lathe: what was assumed may win 0.10 mm. Enough.");
        screen.UntilText("A finer gauge, or repeats: up to 0.007 mm less uncertainty. Not enough alone.");
        screen.IsAccessible();
        screen.Offline(true);
        screen.Send(By.TagName("body"), "s");
        screen.UntilText("The server does not answer"); // also where there is no cut to take
        screen.Offline(false);
        screen.Send(By.TagName("body"), "s");
        screen.UntilHeading("Scuff it");
        screen.IsAccessible();
        screen.TickThrough();
        screen.Press(Keys.Enter);
        screen.UntilHeading("Not looked at yet");
        await using (var db = shop.Db())
            await db.LookAtAsync(await db.RecordAsync("TQB4T"), new(await db.PersonAsync("ines"), Role.Operator, DateTimeOffset.UtcNow));
        screen.Go("/confirm/TQB4T");
        screen.UntilText("for grooves and low lands");
        screen.UntilText("scuffed only");
        // 27.62 less 0.007 and 0.040 in squares is past machine-to by what cannot be known, and far from discard.
        screen.UntilHeading("Between limits");
        screen.IsAccessible();
    }

    private async Task NarrowAsync(string tag, decimal machineTo)
    {
        await using var db = shop.Db();
        var part = await db
            .Parts.Include(p => p.Surfaces)
                .ThenInclude(s => s.LimitEntries)
            .SingleAsync(p => p.Tag == tag, TestContext.Current.CancellationToken);
        var was = part.Surfaces[0].LimitEntries.Single(l => l.Kind == LimitKind.MachineTo);
        part.Surfaces[0]
            .LimitEntries.Add(
                new()
                {
                    Kind = was.Kind,
                    Value = Mm(machineTo),
                    Typed = "27.60",
                    Unit = was.Unit,
                    Source = LimitSource.CastMarking,
                    At = was.At,
                    ById = was.ById,
                }
            );
        await db.SaveChangesAsync(TestContext.Current.CancellationToken);
    }
}
