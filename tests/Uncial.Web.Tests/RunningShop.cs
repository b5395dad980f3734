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

    private static readonly SemaphoreSlim Gate = new(1, 1);
    private static readonly Dictionary<bool, string> Ready = [];

    private readonly string database = "test_" + Guid.NewGuid().ToString("N");

    protected virtual bool Demo => true;

    public string Connection => Template.Replace("{0}", database, StringComparison.Ordinal) + ";Pooling=false";

    public Uri Address { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        await CreateAsync(database, from: await ReadyAsync());
        UseKestrel(0);
        StartServer();
        Address = ClientOptions.BaseAddress;
    }

    /// <summary>A database with its tables and its demo data as they are when the shop opens; made once and copied from then on.</summary>
    private async Task<string> ReadyAsync()
    {
        await Gate.WaitAsync(TestContext.Current.CancellationToken);
        try
        {
            if (Ready.TryGetValue(Demo, out var ready)) return ready;
            await using var first = new FirstShop(Demo);
            await CreateAsync(first.database, from: null);
            first.UseKestrel(0);
            first.StartServer();
            return Ready[Demo] = first.database;
        }
        finally
        {
            Gate.Release();
        }
    }

    private static async Task CreateAsync(string database, string? from)
    {
        await using var admin = new NpgsqlConnection(Template.Replace("{0}", "postgres", StringComparison.Ordinal) + ";Pooling=false");
        await admin.OpenAsync();
        // Whoever is still looking at the one that is copied is shown out.
        var sql = from is null ? $"create database {database}" : $"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{from}'; create database {database} template {from}";
        foreach (var statement in sql.Split("; "))
        {
            await using var command = new NpgsqlCommand(statement, admin);
            await command.ExecuteNonQueryAsync();
        }
    }

    private sealed class FirstShop(bool demo) : RunningShop
    {
        protected override bool Demo => demo;
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
