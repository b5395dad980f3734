namespace Uncial.Data.Migrations;

/// <summary>The rules that the database keeps itself, whoever asks: facts stay, and nothing beyond discard leaves.</summary>
internal static class FactRules
{
    public static readonly string[] FactTables =
        ["limit_entries", "readings", "withdrawals", "plans", "passes", "confirmations", "outcomes"];

    /// <summary>What may leave and how, as it holds now. A migration that changes what it looks at runs it again.</summary>
    public const string Guard = """
        -- The limit that holds: what a lead hand settled, unless a source was read anew since; otherwise the strictest of the newest of each source.
        create or replace function held_limit(the_surface int, the_kind text) returns numeric language plpgsql stable as $$
        begin
            return coalesce(
                (select e.value_mm from limit_settlements t join limit_entries e on e.id = t.entry_id
                    where t.surface_id = the_surface and t.kind = the_kind
                        and not exists (select 1 from limit_entries n where n.surface_id = the_surface and n.kind = the_kind and n.at > t.at)
                    order by t.id desc limit 1),
                (select case when max(s.kind) = 'Rotor' then max(newest.value_mm) else min(newest.value_mm) end
                    from surfaces s, lateral (select distinct on (source) value_mm from limit_entries where surface_id = s.id and kind = the_kind order by source, id desc) newest
                    where s.id = the_surface));
        end $$;

        create or replace function guard_outcome() returns trigger language plpgsql as $$
        declare
            s record; c record; worst numeric; discard numeric; made int; lead_only boolean := false; called_back record; from_file boolean;
        begin
            perform 1 from parts where id = new.part_id for update;
            if exists (select 1 from outcomes o left join outcome_withdrawals w on w.outcome_id = o.id where o.part_id = new.part_id and w.id is null) then
                raise exception 'the part has left the journey' using errcode = 'UN002';
            end if;
            select w.* into called_back from outcome_withdrawals w join outcomes o on o.id = w.outcome_id where o.part_id = new.part_id order by w.id desc limit 1;
            if new.kind = 'Scrapped' then
                if coalesce(trim(new.reason), '') = '' then
                    raise exception 'scrapping takes a reason' using errcode = 'UN003';
                end if;
                return new;
            end if;
            if new.kind = 'Refused' then
                if coalesce(trim(new.reason), '') = '' then
                    raise exception 'refusing takes a reason' using errcode = 'UN008';
                end if;
                if exists (select 1 from passes p join surfaces u on u.id = p.surface_id where u.part_id = new.part_id) then
                    raise exception 'what was cut here is not refused' using errcode = 'UN010';
                end if;
            elsif exists (select 1 from findings f join surfaces u on u.id = f.surface_id left join finding_withdrawals w on w.finding_id = f.id
                    where u.part_id = new.part_id and f.kind in ('Crack', 'NoTurn') and w.id is null) then
                raise exception 'a part with a crack, or one that must not be turned, is scrapped or refused' using errcode = 'UN009';
            end if;
            if new.kind = 'Refused' and exists (select 1 from findings f join surfaces u on u.id = f.surface_id left join finding_withdrawals w on w.finding_id = f.id
                    where u.part_id = new.part_id and f.kind = 'Crack' and w.id is null) then
                raise exception 'a cracked part is scrapped' using errcode = 'UN009';
            end if;
            if new.kind = 'Shelved' and (coalesce(trim(new.place), '') = '' or coalesce(trim(new.preservative), '') = '') then
                raise exception 'shelving takes a place and a preservative' using errcode = 'UN011';
            end if;
            for s in select * from surfaces where part_id = new.part_id loop
                select count(*) into made from passes where surface_id = s.id;
                discard := coalesce(held_limit(s.id, 'Discard'), held_limit(s.id, 'MachineTo'));
                select case when s.kind = 'Rotor' then min(r.value_mm) else max(r.value_mm) end into worst
                    from readings r left join withdrawals w on w.reading_id = r.id left join reading_flags f on f.reading_id = r.id
                    where r.surface_id = s.id and r.kind = 'Size' and r.cuts = made and w.id is null and f.id is null
                        and (not coalesce(called_back.had_left, false) or r.at > called_back.at);
                if worst is not null and discard is not null
                    and (case when s.kind = 'Rotor' then worst - discard else discard - worst end) < 0 then
                    raise exception 'a part beyond its discard limit leaves only as scrap' using errcode = 'UN004';
                end if;
                if new.kind = 'Released' then
                    select * into c from confirmations where surface_id = s.id and cuts = made order by id desc limit 1;
                    if not found or c.decision not in ('Release', 'LeadOnly') or worst is null or discard is null or c.discard_mm <> discard or c.at <= called_back.at then
                        raise exception 'every work surface is confirmed before the part is released' using errcode = 'UN005';
                    end if;
                    if exists (select 1 from readings r left join withdrawals w on w.reading_id = r.id left join reading_flags f on f.reading_id = r.id
                            where r.surface_id = s.id and (r.at > c.at or w.at > c.at or f.at > c.at)) then
                        raise exception 'measured again after it was confirmed: confirm again' using errcode = 'UN006';
                    end if;
                    -- What is let out is what was judged: a worst reading that the judgement did not see would be let out by nobody's word.
                    if (case when s.kind = 'Rotor' then c.worst_mm - worst else worst - c.worst_mm end) > 0 then
                        raise exception 'the worst reading lies past the size that was confirmed' using errcode = 'UN006';
                    end if;
                    select coalesce(bool_or(r.from_file), false) into from_file from readings r left join withdrawals w on w.reading_id = r.id
                        where r.surface_id = s.id and r.kind = 'Size' and r.cuts = made and w.id is null;
                    if from_file then
                        raise exception 'readings that came with a file let no part out' using errcode = 'UN014';
                    end if;
                    lead_only := lead_only or c.decision = 'LeadOnly';
                end if;
            end loop;
            if lead_only and (coalesce(trim(new.reason), '') = '' or not new.do_not_machine_again or not exists (
                    select 1 from operator_roles ur join roles r on r.id = ur.role_id where ur.user_id in (new.by_id, new.signed_by_id) and r.name in ('lead', 'owner'))) then
                raise exception 'between the limits only a lead hand releases, with a reason' using errcode = 'UN007';
            end if;
            return new;
        end $$;
        """;

