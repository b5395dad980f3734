using System.Globalization;
using CsvHelper;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Uncial.Core.Vehicles;
using Uncial.Data;
using Uncial.Data.Queries;
using Uncial.Web.Hosting;
using Uncial.Web.Text;

namespace Uncial.Web.Pages;

/// <summary>The shelf: spares that were shelved and lie there still.</summary>
public class ShelfModel(UncialDb db, ShopFile shop) : PageModel
{
    public IReadOnlyList<OnShelf> Parts { get; private set; } = [];

    /// <summary>The other part of its axle that lies there with it; null for a single one.</summary>
    public OnShelf? With(OnShelf part) => part?.Stock?.ShelvedWith is { } other ? Parts.FirstOrDefault(p => p.Stock?.Id == other) : null;

    public async Task OnGetAsync(CancellationToken cancel)
    {
        ViewData["Title"] = Words.Say("title.shelf");
        ViewData["At"] = "logbook";
        Parts = await db.OnShelfAsync(await shop.ShopAsync(cancel), cancel);
        ViewData["Sub"] = Parts.Count == 1 ? Words.Say("shelf.onePart") : Words.Say("shelf.parts", Parts.Count);
    }
}

/// <summary>Words for what fits.</summary>
internal static class ShelfWords
{
    /// <summary>Why it fits, and what has to be looked at before it is fitted.</summary>
    public static string Of(ShelfOffer offer)
    {
        ArgumentNullException.ThrowIfNull(offer);
        List<string> unknown = [.. offer.Unknown.Select(d => Words.Say("fitDimension." + d))];
        if (offer.StudsUnknown)
            unknown.Add(Words.Say("shelf.studs"));
        List<string> says = [Words.Say(offer.SameEntry ? "shelf.sameEntry" : "shelf.byDimensions")];
        if (offer.Parts.Any(p => !p.IsConfirmed))
            says.Insert(0, Words.Say("shelf.notConfirmed"));
        says.Add(unknown.Count == 0 ? Words.Say("shelf.allKnown") : Words.Say("shelf.notKnown", string.Join(", ", unknown)));
        return string.Join(' ', says);
    }
}

/// <summary>The shelf as a file.</summary>
internal static class ShelfFile
{
    public static void MapShelfFile(this IEndpointRouteBuilder app) =>
        app.MapGet("/shelf.csv", async (UncialDb db, ShopFile shop, CancellationToken cancel) =>
            {
                var parts = await db.OnShelfAsync(await shop.ShopAsync(cancel), cancel);
                return TypedResults.Stream(stream => WriteAsync(stream, parts, cancel), "text/csv; charset=utf-8", "shelf.csv");
            })
            .WithMetadata(new WritesTimes())
            .ExcludeFromDescription();

    private static async Task WriteAsync(Stream to, IReadOnlyList<OnShelf> parts, CancellationToken cancel)
    {
        await using var text = new StreamWriter(to, leaveOpen: true);
        await using var csv = new CsvWriter(
            text,
            new CsvHelper.Configuration.CsvConfiguration(CultureInfo.InvariantCulture)
            {
                InjectionOptions = CsvHelper.Configuration.InjectionOptions.Escape,
            }
        );
        foreach (
            var head in new[] { "tag", "kind", "corner", "from", "size_mm", "discard_mm", "left_mm", "place", "preservative", "shelved" }
        )
            csv.WriteField(head);
        foreach (var part in parts)
        {
            await csv.NextRecordAsync();
            csv.WriteField(part.Part.Tag);
            csv.WriteField(part.Record.Kind);
            csv.WriteField(part.Part.Corner);
            csv.WriteField(part.Part.Job!.Vehicle);
            csv.WriteField(part.Stock?.Size.Millimetres);
            csv.WriteField(part.Stock?.Discard.Millimetres);
            csv.WriteField(part.Stock?.Left.Millimetres);
            csv.WriteField(part.Shelved.Place);
            csv.WriteField(part.Shelved.Preservative);
            csv.WriteField(part.Shelved.At.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture));
        }
        await csv.NextRecordAsync();
        cancel.ThrowIfCancellationRequested();
    }
}
