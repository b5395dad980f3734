using System.Globalization;
using Uncial.Core.Lengths;
using Uncial.Core.Mounting;
using Uncial.Core.Parts;
using Uncial.Core.Release;

namespace Uncial.Data.Demo;

/// <summary>Twelve weeks of work that lie behind the demo, for the logbook and the figures of the shop. All made up, from a seed.</summary>
public static class DemoPast
{
    private const int Jobs = 24;
    private const int FirstJob = 2301;
    private const int Weeks = 12;
    private const int Seed = 12;

    private sealed record Kind(
        string Vehicle,
        string Customer,
        bool Rotor,
        Corner Left,
        Corner Right,
        decimal Across,
        decimal Band,
        string Nominal,
        string MachineTo,
        string Discard
    );

    private static readonly Kind[] Kinds =
    [
        new("Brindle L3 van", "Post van no. 1", true, Corner.FrontLeft, Corner.FrontRight, 300, 52, "26.0", "23.4", "23.0"),
        new("Pilchard city car", "M. Aune", true, Corner.FrontLeft, Corner.FrontRight, 240, 40, "20.0", "18.4", "18.0"),
        new("Ottershaw 4x4", "Coastguard", false, Corner.RearLeft, Corner.RearRight, 254, 55, "254.0", "255.1", "255.5"),
        new("School minibus Gannet 16", "Island school", true, Corner.FrontLeft, Corner.FrontRight, 322, 58, "29.0", "27.1", "26.6"),
        new("Brindle L3 van", "Net loft", true, Corner.RearLeft, Corner.RearRight, 300, 52, "26.0", "23.4", "23.0"),
    ];

