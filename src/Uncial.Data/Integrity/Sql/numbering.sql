-- Order of the facts of a part: a number without gaps, given out under the part's lock, so that order by number is order of commit.
-- Every function names its search path; pg_temp comes last, so that no temporary table stands in for one of ours.

create or replace function public.uncial_now() returns timestamptz language sql volatile set search_path = pg_catalog, public, pg_temp as $$
    select clock_timestamp()
$$;

create or replace function public.refuse_change() returns trigger language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
    raise exception '% keeps facts: they are added, never changed or removed', tg_table_name using errcode = 'UN001';
end $$;

-- What the hash of a link is over: of a fact everything but what is null and its number, which is that of the link; of parts and
-- surfaces, which are filled in as the job goes on, what they are.
create or replace function public.fact_text(the_table text, fact jsonb) returns text
    language sql immutable set search_path = pg_catalog, public, pg_temp as $$
    select jsonb_strip_nulls(case the_table
        when 'parts' then jsonb_build_object('id', fact->'id', 'tag', fact->'tag', 'visit', fact->'visit', 'job_id', fact->'job_id')
        when 'surfaces' then jsonb_build_object('id', fact->'id', 'part_id', fact->'part_id', 'kind', fact->'kind', 'in_hat',
            fact->'in_hat')
        else fact - 'number' end)::text
$$;

create or replace function public.next_number(the_part int) returns int language plpgsql set search_path = pg_catalog, public, pg_temp as $$
declare given int;
begin
    insert into public.fact_counters as c (part_id, last) values (the_part, 1)
        on conflict (part_id) do update set last = c.last + 1 returning c.last into given;
    return given;
end $$;

drop function if exists public.chain_add(int, text, bigint, jsonb);
create or replace function public.chain_add(the_part int, the_number int, the_table text, the_id bigint, fact jsonb) returns void
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
declare head bytea := ''::bytea;
begin
    if the_number > 1 then
        select c.hash into strict head from public.chain c where c.part_id = the_part and c.number = the_number - 1;
    end if;
    insert into public.chain (part_id, number, fact_table, fact_id, hash)
        values (the_part, the_number, the_table, the_id,
            sha256(head || convert_to(the_table || ' ' || public.fact_text(the_table, fact), 'UTF8')));
end $$;

-- What may still be added to a part: nothing once it has left, until it is recalled.
create or replace function public.part_has_left(the_part int) returns boolean
    language plpgsql stable set search_path = pg_catalog, public, pg_temp as $$
begin
    return exists (select 1 from public.outcomes o left join public.outcome_withdrawals w on w.outcome_id = o.id
        where o.part_id = the_part and w.id is null);
end $$;

create or replace function public.refuse_if_left(the_part int) returns void
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
    perform 1 from public.parts where id = the_part for update;
    if public.part_has_left(the_part) then
        raise exception 'the part has left the workshop' using errcode = 'UN002';
    end if;
end $$;

-- A part that has left keeps everything that stands on its own row and on its surfaces.
create or replace function public.refuse_part_change() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare the_part int;
begin
    if public.fact_text(tg_table_name, to_jsonb(new)) <> public.fact_text(tg_table_name, to_jsonb(old)) or new.number <> old.number then
        raise exception '% are what they were received as', tg_table_name using errcode = 'UN001';
    end if;
    the_part := case tg_table_name when 'parts' then (to_jsonb(new)->>'id')::int else (to_jsonb(new)->>'part_id')::int end;
    -- The counter of changes goes on: a gauge that fails later puts readings of parts that have left in doubt as well.
    if to_jsonb(new) - 'turn' <> to_jsonb(old) - 'turn' then perform public.refuse_if_left(the_part); end if;
    return new;
end $$;

-- Neither does the job change what its certificates say.
create or replace function public.refuse_job_change() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if (new.number, new.vehicle, new.customer, new.odometer_km) is distinct from (old.number, old.vehicle, old.customer, old.odometer_km)
        and exists (select 1 from public.parts p where p.job_id = new.id and public.part_has_left(p.id)) then
        raise exception 'a part of this job has left the workshop' using errcode = 'UN002';
    end if;
    return new;
end $$;

create or replace function public.stamp_rules() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    new.rules_id := coalesce((select rules_id from public.shops limit 1), 0);
    return new;
end $$;

-- A reading and a zero check of one gauge come one after the other; the reading keeps which check was the newest.
create or replace function public.stamp_check() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if new.gauge_id is not null then
        perform 1 from public.gauges where id = new.gauge_id for share;
        new.after_check_id := coalesce((select max(id) from public.zero_checks where gauge_id = new.gauge_id), 0);
    end if;
    return new;
end $$;

-- What is read after a failed check, or was typed before one and came in late, is flagged with it.
create or replace function public.flag_reading() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare failed bigint;
begin
    select max(c.id) into failed from public.zero_checks c where c.gauge_id = new.gauge_id and not c.passed and c.id <= new.after_check_id
        and (c.id = new.after_check_id or c.at >= new.typed_at);
    if failed is not null then
        insert into public.reading_flags (reading_id, zero_check_id, at, by_id) values (new.id, failed, new.at, new.by_id);
    end if;
    return new;
end $$;

create or replace function public.lock_gauge() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    perform 1 from public.gauges where id = new.gauge_id for update;
    return new;
end $$;

-- Numbers of jobs come from a sequence; one that is given by hand or by a file moves it on.
create or replace function public.follow_job_number() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if new.number not between 1 and 9999999 then
        raise exception 'a job number has up to seven digits' using errcode = 'UN025';
    end if;
    perform setval('public.job_number', new.number) from public.job_number where last_value < new.number;
    return new;
end $$;
