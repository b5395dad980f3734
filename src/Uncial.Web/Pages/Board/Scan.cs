using Uncial.Core.Parts;
using Uncial.Data;

namespace Uncial.Web.Pages;

/// <summary>Says where a scanned code leads: the tag of a part to its station, the code of a certificate to its proof.</summary>
internal static class Scan
{
    private const int LongestCode = 200;

    public static void MapScan(this IEndpointRouteBuilder app) =>
        app.MapGet("/scan", async (string code, UncialDb db, ShopFile shop, CancellationToken cancel) =>
            {
                // A code on paper holds an address: what counts is its end.
                var text = code.Trim().TrimEnd('/').Split('/')[^1];
                if (text.Length == 0 || code.Length > LongestCode)
                    return Results.NotFound();
                if (await shop.PartAsync(text, cancel) is { } part)
                    return Results.Json(new { href = await HrefOfAsync(part, shop, cancel) });
                return await CertificateStore.FindAsync(db, text, cancel) is not null
                    ? Results.Json(new { href = $"/proof/{Uri.EscapeDataString(text)}" })
                    : Results.NotFound();
            })
            .ExcludeFromDescription();

    /// <summary>The station at which a part is worked on next; of several surfaces the one that is farthest behind. Its history once it
    /// has left.</summary>
    private static async Task<string> HrefOfAsync(Part part, ShopFile shop, CancellationToken cancel)
    {
        if (part.Outcome is not null)
            return $"/part/{part.Tag}";
        var settings = await shop.ShopAsync(cancel);
        var (record, number) = part
            .Surfaces.Select((s, i) => (Record: new SurfaceRecord(s, part, settings), Number: i + 1))
            .MinBy(s => s.Record.Station);
        return record.Inspection.End is not null ? $"/look/{part.Tag}/{number}" : RailView.Href(record, number, record.Station);
    }
}
