using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.ApplicationParts;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Uncial.Core.Workflow;
using Uncial.Data;
using Uncial.Data.Commands;
using Uncial.Data.Exchange;
using Uncial.Data.Integrity;
using Uncial.Data.Model;
using Uncial.Data.Queries;
using Uncial.Data.Storage;
using Uncial.Web.Hosting;

namespace Uncial.PageBench;

/// <summary>The application on a port of its own with the demo shop, and an empty Razor page beside its own pages.</summary>
/// <param name="administrator">Connection of the cluster's administrator to a database, which is made where it is missing.</param>
internal sealed class BenchedShop(string administrator) : WebApplicationFactory<Uncial.Web.Reader>
{
    public async Task<Uri> StartAsync()
    {
        await Opening.OpenAsync(administrator, true, 0, TimeProvider.System);
        UseKestrel(0);
        StartServer();
        return ClientOptions.BaseAddress;
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        ArgumentNullException.ThrowIfNull(builder);
        builder.UseSetting("ConnectionStrings:Uncial", Logins.ApplicationOf(administrator));
        builder.UseSetting("ConnectionStrings:Practice", Logins.PracticeOf(administrator));
        builder.UseSetting("Serilog:MinimumLevel:Default", "Error");
        builder.UseEnvironment("Production");
        builder.ConfigureServices(services =>
            services
                .AddRazorPages()
                .ConfigureApplicationPartManager(manager =>
                    manager.ApplicationParts.Add(new CompiledRazorAssemblyPart(typeof(BenchedShop).Assembly))
                )
        );
    }

    /// <summary>Takes the demo's jobs in again and again until so many parts are in the shop.</summary>
    /// <returns>Parts in the shop now.</returns>
    public async Task<int> FillAsync(int parts)
    {
        var files = new List<JobFile>();
        await using (var db = Db())
        {
            var shop = await db.ShopAsync(default);
            foreach (var number in await db.Jobs.Where(j => j.Parts.Count > 0).OrderBy(j => j.Number).Select(j => j.Number).ToListAsync())
                files.Add(JobFile.Of(await db.JobWithFactsAsync(number, default) ?? throw new InvalidOperationException(), shop));
        }
        for (var i = 0; ; i++)
        {
            await using var db = Db();
            var open = await db.LogLines.CountAsync(l => l.Outcome == null);
            if (open >= parts)
                return open;
            var next = 0;
            var takeIn = await JobTakeIn.PreviewAsync(
                db,
                files[i % files.Count],
                () => Task.FromResult(FormattableString.Invariant($"B{i:000}{next++}")),
                default
            );
            takeIn.TakeIn(db, new(1, Role.Operator, TimeProvider.System.GetUtcNow()));
            await db.SaveChangesAsync();
        }
    }

    private UncialDb Db() => new(UncialDbOptions.For(Logins.OwnerOf(administrator)));
}
