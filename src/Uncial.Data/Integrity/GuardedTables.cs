namespace Uncial.Data.Integrity;

/// <summary>How a table is guarded.</summary>
public enum GuardKind
{
    /// <summary>Facts of a part: numbered, chained, never changed; none is added once the part has left.</summary>
    PartFact,

    /// <summary>The same, added also after the part has left: how it left, its recall, its papers, a gauge that failed later.</summary>
    AfterLeaving,

    /// <summary>Parts and surfaces: numbered and chained by what they are, filled in while the part is here.</summary>
    PartRow,

    /// <summary>Facts that belong to no part: never changed, in the shop's chain.</summary>
    ShopFact,

    /// <summary>Rows that may change: every change is in the shop's chain.</summary>
    ShopRow,
}

/// <summary>A table that the database guards.</summary>
/// <param name="Name">Table.</param>
/// <param name="Kind">How.</param>
/// <param name="Part">SQL for the part of a row <c>f</c>, where it belongs to one.</param>
/// <param name="Writes">What the application may do with it beside reading: <c>insert</c>, <c>update</c>, <c>delete</c>.</param>
public sealed record GuardedTable(string Name, GuardKind Kind, string? Part, string Writes)
{
    public bool IsOfParts => Kind is GuardKind.PartFact or GuardKind.AfterLeaving or GuardKind.PartRow;
}

/// <summary>
/// The tables that the database guards, in one list: triggers, rights, chains and their check are all made from it. A feature that brings
/// tables (vehicles, practice, instructors) adds its lines here.
/// </summary>
public static class GuardedTables
{
    private const string OfSurface = "(select s.part_id from public.surfaces s where s.id = f.surface_id)";
    private const string OfReading =
        "(select s.part_id from public.readings x join public.surfaces s on s.id = x.surface_id where x.id = f.reading_id)";
    private const string OfOutcome = "(select x.part_id from public.outcomes x where x.id = f.outcome_id)";

    public static IReadOnlyList<GuardedTable> All { get; } =
    [
        new("parts", GuardKind.PartRow, "f.id", "insert, update"),
        new("surfaces", GuardKind.PartRow, "f.part_id", "insert, update"),
        .. new[]
        {
            "limit_entries",
            "limit_settlements",
            "findings",
            "readings",
            "mounts",
            "set_up_checks",
            "set_up_decisions",
            "plans",
            "cut_starts",
            "passes",
            "finishes",
            "chatters",
            "confirmations",
        }.Select(t => new GuardedTable(t, GuardKind.PartFact, OfSurface, "insert")),
        new(
            "finding_withdrawals",
            GuardKind.PartFact,
            "(select s.part_id from public.findings x join public.surfaces s on s.id = x.surface_id where x.id = f.finding_id)",
            "insert"
        ),
        new("withdrawals", GuardKind.PartFact, OfReading, "insert"),
        new(
            "cut_stops",
            GuardKind.PartFact,
            "(select s.part_id from public.cut_starts x join public.surfaces s on s.id = x.surface_id where x.id = f.start_id)",
            "insert"
        ),
        new("reading_flags", GuardKind.AfterLeaving, OfReading, "insert"),
        new("signatures", GuardKind.AfterLeaving, "f.part_id", ""),
        new("outcomes", GuardKind.AfterLeaving, "f.part_id", "insert"),
        new("outcome_withdrawals", GuardKind.AfterLeaving, OfOutcome, "insert"),
        new("certificates", GuardKind.AfterLeaving, OfOutcome, "insert"),
        new(
            "prints",
            GuardKind.AfterLeaving,
            "(select x.part_id from public.certificates c join public.outcomes x on x.id = c.outcome_id where c.id = f.certificate_id)",
            "insert"
        ),
        new("zero_checks", GuardKind.ShopFact, null, "insert"),
        new("eye_checks", GuardKind.ShopFact, null, "insert"),
        new("insert_events", GuardKind.ShopFact, null, "insert"),
        new("bins_emptied", GuardKind.ShopFact, null, "insert"),
        new("photos", GuardKind.ShopFact, null, "insert"),
        new("people_events", GuardKind.ShopFact, null, ""),
        new("rule_changes", GuardKind.ShopFact, null, "insert"),
        new("board_pins", GuardKind.ShopFact, null, "insert"),
        new("job_urgencies", GuardKind.ShopFact, null, "insert"),
        new("lathe_outages", GuardKind.ShopFact, null, "insert"),
        new("day_hours", GuardKind.ShopFact, null, "insert"),
        new("day_settings", GuardKind.ShopFact, null, "insert"),
        new("days_planned", GuardKind.ShopFact, null, "insert"),
        new("days_happened", GuardKind.ShopFact, null, "insert"),
        new("shops", GuardKind.ShopRow, null, ""),
        new("jobs", GuardKind.ShopRow, null, "insert, update"),
        new("gauges", GuardKind.ShopRow, null, "insert, update"),
        new("lathes", GuardKind.ShopRow, null, "insert, update"),
        new("adapters", GuardKind.ShopRow, null, "insert, update"),
        new("techniques", GuardKind.ShopRow, null, "insert, update"),
        new("book", GuardKind.ShopRow, null, "insert, update"),
        new("operators", GuardKind.ShopRow, null, ""),
        new("pins", GuardKind.ShopRow, null, ""),
        new("screens", GuardKind.ShopRow, null, ""),
    ];