    /// <summary>Loads it, in the shop's own workflow, before the jobs of today.</summary>
    public static async Task LoadAsync(UncialDb db, Shop shop, DateTimeOffset now, int ines, int tom)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(shop);
        var chance = new Random(Seed);
        for (var i = 0; i < Jobs; i++)
        {
            var kind = Kinds[chance.Next(Kinds.Length)];
            // Weekdays only; the last job lies three days back.
            var day = now.AddDays(-3 - (Weeks * 7 - 4) * (Jobs - 1 - i) / (double)Jobs);
            var bench = new DemoBench(db, shop, day, "TP", i * 2) { By = chance.Next(2) == 0 ? ines : tom, MinutesAgo = 300 };
            var job = await bench.JobAsync(FirstJob + i, kind.Vehicle, kind.Customer, 30_000 + chance.Next(170) * 1000, null);
            foreach (var corner in chance.Next(3) == 0 ? [kind.Left] : new[] { kind.Left, kind.Right })
                await PartAsync(bench, job, kind, corner, chance, ines);
            if (i % 6 == 5)
                foreach (var lathe in shop.Lathes.Take(1))
                foreach (var holder in lathe.Holders)
                    db.InsertEvents.Add(
                        LatheCommands.RecordInsert(
                            lathe,
                            new(holder, i / 6 % lathe.Profile.EdgesPerInsert + 1, 0, false, false),
                            InsertEventKind.Turned,
                            new(tom, Role.Operator, day)
                        )
                    );
            await db.SaveChangesAsync();
            // What is done with is let go: looking through all of it at every save would take most of the time.
            foreach (
                var entry in db
                    .ChangeTracker.Entries()
                    .Where(e => e.Entity is Job or Part or WorkSurface or PartFact or (Fact and not ZeroCheckEntry))
                    .ToList()
            )
                entry.State = Microsoft.EntityFrameworkCore.EntityState.Detached;
        }
    }

    private static async Task PartAsync(DemoBench bench, Job job, Kind kind, Corner corner, Random chance, int lead)
    {
        string Size(decimal mm, decimal wave) => (mm + wave * chance.Next(-3, 4) / 3).ToString("0.00", CultureInfo.InvariantCulture);
        var (nominal, discard) = (
            decimal.Parse(kind.Nominal, CultureInfo.InvariantCulture),
            decimal.Parse(kind.Discard, CultureInfo.InvariantCulture)
        );
        var worn = nominal + (discard - nominal) * chance.Next(25, 62) / 100;
        var fate = chance.Next(18);
        if (fate == 0)
            worn = discard + (discard - nominal) * 0.05m;
        var part = kind.Rotor
            ? await bench.RotorAsync(
                job,
                corner,
                null,
                kind.Across,
                kind.Band,
                LengthUnit.Millimetre,
                kind.Nominal,
                kind.MachineTo,
                kind.Discard
            )
            : await bench.DrumAsync(
                job,
                corner,
                null,
                kind.Across,
                kind.Band,
                LengthUnit.Millimetre,
                kind.Nominal,
                kind.MachineTo,
                kind.Discard
            );
        await bench.ReadAsync(
            part,
            LengthUnit.Millimetre,
            [.. Enumerable.Range(0, kind.Rotor ? 8 : 4).Select(_ => Size(worn, kind.Rotor ? 0.02m : 0.04m))]
        );
        if (fate == 0)
        {
            await bench.CloseAsync(part, OutcomeKind.Scrapped, "Past its limit all round.", aside: new(ScrapCause.BeyondDiscard));
            return;
        }
        if (fate == 1)
        {
            await bench.CloseAsync(
                part,
                OutcomeKind.Scrapped,
                chance.Next(2) == 0 ? "Blue spots all round the outer face." : "Crack from a bolt hole.",
                aside: new(chance.Next(2) == 0 ? ScrapCause.HardSpots : ScrapCause.Crack)
            );
            return;
        }
        var again = chance.Next(4) == 0;
        if (again)
            await bench.MountAsync(part, ("0.09", 40), ("0.08", 200), goesOn: false);
        await bench.MountAsync(
            part,
            ("0.04", 40),
            ("0.04", 50),
            found: again
                ? chance.Next(3) == 0
                    ? RemountCause.Nut
                    : RemountCause.Dirt
                : null
        );
        await FacesAsync(bench, part, kind.Rotor, chance);
        if (!await bench.PlanAnyAsync(part, chance.Next(3) == 0 ? "light" : "working"))
        {
            await bench.LeaveUncutAsync(part);
        }
        // Some show dark places after the first pass, and the plan is made anew.
        for (var pass = 0; bench.HasPassDue(part) && pass < 8; pass++)
            await bench.CutAsync(part, darkOuter: pass == 0 && chance.Next(4) == 0 ? 0b0000_0110_0000 : 0);
        if (bench.Expected(part) is { } left)
            await bench.ReadAsync(
                part,
                LengthUnit.Millimetre,
                [
                    .. Enumerable
                        .Range(0, kind.Rotor ? 8 : 4)
                        .Select(_ => (left.Millimetres + chance.Next(-2, 3) * 0.001m).ToString("0.000", CultureInfo.InvariantCulture)),
                ]
            );
        var decision = await bench.ConfirmAsync(part);
        if (decision == Decision.LeadOnly)
            bench.By = lead;
        if (decision is Decision.Release or Decision.LeadOnly)
            await bench.CloseAsync(
                part,
                OutcomeKind.Released,
                decision == Decision.LeadOnly ? "New ones are on the boat." : null,
                decision == Decision.LeadOnly
            );
        else
            await bench.CloseAsync(part, OutcomeKind.Shelved, aside: new(Place: "Rack 2", Preservative: "Light oil"));
    }

    private static async Task FacesAsync(DemoBench bench, Part part, bool rotor, Random chance)
    {
        string Depth(int least, int most) => (chance.Next(least, most) * 0.01m).ToString("0.00", CultureInfo.InvariantCulture);
        if (!rotor)
        {
            await bench.FigureAsync(part, ReadingKind.Groove, Depth(2, 8));
            return;
        }
        foreach (var figure in new[] { ReadingKind.GrooveOuter, ReadingKind.GrooveInner })
            await bench.FigureAsync(part, figure, Depth(2, 9));
    }
}
