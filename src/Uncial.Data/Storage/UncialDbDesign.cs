using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;
using Npgsql.EntityFrameworkCore.PostgreSQL.Infrastructure;

namespace Uncial.Data.Storage;

/// <summary>Lets the migration tool make a context without a server.</summary>
public class UncialDbDesign : IDesignTimeDbContextFactory<UncialDb>
{
    public UncialDb CreateDbContext(string[] args) => new(UncialDbOptions.For("Host=127.0.0.1;Database=design"));
}

/// <summary>How the database is spoken to, in one place.</summary>
public static class UncialDbOptions
{
    public static DbContextOptions<UncialDb> For(string connection)
    {
        var builder = new DbContextOptionsBuilder<UncialDb>();
        Use(builder, connection);
        return builder.Options;
    }

    /// <summary>A connection as the application uses it everywhere, so that all share one pool.</summary>
    public static string Prepared(string connection)
    {
        var prepared = new NpgsqlConnectionStringBuilder(connection) { MaxAutoPrepare = MostPrepared };
        if (!new System.Data.Common.DbConnectionStringBuilder { ConnectionString = connection }.ContainsKey("Maximum Pool Size"))
            prepared.MaxPoolSize = MostConnections;
        return prepared.ConnectionString;
    }

    /// <summary>
    /// Connections of one instance to the shop's tables, where its connection string gives no other number. More requests than that at
    /// once wait for one another, which is sooner done than a database that has refused them (docs/operations.md counts them).
    /// </summary>
    public const int MostConnections = 32;

    /// <summary>Statements that each connection keeps prepared, so that the database plans them once.</summary>
    private const int MostPrepared = 200;

    public static DbContextOptionsBuilder Use(
        DbContextOptionsBuilder builder,
        string connection,
        Action<NpgsqlDbContextOptionsBuilder>? more = null
    ) =>
        builder
            .UseNpgsql(Prepared(connection), more)
            .UseSnakeCaseNamingConvention()
            // Base classes of rows are left out on purpose: see UncialDb.
            .ConfigureWarnings(warnings => warnings.Ignore(CoreEventId.MappedEntityTypeIgnoredWarning));
}
