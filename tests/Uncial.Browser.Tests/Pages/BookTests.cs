using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;
using Uncial.Core;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Browser.Tests;

/// <summary>The limit book: as a page, and at the part, where a cast marking may say otherwise.</summary>
public class BookTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private const string Head = "vehicle,axle,part,new,machine_to,discard,unit,source\n";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_file_is_looked_at_first_and_goes_in_whole_or_not_at_all()
    {
        var file = Path.GetTempFileName();
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        void Look(string text)
        {
            File.WriteAllText(file, text);
            screen.Go("/book");
            screen.Send(By.Name("Upload"), file);
            screen.Send(By.XPath("//button[text()='Look at the file']"), Keys.Enter);
        }
        Look(
            Head
                + "Petrel coupe,front,rotor,22.0,20.4,20.0,mm,Petrel sheet\nPetrel coupe,rear,drum,9.0,9.04,9.06,mm,Petrel "
                + "sheet\nBrindle L3 van,front,rotor,26.0,23.4,23.1,mm,sheet 15\n"
        );
        screen.UntilHeading("1 bad line");
        screen.UntilText("No drum is 9.06 mm: is the unit right?");
        screen.IsAccessible();
        await using var db = shop.Db();
        (await db.Book.AnyAsync(e => e.Vehicle == "Petrel coupe", Cancel)).ShouldBeFalse();
        Look(
            Head
                + "Petrel coupe,front,rotor,22.0,20.4,20.0,mm,Petrel sheet\nPetrel coupe,rear,drum,9.0,9.04,9.06,in,Petrel "
                + "sheet\nBrindle L3 van,front,rotor,26.0,23.4,23.1,mm,sheet 15\n"
        );
        screen.UntilHeading("3 to load");
        screen.UntilText("2 new, 1 changed, 0 as they are");
        screen.Send(By.TagName("body"), Keys.Enter);
        screen.UntilHeading("3 entries loaded");
        (
            await db
                .Book.Where(e => e.Vehicle == "Brindle L3 van" && e.Axle == Axle.Front)
                .OrderBy(e => e.Id)
                .Select(e => e.EndedAt == null)
                .ToListAsync(Cancel)
        ).ShouldBe([false, true]);
        // Found while one types; what was used stays on record.
        screen.Until(() => screen.Driver.SwitchTo().ActiveElement().GetAttribute("name") == "find", "the focus where one finds");
        screen.Press("petrel rear");
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".book-log tbody tr")).Count == 1, "one entry found");
        screen.UntilText("230.12");
        screen.IsAccessible();
        File.Delete(file);
    }

    [Fact]
    public async Task Book_and_marking_stand_side_by_side_the_stricter_holds_and_a_lead_settles_it()
    {
        using var screen = new Screen(shop.Address);
        screen.SignIn("Ines Varga", "2417");
        screen.Go("/receive");
        foreach (var text in new[] { "Dunlin trailer", "Ferry company", "", "" })
            screen.Enter(text);
        screen.UntilHeading("Add a part");
        screen.Press(Keys.Shift + Keys.Tab, Keys.Shift + Keys.Tab, Keys.ArrowRight); // a drum: the book has one
        screen.TabTo("Cast in the part");
        screen.Press("MIN TH 20");
        screen.UntilText("MIN and TH stand on rotors");
        screen.Press(Keys.Control + "a" + Keys.Control, "MAX DIA 204,5");
        screen.UntilText("Discard 204.50 mm (8.0512 in), as a casting nearly always says");
        screen.IsAccessible();
        // Limits and sizes by hand are folded away, since the book has them: Enter goes on past them.
        screen.Press(Keys.Enter);
        screen.Until(() => screen.Driver.FindElements(By.CssSelector(".log td.fig")).Count == 1, "the part kept");
        var tag = screen.Driver.FindElement(By.CssSelector(".log td.fig")).Text;
        var job = screen.Path_.Split('/')[2];
        screen.Go($"/receive/{job}/{tag}");
        screen.UntilText("They differ: the stricter holds until a lead settles it.");
        screen.IsAccessible();
        await using (var db = shop.Db())
        {
            var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
            var record = new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(Cancel));
            (
                record.Receiving.Limits!.Discard.Millimetres,
                record.Receiving.Limits.MachineTo.Millimetres,
                record.Surface.MaxVariation!.Value.Millimetres
            ).ShouldBe((204.5m, 204.2m, 0.15m));
            (
                await db
                    .Database.SqlQuery<decimal>($"select held_limit_at({record.Surface.Id}, 'Discard', {int.MaxValue}) as \"Value\"")
                    .SingleAsync(Cancel)
            ).ShouldBe(204.5m);
        }
        screen.Send(By.XPath("//span[contains(.,'204.70')]/preceding-sibling::input"), Keys.Space);
        screen.Fill("A lead settles it, because", "Seen on the maker’s plate.");
        screen.Fill("PIN", "2417");
        screen.Send(By.XPath("//button[text()='Settle it']"), Keys.Enter);
        screen.UntilText("Settled by Ines Varga");
        await using (var db = shop.Db())
        {
            var part = (await db.Parts.Where(p => p.Tag == tag).WithFactsAsync(db, Cancel)).Single();
            var shopNow = await db.ShopAsync(Cancel);
            var surface = part.Surfaces[0];
            new SurfaceRecord(surface, part, shopNow).Receiving.Limits!.Discard.Millimetres.ShouldBe(204.7m);
            (
                await db
                    .Database.SqlQuery<decimal>($"select held_limit_at({surface.Id}, 'Discard', {int.MaxValue}) as \"Value\"")
                    .SingleAsync(Cancel)
            ).ShouldBe(204.7m);
            // Read anew on the part, it is open again: the stricter holds.
            ReceiveCommands.StateLimit(
                surface,
                LimitKind.Discard,
                LengthParser.Parse("204.4", LengthUnit.Millimetre).Typed!,
                LengthUnit.Millimetre,
                LimitSource.CastMarking,
                new(1, Role.Operator, DateTimeOffset.UtcNow)
            );
            await db.SaveChangesAsync(Cancel); // stricter than both: free
            new SurfaceRecord(surface, part, shopNow).Receiving.Limits!.Discard.Millimetres.ShouldBe(204.4m);
            (
                await db
                    .Database.SqlQuery<decimal>($"select held_limit_at({surface.Id}, 'Discard', {int.MaxValue}) as \"Value\"")
                    .SingleAsync(Cancel)
            ).ShouldBe(204.4m);
        }
    }
}
