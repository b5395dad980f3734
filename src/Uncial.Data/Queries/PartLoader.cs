using System.Data.Common;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;

namespace Uncial.Data.Queries;

/// <summary>
/// Loads parts with every fact in one statement, and so in one snapshot and one round trip whatever their number: each row comes as JSON
/// with the
/// place of its table in the statement, and EF Core joins the rows by their keys as it does with those of its own queries.
/// </summary>
internal static class PartLoader
{
    /// <summary>A table of the statement: which of its rows are taken, and how one is put into a context.</summary>
    private sealed record Source(string Rows, bool WithNames, Func<UncialDb, byte[], object> Put);

    private static (IReadOnlyList<Source> Sources, string Facts, string FactsAndNames)? known;

    /// <summary>Loads the parts that a condition names.</summary>
    /// <param name="db">The database; it tracks the rows where <paramref name="track"/> says so.</param>
    /// <param name="which">Condition on <c>parts p</c> in SQL, with <c>$1</c> and so on for the parameters.</param>
    /// <param name="parameters">Their values.</param>
    /// <param name="names">Also the names of those who stated the facts, signatures, certificates with their prints, and chatter.</param>
    /// <param name="track">The rows are to be changed or added to.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>The parts in the order of their keys.</returns>
    public static async Task<List<Part>> LoadAsync(
        UncialDb db,
        string which,
        IReadOnlyList<object?> parameters,
        bool names,
        bool track,
        CancellationToken cancel
    )
    {
        var (sources, facts, factsAndNames) = known ??= Describe(db.Model);
        List<(int Source, byte[] Row)> rows = [];
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = new NpgsqlCommand(
                $"with p as materialized (select p.* from parts p where {which}), {(names ? factsAndNames : facts)}",
                (NpgsqlConnection)db.Database.GetDbConnection(),
                (NpgsqlTransaction?)db.Database.CurrentTransaction?.GetDbTransaction()
            );
            foreach (var value in parameters)
                command.Parameters.Add(new() { Value = value ?? DBNull.Value });
            await using DbDataReader reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
                rows.Add((reader.GetInt32(0), reader.GetFieldValue<byte[]>(1)));
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
        // Rows that nobody changes are joined by a context that is thrown away.
        await using var joining = track ? null : db.Sibling();
        var into = joining ?? db;
        var detects = into.ChangeTracker.AutoDetectChangesEnabled;
        into.ChangeTracker.AutoDetectChangesEnabled = false;
        var parts = new List<Part>();
        foreach (var (source, row) in rows)
            if (sources[source].Put(into, row) is Part part)
                parts.Add(part);
        into.ChangeTracker.AutoDetectChangesEnabled = detects;
        foreach (var part in parts)
            part.Surfaces.Sort((one, other) => one.Id.CompareTo(other.Id));
        parts.Sort((one, other) => one.Id.CompareTo(other.Id));
        return parts;
    }

