using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using Uncial.Core.Times;
using Uncial.Data;
using Uncial.Web.Text;

namespace Uncial.Web.Hosting;

/// <summary>Marks an endpoint that is no page and writes or reads times.</summary>
internal sealed class WritesTimes;

/// <summary>Sets the time zone and the way of writing dates for the length of a request.</summary>
internal static class ShopTimes
{
    /// <summary>Looks up the time of the shop where the request shows or reads one.</summary>
    public static async Task SetAsync(HttpContext context, RequestDelegate next)
    {
        Pseudo.IsOn = context.RequestServices.GetRequiredService<IConfiguration>().GetValue<bool>("Pseudo");
        if (
            context.GetEndpoint()?.Metadata is { } about
            && (about.GetMetadata<PageActionDescriptor>() ?? (object?)about.GetMetadata<WritesTimes>()) is not null
        )
            Dates.Shop = await TimeAsync(context);
        await next(context);
    }

    private static async Task<ShopTime> TimeAsync(HttpContext context)
    {
        var server = context.RequestServices.GetRequiredService<TimeProvider>().LocalTimeZone;
        // A page that is read has the shop anyway; one that changes something fetches it itself, to be changed.
        if (HttpMethods.IsGet(context.Request.Method) && context.User.Identity is { IsAuthenticated: true })
            return (await context.RequestServices.GetRequiredService<ShopFile>().ShopAsync(context.RequestAborted)).Time(server);
        var shop = await context
            .RequestServices.GetRequiredService<UncialDb>()
            .Shops.Select(s => new { s.TimeZone, s.DateStyle })
            .FirstOrDefaultAsync(context.RequestAborted);
        return ShopTime.Of(shop?.TimeZone, shop?.DateStyle ?? default, server);
    }
}
