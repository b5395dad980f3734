using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Uncial.Data;
using Uncial.Data.Demo;

namespace Uncial.Web;

/// <summary>Opens the shop in the morning: migrations, roles, the shop's row, and the demo data once.</summary>
internal static class Opening
{
    public static async Task OpenAsync(IServiceProvider services, string owner, bool demo)
    {
        await using (var opening = new UncialDb(UncialDbOptions.For(owner)))
        {
            await opening.Database.MigrateAsync();
            await AppLogin.GrantAsync(opening);
        }
        var db = services.GetRequiredService<UncialDb>();
        var roles = services.GetRequiredService<RoleManager<IdentityRole<int>>>();
        foreach (var role in new[] { Roles.Operator, Roles.Lead, Roles.Owner })
            if (!await roles.RoleExistsAsync(role)) await roles.CreateAsync(new(role));

        var shop = await db.Shops.Include(s => s.Gauges).Include(s => s.Lathes).Include(s => s.Board).SingleOrDefaultAsync();
        if (shop is null)
        {
            shop = Shop.New("The workshop");
            db.Shops.Add(shop);
            await db.SaveChangesAsync();
        }
        var operators = services.GetRequiredService<UserManager<Operator>>();
        var page = services.GetRequiredService<IConfiguration>().GetValue("StandIns", 0);
        if (demo && !await operators.Users.AnyAsync())
            await DemoShop.LoadAsync(db, operators, shop, services.GetRequiredService<TimeProvider>().GetUtcNow(), past: page > 0);
        if (demo && shop.HasDemoData && page > 0)
            await DemoShop.ListenToStandInsAsync(db, page);
    }
}