    /// <summary>Tables that are no record: drafts, sessions, tries, keys, what is made from the others.</summary>
    public static IReadOnlyList<(string Name, string Writes)> Others { get; } =
    [
        ("cut_drafts", "insert, update, delete"),
        ("sessions", ""),
        ("pin_tries", ""),
        ("pin_delays", ""),
        ("data_protection_keys", "insert, delete"),
        ("log_lines", ""),
        ("chain", ""),
        ("shop_chain", ""),
        ("fact_counters", ""),
        ("live_devices", ""),
        ("gauge_sends", "insert, update, delete"),
        ("__EFMigrationsHistory", ""),
    ];

    /// <summary>The tables whose facts belong to parts.</summary>
    public static IEnumerable<GuardedTable> OfParts => All.Where(t => t.IsOfParts);

    /// <summary>Guards of single tables: trigger, when, function.</summary>
    private static readonly (string Table, string When, string Function)[] Guards =
    [
        ("limit_entries", "before insert", "stamp_rules"),
        ("confirmations", "before insert", "stamp_rules"),
        ("readings", "before insert", "stamp_check"),
        ("zero_checks", "before insert", "lock_gauge"),
        ("readings", "before insert", "guard_fence"),
        ("readings", "after insert", "flag_reading"),
        ("reading_flags", "before insert", "guard_flag"),
        ("limit_entries", "after insert", "guard_limit_entry"),
        ("limit_settlements", "after insert", "guard_settlement"),
        ("rule_changes", "before insert", "guard_rule_change"),
        ("outcomes", "before insert", "guard_outcome"),
        ("outcome_withdrawals", "before insert", "guard_withdrawal"),
        ("withdrawals", "before insert", "guard_reading_withdrawal"),
        ("finding_withdrawals", "before insert", "guard_finding_withdrawal"),
        ("plans", "before insert", "guard_plan"),
        ("cut_starts", "before insert", "guard_cut_start"),
        ("signatures", "before insert", "stamp_signature"),
        ("board_pins", "before insert", "guard_pin"),
        ("day_hours", "before insert", "guard_day_hours"),
        ("day_settings", "before insert", "guard_day_settings"),
        ("jobs", "before update", "refuse_job_change"),
        ("jobs", "after insert", "follow_job_number"),
    ];

