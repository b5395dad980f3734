using Microsoft.EntityFrameworkCore;
using Uncial.Core.Lengths;
using Uncial.Data;

namespace Uncial.Web.Pages;

/// <summary>Says how start and dial of a bar are understood while they are typed.</summary>
internal static class GaugeEcho
{
    public static void MapGaugeEcho(this IEndpointRouteBuilder app) =>
        app.MapGet("/gauges/{id:int}/echo", async (int id, decimal start, string text, UncialDb db, CancellationToken cancel) =>
            {
                if (await db.Gauges.AsNoTracking().SingleOrDefaultAsync(g => g.Id == id, cancel) is not { Bar: { } bar })
                    return Results.NotFound();
                return Echoes.Of(bar.Write(Length.FromMillimetres(start), text), bar.Unit);
            })
            .ExcludeFromDescription();
}
