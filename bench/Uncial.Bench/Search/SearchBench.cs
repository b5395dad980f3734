using System.Diagnostics;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;

namespace Uncial.Bench.Search;

/// <summary>Times what the page of the logbook asks of the database, on a shop of many years.</summary>
internal static class SearchBench
{
    private const int Rounds = 40;
    private const int PageSize = 41;
    private const double MostMilliseconds = 50;

    /// <summary>Runs every search; 1 where the median of one takes longer than it may.</summary>
    public static async Task<int> RunAsync(string connection, int parts, TextWriter says)
    {
        await using (var filling = new UncialDb(UncialDbOptions.For(connection)))
            await BigShop.FillAsync(filling, parts, says);
        var day = DateOnly.FromDateTime(DateTime.Now);
        string tag;
        await using (var db = new UncialDb(UncialDbOptions.For(connection)))
        {
            tag = await db.Parts.OrderBy(p => p.Id).Skip(parts / 2).Select(p => p.Tag).FirstAsync();
            await says.WriteLineAsync(
                $"{await db.Parts.CountAsync()} parts, {await db.Readings.LongCountAsync()} readings; {Rounds} rounds each, count "
                    + "and first page:"
            );
        }
        var worst = 0.0;
        foreach (
            var (name, filter, skip) in new (string, LogFilter, int)[]
            {
                ("everything", new(), 0),
                ("page 50 of everything", new(), 49 * (PageSize - 1)),
                ("a tag", new(tag), 0),
                ("a job", new("31234"), 0),
                ("a model", new("gannet"), 0),
                ("model and customer", new("brindle bakery 13"), 0),
                ("two letters", new("br"), 0),
                ("two letters that are nowhere", new("qq"), 0),
                ("nothing that is there", new("zebra"), 0),
                ("in the shop", new(State: "here"), 0),
                ("scrapped", new(State: "Scrapped"), 0),
                ("by one hand", new(By: 7), 0),
                ("by one hand, scrapped, one year", new(By: 7, State: "Scrapped", From: day.AddYears(-5), To: day.AddYears(-4)), 0),
                ("left in one week", new(Day: "out", From: day.AddYears(-3), To: day.AddYears(-3).AddDays(6)), 0),
                ("received in one month", new(From: day.AddYears(-6), To: day.AddYears(-6).AddDays(30)), 0),
                ("a model in one month", new("ottershaw", From: day.AddYears(-6), To: day.AddYears(-6).AddDays(30)), 0),
            }
        )
        {
            var times = new double[Rounds];
            var found = 0;
            for (var i = -3; i < Rounds; i++)
            {
                await using var db = new UncialDb(UncialDbOptions.For(connection));
                var watch = Stopwatch.StartNew();
                (found, _) = await Logbook.PageAsync(db, filter, skip, PageSize, default);
                if (i >= 0)
                    times[i] = watch.Elapsed.TotalMilliseconds;
            }
            Array.Sort(times);
            worst = Math.Max(worst, times[Rounds / 2]);
            await says.WriteLineAsync(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{name, -34} {(found > Logbook.CountedUpTo ? "2000+" : found), 6} found   median {times[Rounds / 2], 6:0.0} ms  "
                        + $" 95 % {times[Rounds * 95 / 100], 6:0.0} ms"
                )
            );
        }
        await says.WriteLineAsync(
            worst <= MostMilliseconds ? "Every search stays under 50 ms." : $"The slowest median takes {worst:0} ms."
        );
        return worst <= MostMilliseconds ? 0 : 1;
    }
}
