using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Uncial.Data;

namespace Uncial.Web.Tests;

/// <summary>The whole application on a port of its own, with a fresh database on the real PostgreSQL that ./test starts.</summary>
public class RunningShop : WebApplicationFactory<Program>, IAsyncLifetime
{
    private static readonly string Template = Environment.GetEnvironmentVariable("UNCIAL_TEST_DATABASE")
        ?? throw new InvalidOperationException("These tests need PostgreSQL: run ./test.");

    private readonly string database = "test_" + Guid.NewGuid().ToString("N");

    protected virtual bool Demo => true;

    public string Connection => Template.Replace("{0}", database, StringComparison.Ordinal) + ";Pooling=false";

    public Uri Address { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        await using (var admin = new NpgsqlConnection(Template.Replace("{0}", "postgres", StringComparison.Ordinal) + ";Pooling=false"))
        {
            await admin.OpenAsync();
            await using var create = new NpgsqlCommand($"create database {database}", admin);
            await create.ExecuteNonQueryAsync();
        }
        UseKestrel(0);
        StartServer();
        Address = ClientOptions.BaseAddress;
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("ConnectionStrings:Uncial", Connection);
        builder.UseSetting("Demo", Demo.ToString());
        builder.UseSetting("Serilog:MinimumLevel:Override:Microsoft.EntityFrameworkCore.Database.Command", "Fatal");
        builder.UseSetting("Serilog:MinimumLevel:Override:Microsoft.EntityFrameworkCore.Update", "Fatal");
        builder.UseEnvironment("Production");
    }

    public UncialDb Db() => new(UncialDbOptions.For(Connection));

    public HttpClient Caller() => new() { BaseAddress = Address };
}

/// <summary>The same without demo data.</summary>
public class EmptyShop : RunningShop
{
    protected override bool Demo => false;
}
