using System.Security.Cryptography;
using System.Text;
using Npgsql;

namespace Uncial.Data.Integrity;

/// <summary>
/// The logins of a cluster of our own. The administrator is its superuser and makes the others; the owner owns the tables and opens the
/// shop; the application serves the shop, and practice is served under a login that reaches nothing of it. Only these two are ever held by
/// the serving process.
/// </summary>
public static class Logins
{
    public const string Owner = "uncial_owner";
    public const string Application = "uncial_app";

    /// <summary>What practice is reached under: nothing but its own schema.</summary>
    public const string Practice = "uncial_practice";

    /// <summary>The owner's connection, from the administrator's.</summary>
    public static string OwnerOf(string administrator) => Of(administrator, Owner);

    /// <summary>The application's connection, from the administrator's.</summary>
    public static string ApplicationOf(string administrator) => Of(administrator, Application);

    /// <summary>The connection of practice, from the administrator's.</summary>
    public static string PracticeOf(string administrator) => Of(administrator, Practice);

    /// <summary>A password follows from the administrator's and the login's name, and leads back to neither.</summary>
    private static string Of(string administrator, string login)
    {
        var builder = new NpgsqlConnectionStringBuilder(administrator);
        builder.Password = Convert.ToHexStringLower(
            HMACSHA256.HashData(Encoding.UTF8.GetBytes(builder.Password ?? ""), Encoding.UTF8.GetBytes(login))
        );
        builder.Username = login;
        return builder.ConnectionString;
    }

    /// <summary>
    /// Makes the database and the logins where they are missing, and hands everything in the database to the owner. Needs the
    /// administrator.
    /// </summary>
    public static async Task PrepareAsync(string administrator, CancellationToken cancel = default)
    {
        var database = new NpgsqlConnectionStringBuilder(administrator).Database!;
        await using (
            var cluster = new NpgsqlConnection(
                new NpgsqlConnectionStringBuilder(administrator) { Database = "postgres", Pooling = false }.ConnectionString
            )
        )
        {
            await cluster.OpenAsync(cancel);
            foreach (var login in new[] { Owner, Application, Practice })
            {
                var password = new NpgsqlConnectionStringBuilder(Of(administrator, login)).Password;
                // Two that open at once make them once. An administrator who is no superuser acts for the owner as its member.
                await RunAsync(
                    cluster,
                    $"""
                    do $$ begin
                        perform pg_advisory_lock(8214906354);
                        create role {login} login nosuperuser nocreatedb nocreaterole noreplication nobypassrls password '{password}';
                    exception when duplicate_object or unique_violation then null;
                    end $$;
                    do $$ begin
                        if '{login}' = '{Owner}' and not pg_has_role(current_user, '{Owner}', 'member') then
                            grant {Owner} to current_user;
                        end if;
                    end $$;
                    select pg_advisory_unlock(8214906354);
                    """,
                    cancel
                );
            }
            var quoted = "\"" + database.Replace("\"", "\"\"", StringComparison.Ordinal) + "\"";
            await using var known = new NpgsqlCommand("select 1 from pg_database where datname = $1", cluster)
            {
                Parameters = { new() { Value = database } },
            };
            if (await known.ExecuteScalarAsync(cancel) is null)
                await RunAsync(cluster, $"create database {quoted} owner {Owner}", cancel);
            await RunAsync(cluster, $"alter database {quoted} owner to {Owner}", cancel);
        }
        await using var connection = new NpgsqlConnection(
            new NpgsqlConnectionStringBuilder(administrator) { Pooling = false }.ConnectionString
        );
        await connection.OpenAsync(cancel);
        await RunAsync(connection, await IntegritySql.ReadAsync("ownership"), cancel);
    }

    /// <summary>
    /// Gives the logins the passwords that follow from the administrator's, where they have others: the administrator of a database
    /// elsewhere has got another password.
    /// </summary>
    public static async Task RenewAsync(string administrator, CancellationToken cancel = default)
    {
        foreach (var login in new[] { Owner, Application, Practice })
        {
            var of = new NpgsqlConnectionStringBuilder(Of(administrator, login)) { Pooling = false };
            try
            {
                await using var known = new NpgsqlConnection(of.ConnectionString);
                await known.OpenAsync(cancel);
            }
            catch (PostgresException e) when (e.SqlState == PostgresErrorCodes.InvalidPassword)
            {
                await using var connection = new NpgsqlConnection(
                    new NpgsqlConnectionStringBuilder(administrator) { Pooling = false }.ConnectionString
                );
                await connection.OpenAsync(cancel);
                await RunAsync(connection, $"alter role {login} password '{of.Password}'", cancel);
            }
        }
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