    private static (IReadOnlyList<Source>, string, string) Describe(IModel model)
    {
        List<Source> sources =
        [
            Of<Operator, int>(model, o => o.Id, "operators f", names: true),
            Of<Job, int>(model, j => j.Id, "jobs f where f.id = any(array(select job_id from p))"),
            Of<Part, int>(model, p => p.Id, "p f"),
            Of<WorkSurface, int>(model, s => s.Id, "s f"),
            Of<Signature, long>(model, f => f.Id, "signatures f where f.part_id = any(array(select id from p))", names: true),
            Of<LimitEntry, long>(model, f => f.Id, OfSurface("limit_entries")),
            Of<LimitSettlement, long>(model, f => f.Id, OfSurface("limit_settlements")),
            Of<Finding, long>(model, f => f.Id, OfSurface("findings")),
            Of<FindingWithdrawal, long>(
                model,
                f => f.Id,
                "finding_withdrawals f where f.finding_id = any(array(select x.id from findings x where x.surface_id = "
                    + "any(array(select id from s))))"
            ),
            Of<ReadingEntry, long>(model, f => f.Id, "r f"),
            Of<Withdrawal, long>(model, f => f.Id, "withdrawals f where f.reading_id = any(array(select id from r))"),
            Of<ReadingFlag, long>(model, f => f.Id, "reading_flags f where f.reading_id = any(array(select id from r))"),
            Of<MountEntry, long>(model, f => f.Id, OfSurface("mounts")),
            Of<SetUpEntry, long>(model, f => f.Id, OfSurface("set_up_checks")),
            Of<SetUpDecision, long>(model, f => f.Id, OfSurface("set_up_decisions")),
            Of<PlanEntry, long>(model, f => f.Id, OfSurface("plans")),
            Of<PassEntry, long>(model, f => f.Id, OfSurface("passes")),
            Of<CutStart, long>(model, f => f.Id, OfSurface("cut_starts")),
            Of<CutStop, long>(
                model,
                f => f.Id,
                "cut_stops f where f.start_id = any(array(select x.id from cut_starts x where x.surface_id = any(array(select id from s))))"
            ),
            Of<FinishEntry, long>(model, f => f.Id, OfSurface("finishes")),
            Of<ChatterEntry, long>(model, f => f.Id, OfSurface("chatters"), names: true),
            Of<Confirmation, long>(model, f => f.Id, OfSurface("confirmations")),
            Of<Outcome, long>(model, f => f.Id, "o f"),
            Of<OutcomeWithdrawal, long>(model, f => f.Id, "outcome_withdrawals f where f.outcome_id = any(array(select id from o))"),
            Of<Certificate, long>(model, f => f.Id, "certificates f where f.outcome_id = any(array(select id from o))", names: true),
            Of<PrintEntry, long>(
                model,
                f => f.Id,
                "prints f where f.certificate_id = any(array(select x.id from certificates x where x.outcome_id = any(array(select "
                    + "id from o))))",
                names: true
            ),
        ];
        return (sources, Statement(sources, names: false), Statement(sources, names: true));
    }

    private static string OfSurface(string table) => table + " f where f.surface_id = any(array(select id from s))";

    /// <summary>
    /// Everything after the parts. Arrays of keys, not joins, so that the tables are read by their indexes whatever the planner guesses.
    /// </summary>
    private static string Statement(IReadOnlyList<Source> sources, bool names)
    {
        var sql = new StringBuilder(
            """
            s as materialized (select s.* from surfaces s where s.part_id = any(array(select id from p))),
            r as materialized (select r.* from readings r where r.surface_id = any(array(select id from s))),
            o as materialized (select o.* from outcomes o where o.part_id = any(array(select id from p)))
            """
        );
        var first = true;
        for (var i = 0; i < sources.Count; i++)
        {
            if (sources[i].WithNames && !names)
                continue;
            sql.Append(first ? "\n" : "\nunion all ")
                .Append(System.Globalization.CultureInfo.InvariantCulture, $"select {i}, to_json(t) from (select {sources[i].Rows}) t");
            first = false;
        }
        return sql.ToString();
    }

    private static Source Of<T, TKey>(IModel model, Func<T, TKey> key, string from, bool names = false)
        where T : class
        where TKey : notnull
    {
        var options = RowJson.OptionsOf(model);
        var columns = model.FindEntityType(typeof(T))!.GetProperties().Select(p => $"f.\"{p.GetColumnName()}\"");
        return new($"{string.Join(", ", columns)} from {from}", names, (db, json) =>
        {
            var row = JsonSerializer.Deserialize<T>(json, options)!;
            // One that this context knows already keeps what it holds, as with any query.
            if (db.Set<T>().Local.FindEntry(key(row)) is { } entry)
                return entry.Entity;
            db.Entry(row).State = EntityState.Unchanged;
            return row;
        });
    }
}
