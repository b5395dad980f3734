namespace Uncial.Data.Migrations;

/// <summary>The chain of every part, and the lines of the logbook: both are kept by the database with every fact, under its owner's rights.</summary>
internal static class ChainRules
{
    /// <summary>Tables whose facts belong to a part, with the way from a fact to it.</summary>
    public static readonly IReadOnlyList<(string Table, string Part)> Facts =
    [
        ("parts", "f.id"), ("surfaces", "f.part_id"), ("outcomes", "f.part_id"),
        .. new[] { "limit_entries", "limit_settlements", "findings", "readings", "mounts", "set_up_checks", "set_up_decisions", "plans", "cut_starts", "passes", "finishes", "chatters", "confirmations" }
            .Select(t => (t, "(select s.part_id from surfaces s where s.id = f.surface_id)")),
        ("finding_withdrawals", "(select s.part_id from findings x join surfaces s on s.id = x.surface_id where x.id = f.finding_id)"),
        ("withdrawals", "(select s.part_id from readings x join surfaces s on s.id = x.surface_id where x.id = f.reading_id)"),
        ("reading_flags", "(select s.part_id from readings x join surfaces s on s.id = x.surface_id where x.id = f.reading_id)"),
        ("cut_stops", "(select s.part_id from cut_starts x join surfaces s on s.id = x.surface_id where x.id = f.start_id)"),
        ("outcome_withdrawals", "(select x.part_id from outcomes x where x.id = f.outcome_id)"),
        ("certificates", "(select x.part_id from outcomes x where x.id = f.outcome_id)"),
        ("prints", "(select x.part_id from certificates c join outcomes x on x.id = c.outcome_id where c.id = f.certificate_id)"),
    ];

    /// <summary>
    /// What a link's hash is over. Of a fact everything but what is null, so that a column that is added later, null for what was there,
    /// leaves old links whole; of parts and surfaces, which are filled in as the job goes on, what they are.
    /// </summary>
    public const string Functions = """
        create function fact_text(the_table text, fact jsonb) returns text language sql immutable as $$
            select jsonb_strip_nulls(case the_table
                when 'parts' then jsonb_build_object('id', fact->'id', 'tag', fact->'tag', 'visit', fact->'visit', 'job_id', fact->'job_id')
                when 'surfaces' then jsonb_build_object('id', fact->'id', 'part_id', fact->'part_id', 'kind', fact->'kind', 'in_hat', fact->'in_hat')
                else fact end)::text
        $$;

        create function chain_add(the_part int, the_table text, the_id bigint, fact jsonb) returns void language plpgsql as $$
        declare last record; head bytea;
        begin
            perform 1 from parts where id = the_part for update;
            select c.number, c.hash into last from chain c where c.part_id = the_part order by c.number desc limit 1;
            head := coalesce(last.hash, ''::bytea);
            insert into chain (part_id, number, fact_table, fact_id, hash)
                values (the_part, coalesce(last.number, 0) + 1, the_table, the_id, sha256(head || convert_to(the_table || ' ' || fact_text(the_table, fact), 'UTF8')));
        end $$;

        create function log_refresh(the_job int) returns void language sql as $$
            insert into log_lines (part_id, job_number, received_at, search, people)
                select p.id, j.number, j.received_at, lower(concat_ws(' ', '', p.tag, j.vehicle, j.customer, j.number::text, p.mark)), array[j.received_by_id]
                from parts p join jobs j on j.id = p.job_id where j.id = the_job
            on conflict (part_id) do update set job_number = excluded.job_number, received_at = excluded.received_at, search = excluded.search
        $$;

        create function log_part() returns trigger language plpgsql security definer set search_path = public as $$
        begin
            perform log_refresh(new.job_id);
            return new;
        end $$;

        create function log_job() returns trigger language plpgsql security definer set search_path = public as $$
        begin
            perform log_refresh(new.id);
            return new;
        end $$;

        create function refuse_new_name() returns trigger language plpgsql as $$
        begin
            if fact_text(tg_table_name, to_jsonb(new)) <> fact_text(tg_table_name, to_jsonb(old)) then
                raise exception '% are what they were received as', tg_table_name using errcode = 'UN001';
            end if;
            return new;
        end $$;

        create trigger parts_logged after insert or update of job_id, tag, mark on parts for each row execute function log_part();
        create trigger jobs_logged after update of number, vehicle, customer, received_at on jobs for each row execute function log_job();
        create trigger parts_name before update on parts for each row execute function refuse_new_name();
        create trigger surfaces_name before update on surfaces for each row execute function refuse_new_name();
        """;

    /// <summary>Adds the link of a fact, and what the logbook is to know of it.</summary>
    public static string Chains(string table, string part)
    {
        var log = table switch
        {
            "outcomes" => "update log_lines set outcome = f.kind, out_at = f.at where part_id = the_part;",
            "outcome_withdrawals" => "update log_lines set outcome = null, out_at = null where part_id = the_part;",
            _ => "",
        };
        var hand = table is "parts" or "surfaces" ? "" : "update log_lines set people = people || f.by_id where part_id = the_part and not people @> array[f.by_id];";
        return $"""
            create function {table}_chained() returns trigger language plpgsql security definer set search_path = public set timezone = 'UTC' as $$
            declare f {table} := new; the_part int;
            begin
                the_part := {part};
                perform chain_add(the_part, '{table}', f.id, to_jsonb(f));
                {log}
                {hand}
                return new;
            end $$;
            create trigger {table}_chain after insert on {table} for each row execute function {table}_chained();
            """;
    }

    /// <summary>Makes the lines of the logbook anew from the facts.</summary>
    public static string LogAnew => $"""
        select log_refresh(id) from jobs;
        update log_lines l set outcome = o.kind, out_at = o.at from outcomes o left join outcome_withdrawals w on w.outcome_id = o.id where o.part_id = l.part_id and w.id is null;
        with hands as ({string.Join(" union ", Facts.Where(f => f.Table is not ("parts" or "surfaces")).Select(f => $"select {f.Part} as part_id, f.by_id from {f.Table} f"))}
            union select p.id, j.received_by_id from parts p join jobs j on j.id = p.job_id)
        update log_lines l set people = h.people from (select part_id, array_agg(by_id order by by_id) as people from hands group by part_id) h where h.part_id = l.part_id;
        """;

    /// <summary>Chains what was there before, in the order in which it was stated.</summary>
    public static string Backfill => $$"""
        set local timezone = 'UTC';
        do $$ declare link record; begin
            for link in select * from ({{string.Join(" union all ", Facts.Select((f, i) =>
                $"select {f.Part} as part, {i} as rank, '{f.Table}' as tbl, f.id::bigint as id, {(f.Table is "parts" or "surfaces" ? "'-infinity'::timestamptz" : "f.at")} as at, to_jsonb(f) as fact from {f.Table} f"))}}) all_facts
                order by part, at, rank, id loop
                perform chain_add(link.part, link.tbl, link.id, link.fact);
            end loop;
        end $$;
        """;
}
