using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Uncial.Data;
using Uncial.Web.Board;

namespace Uncial.Testing;

/// <summary>The whole application on a port of its own, with a fresh database on the real PostgreSQL that ./test starts.</summary>
public class RunningShop : WebApplicationFactory<Program>, IAsyncLifetime
{
    private static readonly string Template = Environment.GetEnvironmentVariable("UNCIAL_TEST_DATABASE")
        ?? throw new InvalidOperationException("These tests need PostgreSQL: run ./test.");

    private static readonly SemaphoreSlim Gate = new(1, 1);
    private static readonly Dictionary<bool, string> Ready = [];

    private readonly string database = "test_" + Guid.NewGuid().ToString("N");
    private readonly RunningShop? beside;

    public RunningShop() { }

    /// <summary>Another instance that serves the shop of one that runs already.</summary>
    protected RunningShop(RunningShop beside)
    {
        ArgumentNullException.ThrowIfNull(beside);
        (this.beside, database) = (beside, beside.database);
    }

    protected virtual bool Demo => true;

    /// <summary>What several instances protect their cookies with; null where each has a key of its own.</summary>
    protected virtual string? KeyFile => null;

    /// <summary>The cluster's administrator: what no part of the application holds while it serves.</summary>
    public string Connection => ConnectionTo(database);

    /// <summary>The administrator's connection to a database, which may be missing.</summary>
    public static string ConnectionTo(string database) => Template.Replace("{0}", database, StringComparison.Ordinal) + ";Pooling=false";

    /// <summary>What the serving process holds.</summary>
    public string AppConnection => Logins.ApplicationOf(Connection);

    /// <summary>What practice is served under.</summary>
    public string PracticeConnection => Logins.PracticeOf(Connection);

    public Uri Address { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        if (beside is null)
        {
            await CreateAsync(database, from: await ReadyAsync());
            await Logins.PrepareAsync(Connection, TestContext.Current.CancellationToken);
        }
        UseKestrel(0);
        StartServer();
        Address = ClientOptions.BaseAddress;
        // What the shop keeps of its day by itself is on record before a test begins.
        await Services.GetRequiredService<BoardKeeper>().PlanAsync(TestContext.Current.CancellationToken);
    }

    /// <summary>A database with its tables and its demo data as they are when the shop opens; made once and copied from then on.</summary>
    private async Task<string> ReadyAsync()
    {
        await Gate.WaitAsync(TestContext.Current.CancellationToken);
        try
        {
            if (Ready.TryGetValue(Demo, out var ready))
                return ready;
            await using var first = new FirstShop(Demo);
            await Opening.OpenAsync(first.Connection, Demo, 0, TimeProvider.System, TestContext.Current.CancellationToken);
            return Ready[Demo] = first.database;
        }
        finally
        {
            Gate.Release();
        }
    }

    private static async Task CreateAsync(string database, string from)
    {
        await using var admin = new NpgsqlConnection(ConnectionTo("postgres"));
        await admin.OpenAsync();
        // Whoever is still looking at the one that is copied is shown out.
        var sql =
            $"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{from}'; create database {database} template {from}";
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
        builder.UseSetting("ConnectionStrings:Uncial", AppConnection);
        builder.UseSetting("ConnectionStrings:Practice", PracticeConnection);
        builder.UseSetting("Serilog:MinimumLevel:Override:Microsoft.EntityFrameworkCore.Database.Command", "Fatal");
        builder.UseSetting("Serilog:MinimumLevel:Override:Microsoft.EntityFrameworkCore.Update", "Fatal");
        builder.UseEnvironment("Production");
        if (KeyFile is { } file)
            builder.UseSetting("KeyFile", file);
    }

    /// <summary>A look at the records, and what the pages do in short, under the owner's login.</summary>
    public UncialDb Db() => new(UncialDbOptions.For(Logins.OwnerOf(Connection)));

    /// <summary>Somebody more who signs in here.</summary>
    public async Task<int> AddPersonAsync(string user, string name, string pin, string role)
    {
        await using var db = Db();
        var person = new Operator
        {
            UserName = user,
            DisplayName = name,
            Role = role,
        };
        db.Operators.Add(person);
        await db.SaveChangesAsync(TestContext.Current.CancellationToken);
        await db.Database.ExecuteSqlAsync($"select write_pin({person.Id}, {pin})", TestContext.Current.CancellationToken);
        return person.Id;
    }

    public HttpClient Caller() => new() { BaseAddress = Address };
}

/// <summary>The same without demo data.</summary>
public class EmptyShop : RunningShop
{
    protected override bool Demo => false;
}
