using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Uncial.Data.Integrity;

/// <summary>
/// Functions, triggers, constraints, grants and owners as this program puts them in place, against those that are there: what differs was
/// changed behind its back. The expected ones are described in guards.tsv, made from a new database by <c>guards</c> (see
/// docs/security.md).
/// </summary>
public static class GuardDigest
{
    private const string Sql = """
        select 'function ' || p.oid::regprocedure::text
            as name, md5(pg_get_functiondef(p.oid) || coalesce((select string_agg(a::text, ',' order by a::text) from unnest(p.proacl) a),
            '') || pg_get_userbyid(p.proowner)) as digest
            from pg_proc p join pg_namespace n on n.oid = p.pronamespace where n.nspname = 'public'
                and not exists (select 1 from pg_depend d where d.objid = p.oid and d.deptype = 'e')
        union all select 'trigger ' || t.tgname || ' of ' || t.tgrelid::regclass::text, md5(pg_get_triggerdef(t.oid) || t.tgenabled::text)
            from pg_trigger t join pg_class c on c.oid = t.tgrelid join pg_namespace n on n.oid = c.relnamespace
                where n.nspname = 'public' and not t.tgisinternal
        union all select 'key ' || c.conname || ' of ' || c.conrelid::regclass::text,
            md5(pg_get_constraintdef(c.oid) || c.convalidated::text) from pg_constraint c where c.connamespace = 'public'::regnamespace
            and c.contype in ('c', 'f', 'p', 'u', 'x')
        union all select 'index ' || i.indexname, md5(i.indexdef) from pg_indexes i where i.schemaname = 'public'
        union all select 'rights of ' || c.relname,
            md5(coalesce((select string_agg(a::text, ',' order by a::text) from unnest(c.relacl) a), '') || pg_get_userbyid(c.relowner)
                || coalesce((select string_agg(a.attname || ':' || coalesce(a.attacl::text, ''), ',' order by a.attname)
                    from pg_attribute a where a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped), ''))
            from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public'
                and c.relkind in ('r', 'p', 'v', 'm', 'S')
        union all select 'rule ' || r.rulename || ' of ' || r.ev_class::regclass::text, 'x' from pg_rewrite r
            join pg_class c on c.oid = r.ev_class join pg_namespace n on n.oid = c.relnamespace where n.nspname = 'public'
        union all select 'event trigger ' || evtname, 'x' from pg_event_trigger
        union all select 'login ' || rolname, md5(concat_ws(',', rolsuper, rolinherit, rolcreaterole, rolcreatedb, rolcanlogin,
            rolreplication, rolbypassrls)) from pg_roles where rolname in ('uncial_app', 'uncial_owner')
        union all select 'member ' || pg_get_userbyid(m.member) || ' of ' || pg_get_userbyid(m.roleid), 'x' from pg_auth_members m
            where pg_get_userbyid(m.member) in ('uncial_app', 'uncial_owner')
        union all select 'schema public', md5(coalesce(nspacl::text, '')) from pg_namespace where nspname = 'public'
        union all select 'row security of ' || c.relname, 'x' from pg_class c join pg_namespace n on n.oid = c.relnamespace
            where n.nspname = 'public' and (c.relrowsecurity or c.relforcerowsecurity)
        union all select 'temporary tables of the application', 'x'
            where has_database_privilege('uncial_app', current_database(), 'temporary')
            or has_database_privilege('uncial_app', current_database(), 'create')
        """;

    /// <summary>What differs from what this program puts in place; none where all is as it should be.</summary>
    public static async Task<IReadOnlyList<string>> CheckAsync(UncialDb owner, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(owner);
        await owner.Database.OpenConnectionAsync(cancel);
        try
        {
            var connection = (NpgsqlConnection)owner.Database.GetDbConnection();
            var now = await ReadAsync(connection, cancel);
            var known = await ShippedAsync(cancel);
            return
            [
                .. now.Where(n => !known.ContainsKey(n.Key)).Select(n => $"{n.Key} is none of this program's"),
                .. known.Where(k => !now.ContainsKey(k.Key)).Select(k => $"{k.Key} is gone"),
                .. now.Where(n => known.TryGetValue(n.Key, out var digest) && digest != n.Value)
                    .Select(n => $"{n.Key} is not what this program puts in place"),
            ];
        }
        finally
        {
            await owner.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Name and digest of everything that guards, of a database made from nothing by this program.</summary>
    public static async Task<string> DescribeAsync(UncialDb owner, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(owner);
        await owner.Database.OpenConnectionAsync(cancel);
        try
        {
            return string.Join(
                    '\n',
                    (await ReadAsync((NpgsqlConnection)owner.Database.GetDbConnection(), cancel))
                        .OrderBy(d => d.Key, StringComparer.Ordinal)
                        .Select(d => d.Key + "\t" + d.Value)
                ) + "\n";
        }
        finally
        {
            await owner.Database.CloseConnectionAsync();
        }
    }

    /// <summary>The description that ships with this program.</summary>
    private static async Task<Dictionary<string, string>> ShippedAsync(CancellationToken cancel)
    {
        await using var stream = typeof(GuardDigest).Assembly.GetManifestResourceStream("Uncial.Data.Integrity.guards.tsv");
        if (stream is null)
            throw new InvalidOperationException("Integrity/Checks/guards.tsv is not embedded.");
        using var reader = new StreamReader(stream);
        return (await reader.ReadToEndAsync(cancel))
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => l.Split('\t'))
            .ToDictionary(l => l[0], l => l[1]);
    }

    private static async Task<Dictionary<string, string>> ReadAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(Sql, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var all = new Dictionary<string, string>();
        while (await reader.ReadAsync(cancel))
            all[reader.GetString(0)] = reader.GetString(1);
        return all;
    }
}
