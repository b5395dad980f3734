using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using CsCheck;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Core.Parts;
using Uncial.Core.Release;
using Uncial.Data;
using Uncial.Data.Exchange;

namespace Uncial.Data.Tests;

/// <summary>Files in and out: equal to the last digit, every fault named, nothing half loaded.</summary>
public class FileTests(RunningShop shop) : IClassFixture<RunningShop>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<string> JobText(UncialDb db, int number)
    {
        var job = (await db.JobWithFactsAsync(number, Cancel))!;
        return JobFile.Of(job, await db.ShopAsync(Cancel)).Write();
    }

    private static async Task<byte[]> Export(UncialDb db)
    {
        using var to = new MemoryStream();
        await ShopArchive.ExportAsync(db, to, DateTimeOffset.UnixEpoch, Cancel);
        return to.ToArray();
    }

    private static string[] Rows(byte[] archive) =>
        Encoding.UTF8.GetString(archive).Split('\n', StringSplitOptions.RemoveEmptyEntries)[1..^1];

    /// <summary>An archive with its lines changed and its end made to fit again.</summary>
    private static MemoryStream Changed(byte[] archive, Func<string[], IEnumerable<string>> change)
    {
        var lines = Encoding.UTF8.GetString(archive).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        var changed = change(lines[..^1]).ToList();
        var text = string.Concat(changed.Select(l => l + "\n"));
        var sum = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(Encoding.UTF8.GetBytes(text)));
        return new(Encoding.UTF8.GetBytes(text + $"{{\"end\":true,\"rows\":{changed.Count - 1},\"sha256\":\"{sum}\"}}\n"));
    }

    [Fact]
    public async Task Every_job_is_written_and_read_back_to_the_last_digit()
    {
        await using var db = shop.Db();
        foreach (var number in await db.Jobs.Where(j => j.Number < 3000 && j.Parts.Count > 0).Select(j => j.Number).ToListAsync(Cancel))
        {
            var text = await JobText(db, number);
            var (job, faults) = JobFile.Read(text);
            faults.ShouldBeEmpty($"job {number}");
            job!.Write().ShouldBe(text);
        }
        JobFile
            .Read(await JobText(db, 2419))
            .Job!.Parts[0]
            .Surfaces[0]
            .Readings[0]
            .ShouldSatisfyAllConditions(
                r => r.Typed.ShouldBe("8 7/8 + 150t"),
                r => r.Unit.ShouldBe("in"),
                r => r.Mm.ShouldBe(9.025m * 25.4m)
            );
    }

    [Fact]
    public void Any_reading_that_can_be_typed_comes_back_as_it_was_typed() =>
        Gen.Select(Gen.Int[1, 19_999_999], Gen.Bool, Gen.Int[-500, 500], Gen.Int[0, 359])
            .Sample(
                (tenThousandths, inch, correction, degrees) =>
                {
                    var unit = inch ? LengthUnit.Inch : LengthUnit.Millimetre;
                    var typed = (tenThousandths / 10_000m / (inch ? 26 : 1)).ToString("0.######", CultureInfo.InvariantCulture);
                    if (LengthParser.Parse(typed, unit).Typed is not { } length)
                        return;
                    var file = File([
                        new()
                        {
                            Of = "size",
                            Degrees = degrees,
                            Typed = typed,
                            Unit = inch ? "in" : "mm",
                            Mm = length.Value.Millimetres + correction / 100_000m,
                            CorrectionMm = correction / 100_000m,
                            ResolutionMm = 0.001m,
                            UncertaintyMm = 0.0065m,
                            Cuts = 0,
                            At = DateTimeOffset.UnixEpoch,
                        },
                    ]);
                    if (file.Parts[0].Surfaces[0].Readings[0].Mm is < 0 or > 2000)
                        return;
                    var (read, faults) = JobFile.Read(file.Write());
                    faults.ShouldBeEmpty(typed);
                    read!.Parts[0].Surfaces[0].Readings[0].ShouldBe(file.Parts[0].Surfaces[0].Readings[0]);
                },
                iter: 300
            );

    private static JobFile File(IReadOnlyList<FileReading> readings) =>
        new()
        {
            Number = 7,
            Vehicle = "Test",
            ReceivedAt = DateTimeOffset.UnixEpoch,
            Parts =
            [
                new()
                {
                    Tag = "AB2",
                    Corner = "frontLeft",
                    Surfaces =
                    [
                        new()
                        {
                            Kind = "rotor",
                            DiameterMm = 300,
                            BandMm = 50,
                            Places = 8,
                            Readings = readings,
                        },
                    ],
                },
            ],
        };

    [Fact]
    public async Task Every_fault_of_a_job_file_is_named_by_its_path()
    {
        await using var db = shop.Db();
        var good = await JobText(db, 2410);
        JsonNode Tree() => JsonNode.Parse(good)!;
        var reading = (JsonNode root) => root["parts"]![0]!["surfaces"]![0]!["readings"]![2]!;
        foreach (
            var (change, path) in new (Action<JsonNode>, string)[]
            {
                (r => r["format"] = "other", "format"),
                (r => r["version"] = 2, "version"),
                (r => r.AsObject().Remove("vehicle"), "vehicle"),
                (r => r["number"] = "x", "number"),
                (r => r["colour"] = 1, "colour"),
                (r => r["parts"]![0]!["corner"] = "middle", "parts[0].corner"),
                (r => r["parts"]![1]!["tag"] = "TOO-LONG-A-TAG", "parts[1].tag"),
                (r => r["parts"]![1]!["tag"] = r["parts"]![0]!["tag"]!.GetValue<string>(), "parts"),
                (r => reading(r)["mm"] = 12, "parts[0].surfaces[0].readings[2].mm"),
                (r => reading(r)["unit"] = "ft", "parts[0].surfaces[0].readings[2].unit"),
                (r => reading(r)["typed"] = "thick", "parts[0].surfaces[0].readings[2].typed"),
                (r => reading(r)["at"] = "yesterday", "parts[0].surfaces[0].readings[2].at"),
                (r => reading(r).AsObject().Remove("degrees"), "parts[0].surfaces[0].readings[2].degrees"),
                (r => r["parts"] = new JsonArray(), "parts"),
                (r => r["parts"]![0]!["surfaces"]![0]!["limits"]![0]!["kind"] = "best", "parts[0].surfaces[0].limits[0].kind"),
            }
        )
        {
            var tree = Tree();
            change(tree);
            var (job, faults) = JobFile.Read(tree.ToJsonString());
            job.ShouldBeNull(path);
            faults.ShouldContain(f => f.Path == path, $"{path}: {string.Join("; ", faults)}");
        }
        // All of them, not only the first.
        var two = Tree();
        reading(two)["mm"] = 12;
        two["parts"]![1]!["corner"] = "middle";
        JobFile.Read(two.ToJsonString()).Faults.Count.ShouldBe(2);
        JobFile.Read(good[..^20]).Faults.ShouldHaveSingleItem().Path.ShouldStartWith("line ");
        JobFile.Read("[1]").Faults.ShouldHaveSingleItem().Path.ShouldBe("format");
        JobFile.Read(good.Replace("\"number\"", "\"vehicle\"", StringComparison.Ordinal)).Faults.ShouldNotBeEmpty(); // the same field twice
    }

    [Fact]
    public async Task The_schema_says_what_the_reader_asks_for()
    {
        var schema = JsonNode.Parse(
            await System.IO.File.ReadAllTextAsync(Path.Combine(Repository.Root(), "docs/formats/job.schema.json"), Cancel)
        )!;
        await using var db = shop.Db();
        var good = JsonNode.Parse(await JobText(db, 2410))!;
        // What the schema needs is missed at its path; what it does not know is refused.
        void Walk(JsonNode shape, Func<JsonNode, JsonNode> find, string path)
        {
            if (shape["$ref"]?.GetValue<string>() is { } reference)
                shape = schema["$defs"]![reference.Split('/')[^1]]!;
            if (shape["type"]?.ToJsonString() == "\"array\"")
            {
                if (find(good) is JsonArray { Count: > 0 })
                    Walk(shape["items"]!, r => find(r)[0]!, path + "[0]");
                return;
            }
            if (shape["properties"] is not JsonObject properties)
                return;
            foreach (var name in shape["required"]!.AsArray().Select(n => n!.GetValue<string>()))
            {
                var tree = good.DeepClone();
                find(tree).AsObject().Remove(name).ShouldBeTrue($"{path}.{name} is written");
                JobFile.Read(tree.ToJsonString()).Faults.ShouldContain(f => f.Path == (path.Length == 0 ? name : $"{path}.{name}"), name);
            }
            find(good).AsObject().Select(p => p.Key).Except(properties.Select(p => p.Key)).ShouldBeEmpty(path);
            shape["additionalProperties"]!.GetValue<bool>().ShouldBeFalse();
            foreach (var (name, next) in properties)
                if (find(good)[name] is not null)
                    Walk(next!, r => find(r)[name]!, path.Length == 0 ? name : $"{path}.{name}");
        }
        Walk(schema, r => r, "");
    }

    [Fact]
    public async Task A_job_is_taken_in_with_what_stands_and_nothing_leaves_on_it()
    {
        await using var from = shop.Db();
        var (job, _) = JobFile.Read(await JobText(from, 2410));
        await using var there = new EmptyShop();
        await there.InitializeAsync();
        await using var db = there.Db();
        var owner = new Operator { UserName = "o", DisplayName = "O" };
        db.Operators.Add(owner);
        await db.SaveChangesAsync(Cancel);
        var look = await JobTakeIn.PreviewAsync(db, job!, () => Task.FromResult("NEW22"), Cancel);
        (look.Number, look.Tags).ShouldSatisfyAllConditions(
            x => x.Number.ShouldBe(2410),
            x => x.Tags.ShouldBe(job!.Parts.Select(p => p.Tag))
        );
        look.TakeIn(db, new(owner.Id, Role.Operator, DateTimeOffset.UtcNow));
        await db.SaveChangesAsync(Cancel);
        (await JobTakeIn.PreviewAsync(db, job!, () => Task.FromResult("NEW22"), Cancel)).ShouldSatisfyAllConditions(
            x => x.Number.ShouldBe(2411),
            x => x.Tags.ShouldBe(["NEW22", "NEW22"])
        );
        var part = (await db.Parts.Where(p => p.Tag == job!.Parts[0].Tag).WithFactsAsync(db, Cancel)).Single();
        var record = new SurfaceRecord(part.Surfaces[0], part, await db.ShopAsync(Cancel));
        // Cut elsewhere, it begins here with what it is now.
        (record.CutsDone, record.Measuring.Worst!.Value.Millimetres, record.Receiving.Limits!.Discard.Millimetres).ShouldBe(
            (0, 24.171m, 23m)
        );
        record.Measuring.Sizes.ShouldAllBe(r => r.FromFile == true);
        record.Confirming.Judge(readingsAreFit: true).Decision.ShouldBe(Decision.MeasureAgain);
    }

    [Fact]
    public async Task The_whole_shop_goes_into_an_empty_database_and_comes_out_the_same()
    {
        await using var db = shop.Db();
        var archive = await Export(db);
        await using var there = new EmptyShop();
        await there.InitializeAsync();
        await using var other = there.Db();
        var before = await Export(other);
        async Task<IReadOnlyList<FileFault>> Wrong(Stream file)
        {
            await using var fresh = there.Db();
            var (rows, faults) = await ShopArchive.ImportAsync(fresh, file, () => Task.CompletedTask, Cancel);
            rows.ShouldBe(0);
            Rows(await Export(fresh)).ShouldBe(Rows(before)); // nothing half loaded
            return faults;
        }
        int LineOf(string[] lines, string table) =>
            Array.FindIndex(lines, l => l.StartsWith($"{{\"table\":\"{table}\"", StringComparison.Ordinal));
        Stream With(string table, string from, string to) => Changed(archive, lines =>
            {
                lines[LineOf(lines, table)] = lines[LineOf(lines, table)].Replace(from, to, StringComparison.Ordinal);
                return lines;
            });
        var all = Encoding.UTF8.GetString(archive).Split('\n');
        var line = LineOf(all, "readings") + 1;
        (await Wrong(With("readings", "\"insisted\": false", "\"insisted\": \"perhaps\""))).ShouldContain(f =>
            f.Path == $"line {line}" && f.What.StartsWith("readings", StringComparison.Ordinal)
        );
        // nobody of that number
        (await Wrong(With("readings", "\"by_id\": ", "\"by_id\": 99"))).ShouldContain(f => f.Path == $"line {line}");
        (await Wrong(With("readings", "\"insisted\"", "\"insistent\""))).Count.ShouldBe(2); // one that is not known, one that is missing
        (await Wrong(With("readings", "\"cuts\": 0", "\"cuts\": 1"))).ShouldContain(f =>
            f.What.Contains("is not what was stated", StringComparison.Ordinal)
        );
        (await Wrong(Changed(archive, lines => lines.Where((_, i) => i != line - 1)))).ShouldContain(f =>
            f.What.Contains("is gone", StringComparison.Ordinal) || f.What.Contains("violates", StringComparison.Ordinal)
        );
        (await Wrong(new MemoryStream(archive[..(archive.Length / 2)]))).ShouldNotBeEmpty();
        (
            await Wrong(
                new MemoryStream(
                    Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(archive).Replace("24.31", "24.32", StringComparison.Ordinal))
                )
            )
        ).ShouldContain(f => f.What.Contains("hash at the end", StringComparison.Ordinal));
        (await Wrong(new MemoryStream(Encoding.UTF8.GetBytes("vehicle,axle\n")))).ShouldHaveSingleItem().Path.ShouldBe("line 1");
        (await Wrong(Changed(archive, lines => lines.Select(l => l.Replace("\"schema\":\"2", "\"schema\":\"1", StringComparison.Ordinal)))))
            .ShouldHaveSingleItem()
            .What.ShouldContain("another version");

        (await ShopArchive.ImportAsync(other, new MemoryStream(archive), () => Task.CompletedTask, Cancel)).Faults.ShouldBeEmpty();
        await using var now = there.Db();
        Rows(await Export(now)).ShouldBe(Rows(archive));
        (await ChainCheck.OfAllAsync(now, Cancel)).Faults.ShouldBeEmpty();
        // It works on as if nothing had been: new facts get new numbers, rules and logbook are in force, and it is not read in twice.
        var tag = await there.ReadPartAsync();
        (await Logbook.PageAsync(now, new(tag), 0, 5, Cancel)).ShouldSatisfyAllConditions(
            x => x.Count.ShouldBe(1),
            x => x.Lines.ShouldHaveSingleItem().Tag.ShouldBe(tag)
        );
        (await Logbook.PageAsync(now, new(State: "Released"), 0, 500, Cancel)).Lines.ShouldBe(
            (await Logbook.PageAsync(db, new(State: "Released"), 0, 500, Cancel)).Lines
        );
        (
            await Should.ThrowAsync<Npgsql.PostgresException>(() => now.Database.ExecuteSqlRawAsync("delete from readings", Cancel))
        ).SqlState.ShouldBe("UN001");
        (await ShopArchive.ImportAsync(now, new MemoryStream(archive), () => Task.CompletedTask, Cancel))
            .Faults.ShouldHaveSingleItem()
            .Path.ShouldBe("database");
    }

    [Fact]
    public async Task The_logbook_finds_what_a_look_at_every_part_finds_and_its_file_has_all_of_it()
    {
        await using var db = shop.Db();
        var parts = await db
            .Parts.AsNoTracking()
            .Include(p => p.Job)
            .Include(p => p.Outcomes)
                .ThenInclude(o => o.Withdrawal)
            .Where(p => p.Job!.Number < 3000)
            .ToListAsync(Cancel);
        var tom = await db.PersonAsync("tom");
        var today = DateOnly.FromDateTime(DateTime.Now);
        async Task<IEnumerable<string>> Found(LogFilter filter) =>
            (await Logbook.PageAsync(db, filter, 0, 500, Cancel)).Lines.Where(l => l.Job < 3000).Select(l => $"{l.Tag} {l.Visit}").Order();
        IEnumerable<string> Where(Func<Part, bool> holds) => parts.Where(holds).Select(p => $"{p.Tag} {p.Visit}").Order();
        (await Found(new("brindle BAKERY"))).ShouldBe(
            Where(p => p.Job!.Vehicle.Contains("Brindle", StringComparison.Ordinal) && p.Job.Customer == "Harbour bakery")
        );
        (await Found(new("24"))).ShouldBe(
            Where(p => $" {p.Tag} {p.Job!.Vehicle} {p.Job.Customer} {p.Job.Number} {p.Mark}".Contains(" 24", StringComparison.Ordinal))
        ); // short ones at the beginning of a word
        (await Found(new("2419"))).ShouldBe(Where(p => p.Job!.Number == 2419));
        (await Found(new("100%"))).ShouldBeEmpty(); // a percent sign stands for itself
        (await Found(new(State: "here"))).ShouldBe(Where(p => p.Outcome is null));
        (await Found(new(State: "Scrapped"))).ShouldBe(Where(p => p.Outcome?.Kind == OutcomeKind.Scrapped));
        (await Found(new(To: today.AddDays(-100)))).ShouldBe(Where(p => p.Job!.ReceivedAt < DateTimeOffset.Now.AddDays(-100)));
        (await Found(new(Day: "out", From: today))).ShouldBe(
            Where(p => p.Outcome is { } o && o.At.ToLocalTime().Date >= DateTime.Now.Date)
        );
        (await Found(new(By: tom, State: "Shelved"))).ShouldBeEmpty();
        (await Found(new(By: tom))).Count().ShouldBeInRange(5, parts.Count - 1);
        using var caller = shop.Caller();
        (await caller.GetAsync(new Uri("/logbook.csv", UriKind.Relative), Cancel)).RequestMessage!.RequestUri!.AbsolutePath.ShouldBe(
            "/SignIn"
        ); // not for anybody
        var part = (await db.Parts.Where(p => p.Job!.Number == 2419 && p.Corner == Corner.FrontLeft).WithFactsAsync(db, Cancel)).Single();
        var csv = ReadingsCsv.Write([part], await db.ShopAsync(Cancel)).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        csv.Length.ShouldBe(1 + part.Surfaces[0].Readings.Count);
        csv[1].ShouldStartWith($"{part.Tag},1,drum,size,0,0,,229.2350,8 7/8 + 150t,in,");
    }

    [Fact]
    public async Task The_figures_of_the_shop_are_what_the_parts_add_up_to()
    {
        await using var db = shop.Db();
        var since = DateTimeOffset.UtcNow.AddDays(-30);
        var figures = await ShopFigures.SinceAsync(db, since, "UTC", Cancel);
        var surfaces = ((await db.Parts.WithFactsAsync(db, Cancel))).SelectMany(p => p.Surfaces).ToList();
        var cut = surfaces.Where(s => s.Passes.Any(p => p.At >= since)).ToList();
        PlanDocument Plan(PlanEntry plan) => StoredJson.Read<PlanDocument>(plan.Document);
        PlanEntry First(WorkSurface s) => s.Plans.Where(p => s.Passes.Any(x => x.PlanId == p.Id)).MinBy(p => p.Version)!;
        decimal Sum(IEnumerable<Length> lengths) => lengths.Sum(l => l.Millimetres);
        figures.Metal.Sum(m => m.Surfaces).ShouldBe(cut.Count);
        foreach (var way in cut.GroupBy(s => First(s).Technique))
        {
            var said = figures.Metal.Single(m => m.Technique == way.Key);
            said.Taken.ShouldBe(
                way.Sum(s => s.Passes.Sum(p => Sum(Plan(s.Plans.Find(x => x.Id == p.PlanId)!).Option.Passes[p.Index].Depth)))
            );
            said.Needed.ShouldBe(way.Sum(s => Sum(Plan(First(s)).Request.Sides.Select(x => x.Need))));
            said.Minutes.ShouldBe(
                (decimal)way.Sum(s => s.CutStarts.Where(c => c.Stop?.Kind == CutStopKind.Done).Sum(c => (c.Stop!.At - c.At).TotalMinutes)),
                0.001m
            );
            said.PlanHeld.ShouldBe(way.Count(s => s.Passes.Select(p => p.PlanId).Distinct().Count() == 1));
        }
        var mounted = surfaces.Where(s => s.Mounts.Any(m => m.At >= since)).ToList();
        (figures.Lathes.Sum(l => l.Mounted), figures.Lathes.Sum(l => l.MountedAgain)).ShouldBe(
            (mounted.Count, mounted.Count(s => s.Mounts.Count(m => m.At >= since) > 1))
        );
        figures
            .Lathes.Sum(l => l.Surfaces)
            .ShouldBe(surfaces.Count(s => s.CutStarts.Any(c => c.At >= since && c.Stop?.Kind == CutStopKind.Done)));
        figures.Scrap.ShouldHaveSingleItem().ShouldBe(new(ScrapCause.BeyondDiscard, 1));
        figures.Weeks.Where(w => w.Kind == OutcomeKind.Scrapped).Sum(w => w.Parts).ShouldBe(1);
    }
}