    /// <summary>SQL that makes every trigger anew.</summary>
    internal static string TriggersSql()
    {
        var sql = new System.Text.StringBuilder();
        void Trigger(string table, string name, string when, string function) =>
            sql.AppendLine(
                System.Globalization.CultureInfo.InvariantCulture,
                $"create or replace trigger {table}_{name} {when} on public.{table} for each row execute function public.{function}();"
            );
        foreach (var table in All)
        {
            var t = table.Name;
            if (table.Kind is GuardKind.PartFact or GuardKind.AfterLeaving or GuardKind.ShopFact)
            {
                Trigger(t, "stay", "before update or delete", "refuse_change");
                sql.AppendLine(
                    System.Globalization.CultureInfo.InvariantCulture,
                    $"create or replace trigger {t}_stay_all before truncate on public.{t} for each statement execute function "
                        + $"public.refuse_change();"
                );
            }
            if (table.IsOfParts)
                sql.AppendLine(OfPart(table));
            // What is filled in on parts and surfaces while they are here is in the shop's chain, beside what they are in the part's.
            if (!table.IsOfParts || table.Kind == GuardKind.PartRow)
            {
                // A constraint trigger cannot be replaced.
                sql.AppendLine(System.Globalization.CultureInfo.InvariantCulture, $"drop trigger if exists {t}_shop_chain on public.{t};");
                sql.AppendLine(
                    System.Globalization.CultureInfo.InvariantCulture,
                    $"create constraint trigger {t}_shop_chain after insert or update or delete on public.{t} deferrable "
                        + $"initially deferred for each row execute function public.shop_link();"
                );
            }
        }
        foreach (var table in new[] { "chain", "shop_chain" })
        {
            Trigger(table, "stay", "before update or delete", "refuse_change");
            sql.AppendLine(
                System.Globalization.CultureInfo.InvariantCulture,
                $"create or replace trigger {table}_stay_all before truncate on public.{table} for each statement execute "
                    + $"function public.refuse_change();"
            );
        }
        sql.AppendLine("drop trigger if exists chain_shop_chain on public.chain;");
        sql.AppendLine(
            "create constraint trigger chain_shop_chain after insert on public.chain deferrable initially deferred for each row "
                + "execute function public.shop_link();"
        );
        foreach (var row in new[] { "parts", "surfaces" })
            Trigger(row, "name", "before update", "refuse_part_change");
        Trigger("parts", "logged", "after insert or update of job_id, tag, mark", "log_part");
        Trigger("jobs", "logged", "after update of number, vehicle, customer, received_at", "log_job");
        foreach (var (table, when, function) in Guards)
            Trigger(table, function, when, function);
        sql.AppendLine(NewsSql);
        // Names of the first version.
        sql.AppendLine(
            "drop function if exists public.refuse_after_outcome() cascade; "
                + "drop function if exists public.refuse_new_name() cascade; drop function if exists public.held_limit(int, text);"
        );
        sql.AppendLine(
            "drop trigger if exists outcomes_guard on public.outcomes; drop trigger if exists outcome_withdrawals_guard on "
                + "public.outcome_withdrawals;"
        );
        return sql.ToString();
    }

    /// <summary>Who tells the instances what was saved. An attempt of practice tells nobody (practice_shop.sql).</summary>
    private const string NewsSql = """
        create or replace trigger surfaces_news after insert or update of turn on public.surfaces for each row
            execute function public.tell_of_surface();
        create or replace trigger readings_news after insert on public.readings for each row
            when (new.gauge_id is not null and new.line is not null) execute function public.tell_of_reading();
        create or replace trigger shop_chain_news after insert on public.shop_chain for each statement
            execute function public.tell_of_save();
        """;

    private static string OfPart(GuardedTable table)
    {
        var t = table.Name;
        var log = t switch
        {
            "outcomes" => "update public.log_lines set outcome = f.kind, out_at = f.at where part_id = the_part;",
            "outcome_withdrawals" => "update public.log_lines set outcome = null, out_at = null where part_id = the_part;",
            _ => "",
        };
        var by =
            table.Kind == GuardKind.PartRow
                ? ""
                : "update public.log_lines set people = people || f.by_id where part_id = the_part and not people @> array[f.by_id];";
        var left =
            table.Kind == GuardKind.PartFact || t == "surfaces" ? "perform public.refuse_if_left(the_part);"
            : t == "parts" ? ""
            : "perform 1 from public.parts where id = the_part for update;";
        return $"""
            create or replace function public.{t}_numbered() returns trigger
                language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
            declare f public.{t} := new; the_part int;
            begin
                the_part := {table.Part};
                {(t == "signatures" ? "if the_part is null then return new; end if;" : "")}
                {left}
                new.number := public.next_number(the_part);
                return new;
            end $$;
            create or replace trigger {t}_before_outcome before insert on public.{t} for each row execute function public.{t}_numbered();
            create or replace function public.{t}_chained() returns trigger
                language plpgsql security definer set search_path = pg_catalog, public, pg_temp set timezone = 'UTC' as $$
            declare f public.{t} := new; the_part int;
            begin
                the_part := {table.Part};
                {(
                t == "signatures"
                    ? "if the_part is null then perform public.shop_add('signatures', f.id::text, 'I', "
                        + "sha256(convert_to('signatures ' || public.row_text(to_jsonb(f)), 'UTF8'))); return new; end if;"
                    : ""
            )}
                perform public.chain_add(the_part, f.number, '{t}', f.id, to_jsonb(f));
                {log}
                {by}
                return new;
            end $$;
            create or replace trigger {t}_chain after insert on public.{t} for each row execute function public.{t}_chained();
            """;
    }
}
