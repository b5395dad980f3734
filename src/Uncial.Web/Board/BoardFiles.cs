using System.Globalization;
using CsvHelper;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Uncial.Core.Scheduling;
using Uncial.Web.Hosting;
using Uncial.Web.Network;
using Uncial.Web.Text;

namespace Uncial.Web.Board;

/// <summary>The board as files: promised and likely times as a calendar (RFC 5545), every step as CSV.</summary>
internal static class BoardFiles
{
    /// <summary>A promise takes so long in a calendar.</summary>
    private static readonly Duration Shown = Duration.FromMinutes(15);

    public static void MapBoardFiles(this IEndpointRouteBuilder app)
    {
        app.MapGet(
                "/board.ics",
                async (BoardKeeper keeper, ShopFile file, ShopAddress address, HttpContext http, CancellationToken cancel) =>
                    Results.File(
                        System.Text.Encoding.UTF8.GetBytes(
                            CalendarOf(
                                await keeper.NowAsync(cancel),
                                new Uri(address.Of(await file.ShopAsync(cancel), http.Request)).Authority
                            )
                        ),
                        "text/calendar; charset=utf-8",
                        "board.ics"
                    )
            )
            .WithMetadata(new WritesTimes())
            .ExcludeFromDescription();
        app.MapGet("/board.csv", async (BoardKeeper keeper, CancellationToken cancel) =>
                Results.File(
                    System.Text.Encoding.UTF8.GetBytes(await CsvOfAsync(await keeper.NowAsync(cancel))),
                    "text/csv; charset=utf-8",
                    "board.csv"
                )
            )
            .WithMetadata(new WritesTimes())
            .ExcludeFromDescription();
    }

    /// <summary>
    /// Promised and likely times of the jobs in the shop; times are in UTC, so that every calendar shows them in its own zone.
    /// </summary>
    public static string CalendarOf(BoardNow now, string host)
    {
        ArgumentNullException.ThrowIfNull(now);
        var calendar = new Ical.Net.Calendar { ProductId = "-//Uncial//Board//EN", Method = "PUBLISH" };
        foreach (var job in now.At.Bench.Parts.Select(p => p.Part.Job!).DistinctBy(j => j.Id).OrderBy(j => j.Number))
        {
            var range = now.Plan.Ready.GetValueOrDefault(job.Id);
            var stands =
                now.Plan.Day.HeldJobs.Contains(job.Id) ? Words.Say("board.state.waits")
                : now.Plan.PromiseOf(job.Id) is { } state ? Words.Say("board.state." + state)
                : null;
            if (job.PromisedAt is { } promised)
                Add("promised", promised, Words.Say("board.icsPromised", job.Number, job.Vehicle));
            // Without what waits for a decision there is no time to give.
            if (range is not null && !now.Plan.Day.HeldJobs.Contains(job.Id))
                Add("likely", range.Likely, Words.Say("board.icsLikely", job.Number, job.Vehicle));

            void Add(string kind, DateTimeOffset at, string summary) =>
                calendar.Events.Add(
                    new CalendarEvent
                    {
                        Uid = string.Create(CultureInfo.InvariantCulture, $"{job.Number}-{kind}@{host}"),
                        Summary = summary,
                        Description = stands,
                        DtStamp = new CalDateTime(now.Plan.Day.Plan.Now.UtcDateTime, "UTC"),
                        Start = new CalDateTime(at.UtcDateTime, "UTC"),
                        Duration = Shown,
                    }
                );
        }
        return new CalendarSerializer().SerializeToString(calendar) ?? "";
    }

    /// <summary>Every step that is to come, in the order of the times.</summary>
    private static async Task<string> CsvOfAsync(BoardNow now)
    {
        await using var text = new StringWriter(CultureInfo.InvariantCulture);
        await using var csv = new CsvWriter(
            text,
            new CsvHelper.Configuration.CsvConfiguration(CultureInfo.InvariantCulture)
            {
                InjectionOptions = CsvHelper.Configuration.InjectionOptions.Escape,
            }
        );
        foreach (
            var head in new[] { "from", "to", "step", "lathe", "operator", "tag", "corner", "job", "vehicle", "change_over_min", "promise" }
        )
            csv.WriteField(head);
        await csv.NextRecordAsync();
        var surfaces = now.At.Bench.Parts.SelectMany(p => p.Surfaces).ToDictionary(s => s.Surface.Id);
        foreach (var step in now.Plan.Board.Steps)
        {
            var record = surfaces[step.WorkId];
            var job = record.Part.Job!;
            csv.WriteField(step.From.ToString("yyyy-MM-dd'T'HH:mmzzz", CultureInfo.InvariantCulture));
            csv.WriteField(step.To.ToString("yyyy-MM-dd'T'HH:mmzzz", CultureInfo.InvariantCulture));
            csv.WriteField(step.Step);
            csv.WriteField(step.LatheId is { } lathe ? now.At.Shop.Lathes.First(l => l.Id == lathe).Profile.Name : "");
            csv.WriteField(now.At.People.GetValueOrDefault(step.OperatorId));
            csv.WriteField(record.Part.Tag);
            csv.WriteField(record.Part.Corner);
            csv.WriteField(job.Number);
            csv.WriteField(job.Vehicle);
            csv.WriteField(step.ChangeOver);
            csv.WriteField(now.Plan.PromiseOf(job.Id));
            await csv.NextRecordAsync();
        }
        await csv.FlushAsync();
        return text.ToString();
    }
}