    /// <summary>Makes a table append-only.</summary>
    public static string Stays(string table) =>
        $"create trigger {table}_stay before update or delete on {table} for each row execute function refuse_change();"
        + $"create trigger {table}_stay_all before truncate on {table} for each statement execute function refuse_change();";

    /// <summary>What may still be added to a part: nothing once it has left, until it is called back.</summary>
    public const string AfterOutcome = """
        create or replace function refuse_after_outcome() returns trigger language plpgsql as $$
        declare p int;
        begin
            select part_id into p from surfaces where id = new.surface_id;
            perform 1 from parts where id = p for update;
            if exists (select 1 from outcomes o left join outcome_withdrawals w on w.outcome_id = o.id where o.part_id = p and w.id is null) then
                raise exception 'the part has left the journey' using errcode = 'UN002';
            end if;
            return new;
        end $$;

        create function guard_withdrawal() returns trigger language plpgsql as $$
        begin
            if coalesce(trim(new.reason), '') = '' or not exists (
                    select 1 from operator_roles ur join roles r on r.id = ur.role_id where ur.user_id in (new.by_id, new.signed_by_id) and r.name in ('lead', 'owner')) then
                raise exception 'only a lead hand calls a part back, with a reason' using errcode = 'UN013';
            end if;
            if exists (select 1 from outcomes where id = new.outcome_id and kind = 'Scrapped') then
                raise exception 'scrap stays scrap' using errcode = 'UN012';
            end if;
            if exists (select 1 from outcomes o join parts p on p.id = o.part_id join parts later on later.tag = p.tag and later.visit > p.visit where o.id = new.outcome_id) then
                raise exception 'the part was received again since' using errcode = 'UN015';
            end if;
            return new;
        end $$;
        """;

    public const string Functions = """
        create function refuse_change() returns trigger language plpgsql as $$
        begin
            raise exception '% keeps facts: they are added, never changed or removed', tg_table_name using errcode = 'UN001';
        end $$;

        create function refuse_after_outcome() returns trigger language plpgsql as $$
        declare p int;
        begin
            select part_id into p from surfaces where id = new.surface_id;
            perform 1 from parts where id = p for update;
            if exists (select 1 from outcomes where part_id = p) then
                raise exception 'the part has left the journey' using errcode = 'UN002';
            end if;
            return new;
        end $$;
        """;
}
