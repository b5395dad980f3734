using Microsoft.AspNetCore.Antiforgery;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Cutting;
using Uncial.Core.Lengths;
using Uncial.Data;
using Uncial.Data.Commands;
using Uncial.Web.Accounts;
using Uncial.Web.Board;
using Uncial.Web.Devices;

namespace Uncial.Web.Events;

/// <summary>Where the pages listen.</summary>
internal static class NewsFeed
{
    public static void MapNews(this IEndpointRouteBuilder app)
    {
        app.MapGet(
                "/news",
                (
                    int? surface,
                    int[]? gauge,
                    int? lathe,
                    decimal[]? target,
                    CutStage? stage,
                    bool? board,
                    News news,
                    BoardKeeper keeper,
                    IDbContextFactory<UncialDb> shops,
                    Reader reader,
                    HttpContext http,
                    IHostApplicationLifetime life,
                    CancellationToken cancel
                ) =>
                {
                    async Task<long?> NowAsync(CancellationToken until)
                    {
                        if (surface is null)
                            return board == true ? keeper.Shown() : null;
                        await using var db = await shops.CreateDbContextAsync(until);
                        return await db.Surfaces.Where(s => s.Id == surface).Select(s => (long?)s.Turn).SingleOrDefaultAsync(until);
                    }
                    // A page that listens must not hold up the closing of the shop.
                    var until = CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping);
                    http.Response.RegisterForDispose(until);
                    return TypedResults.ServerSentEvents(
                        news.ListenAsync(
                            new(reader.ScreenId, reader.Screen),
                            surface,
                            gauge ?? [],
                            lathe,
                            [.. (target ?? []).Select(Length.FromMillimetres)],
                            stage ?? CutStage.Ready,
                            board ?? false,
                            NowAsync,
                            until.Token
                        )
                    );
                }
            )
            .ExcludeFromDescription();
        // A screen on the wall, where nobody signs in, hears that the day was planned anew, and nothing else.
        app.MapGet(
                "/news/board",
                async (
                    News news,
                    BoardKeeper keeper,
                    PinDesk desk,
                    HttpContext http,
                    IHostApplicationLifetime life,
                    CancellationToken cancel
                ) =>
                {
                    if (!await desk.IsEnrolledAsync(ScreenCookie.Of(http.Request), cancel))
                        return Results.NotFound();
                    var until = CancellationTokenSource.CreateLinkedTokenSource(cancel, life.ApplicationStopping);
                    http.Response.RegisterForDispose(until);
                    return TypedResults.ServerSentEvents(
                        news.ListenAsync(
                            new(0, ""),
                            null,
                            [],
                            null,
                            [],
                            CutStage.Ready,
                            board: true,
                            _ => Task.FromResult(keeper.Shown()),
                            until.Token
                        )
                    );
                }
            )
            .AllowAnonymous()
            .ExcludeFromDescription();
        MapGauges(app);
    }

    /// <summary>What a page answers a gauge.</summary>
    private static void MapGauges(IEndpointRouteBuilder app)
    {
        // Somebody puts the cursor where a gauge sends its figure: the gauge is used at this screen from now on.
        app.MapPost(
                "/gauges/{gauge:int}/takes",
                async (int gauge, HttpContext http, IAntiforgery antiforgery, Reader reader, News news, DeviceOwners owners) =>
                {
                    if (!await antiforgery.IsRequestValidAsync(http))
                        return Results.BadRequest();
                    // The page may listen at another instance.
                    if (owners.IsAlone && !news.IsShownAt(gauge, reader.ScreenId))
                        return Results.NotFound();
                    news.TakeUp(gauge, reader.ScreenId, reader.Screen);
                    return Results.NoContent();
                }
            )
            .ExcludeFromDescription();
        // A page says that it cannot take a reading that it was shown. Taken is answered when the reading is stored, not here.
        app.MapPost(
                "/gauges/{gauge:int}/refuses",
                async (int gauge, HttpContext http, IAntiforgery antiforgery, News news, DeviceRelay relay, CancellationToken cancel) =>
                {
                    if (!await antiforgery.IsRequestValidAsync(http))
                        return Results.BadRequest();
                    var form = await http.Request.ReadFormAsync(cancel);
                    if (form["line"].ToString() is not { Length: > 0 and <= 60 } line)
                        return Results.BadRequest();
                    news.Refuses(gauge, line);
                    await relay.RefuseAsync(gauge, line, cancel);
                    return Results.NoContent();
                }
            )
            .ExcludeFromDescription();
    }
}
