using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Uncial.Data;

/// <summary>
/// The login under which the application works. It may add facts but not change them, nor touch what guards them; the owner's login is used
/// only to open the shop, to bring its tables up to date and for backups.
/// </summary>
public static class AppLogin
{
    public const string Name = "uncial_app";

    /// <summary>Tables that only the database itself writes.</summary>
    private static readonly string[] KeptByTheDatabase = ["chain", "log_lines", "__EFMigrationsHistory"];

    /// <summary>Tables of facts that belong to no part.</summary>
    private static readonly string[] OtherFacts = ["zero_checks", "insert_events", "bins_emptied"];

    /// <summary>The application's connection, from the owner's. Its password follows from the owner's, so that nothing more is to be kept.</summary>
    public static string Of(string owner)
    {
        var builder = new NpgsqlConnectionStringBuilder(owner);
        builder.Password = Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(builder.Password ?? ""), Encoding.UTF8.GetBytes(Name)));
        builder.Username = Name;
        return builder.ConnectionString;
    }

    /// <summary>Makes the login where it is missing, and gives it what it needs in this database and no more.</summary>
    public static async Task GrantAsync(UncialDb owner, CancellationToken cancel = default)
    {
        ArgumentNullException.ThrowIfNull(owner);
        var password = new NpgsqlConnectionStringBuilder(Of(owner.Database.GetConnectionString()!)).Password;
        var facts = Migrations.ChainRules.Facts.Select(f => f.Table).Except(["parts", "surfaces"]).Concat(OtherFacts);
        var sql = $"""
            do $$ begin
                create role {Name} login password '{password}';
            exception when duplicate_object or unique_violation then null;
            end $$;
            grant usage on schema public to {Name};
            revoke create on schema public from public;
            revoke all on all tables in schema public from {Name};
            grant select, insert, update, delete on all tables in schema public to {Name};
            grant usage, select on all sequences in schema public to {Name};
            revoke update, delete on {string.Join(", ", facts)} from {Name};
            revoke delete on parts, surfaces, jobs from {Name};
            revoke insert, update, delete on {string.Join(", ", KeptByTheDatabase.Select(t => $"\"{t}\""))} from {Name};
            """;
#pragma warning disable EF1002 // Names and a password of our own making, hexadecimal.
        await owner.Database.ExecuteSqlRawAsync(sql.Replace("{", "{{", StringComparison.Ordinal).Replace("}", "}}", StringComparison.Ordinal), cancel);
#pragma warning restore EF1002
    }
}
