-- The shop of each attempt at a lesson: every row belongs to an attempt, and a connection sees those of its own. Run as the owner of the
-- database, after the tables and functions are there. Twice changes nothing.

create or replace function practice_shop.attempt() returns bigint language sql stable set search_path = pg_catalog, pg_temp as $$
    select nullif(current_setting('uncial.attempt', true), '')::bigint
$$;

do $$
declare t record; i record;
begin
    for t in select c.oid, c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace
            where n.nspname = 'practice_shop' and c.relkind = 'r' and c.relname not in ('__EFMigrationsHistory', 'data_protection_keys')
    loop
        execute format('alter table practice_shop.%I add column if not exists attempt_id bigint not null default practice_shop.attempt()',
            t.relname);
        execute format('alter table practice_shop.%I enable row level security', t.relname);
        -- The owner's functions, too, see no more than the attempt for which they run.
        execute format('alter table practice_shop.%I force row level security', t.relname);
        execute format('drop policy if exists of_attempt on practice_shop.%I', t.relname);
        execute format('create policy of_attempt on practice_shop.%I using (attempt_id = practice_shop.attempt())
            with check (attempt_id = practice_shop.attempt())', t.relname);
        execute format('create index if not exists %I on practice_shop.%I (attempt_id)', 'ix_' || t.relname || '_attempt', t.relname);
        -- What there is once in a shop there is once in each attempt.
        for i in select x.indexrelid::regclass::text as name, c.relname as plain, pg_get_indexdef(x.indexrelid) as def
                from pg_index x join pg_class c on c.oid = x.indexrelid
                where x.indrelid = t.oid and x.indisunique and not x.indisprimary
                    and not exists (select 1 from pg_attribute a where a.attrelid = t.oid and a.attnum = any (x.indkey)
                        and a.attname = 'attempt_id')
        loop
            execute 'drop index ' || i.name;
            execute regexp_replace(i.def, 'USING btree \(', 'USING btree (attempt_id, ');
        end loop;
        -- One attempt has no chain of a shop: it is proof of nothing, and its rows go when it does.
        execute format('drop trigger if exists %I on practice_shop.%I', t.relname || '_shop_chain', t.relname);
        execute format('drop trigger if exists %I on practice_shop.%I', t.relname || '_stay_all', t.relname);
        -- Nobody listens for what is saved in it.
        execute format('drop trigger if exists %I on practice_shop.%I', t.relname || '_news', t.relname);
    end loop;
end $$;

-- No part of practice can be taken for one of a workshop.
do $$
begin
    if not exists (select 1 from pg_constraint where conname = 'practice_tag' and conrelid = 'practice_shop.parts'::regclass) then
        alter table practice_shop.parts add constraint practice_tag check (tag ~ '^P-');
    end if;
end $$;

-- What is entered at the stations is a step of the attempt; a size comes after the gauge that is held.
create or replace function practice_shop.step_of_fact() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice_shop, practice, pg_temp as $$
declare the_held jsonb; of bigint := new.attempt_id; the_surface int := 1;
begin
    if tg_table_name not in ('withdrawals', 'outcomes') then
        -- Faces and the drum in the hat are numbered as the part has them.
        select count(*) into the_surface from practice_shop.surfaces mine join practice_shop.surfaces s on s.part_id = mine.part_id
            and s.id <= mine.id where mine.id = new.surface_id;
    end if;
    case tg_table_name
        when 'readings' then
            if new.kind = 'Size' then
                -- A gauge that is held on the faces reads nothing of the drum in the hat.
                select held into the_held from practice.attempts where id = of and coalesce((hand ->> 'surface')::int, 1) = the_surface;
                if the_held is not null then
                    perform practice.add_step(of, the_surface, 'Did', the_held, null, null, null);
                end if;
                perform practice.add_step(of, the_surface, 'Reading', null, null, new.value_mm, new.id);
            end if;
        when 'withdrawals' then
            update practice.attempt_steps set is_taken_back = true
                where attempt_id = of and kind = 'Reading' and fact_id = new.reading_id;
        when 'limit_entries' then
            perform practice.add_step(of, the_surface, 'Limit', null, new.kind, new.value_mm, new.id);
        when 'findings' then
            if new.kind in ('Nothing', 'Crack') then
                perform practice.add_step(of, the_surface, 'Found', null, new.kind, null, new.id);
            end if;
        when 'set_up_decisions' then
            if new.check_id is not null then
                perform practice.add_step(of, the_surface, 'SetUp', null, null, null, new.id);
            end if;
        when 'outcomes' then
            -- What is scrapped or released at a station was decided there.
            if new.kind in ('Scrapped', 'Released') then
                perform practice.decide(of, case new.kind when 'Scrapped' then 'Scrap' else 'Release' end);
            end if;
    end case;
    return null;
end $$;
do $$
declare t text;
begin
    foreach t in array array['readings', 'withdrawals', 'limit_entries', 'findings', 'set_up_decisions', 'outcomes'] loop
        execute format('create or replace trigger zz_step after insert on practice_shop.%I for each row
            execute function practice_shop.step_of_fact()', t);
    end loop;
end $$;

-- Practice is proof of nothing: what belongs to an attempt goes with it, facts too, and by this function alone.
create or replace function practice_shop.refuse_change() returns trigger
    language plpgsql set search_path = pg_catalog, practice_shop, pg_temp as $$
begin
    if tg_op = 'DELETE' and current_setting('uncial.removes', true) = practice_shop.attempt()::text
        and current_user <> 'uncial_practice' then
        return old;
    end if;
    raise exception '% keeps facts: they are added, never changed or removed', tg_table_name using errcode = 'UN001';
end $$;

create or replace function practice_shop.remove_rows(the_attempt bigint) returns void
    language plpgsql security definer set search_path = pg_catalog, practice_shop, pg_temp as $$
declare left_over text[]; t text; before int;
begin
    perform set_config('uncial.attempt', the_attempt::text, true);
    perform set_config('uncial.removes', the_attempt::text, true);
    select array_agg(c.relname::text) into left_over from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'attempt_id'
        where c.relnamespace = 'practice_shop'::regnamespace and c.relkind = 'r';
    -- What others point to goes after them.
    loop
        before := cardinality(left_over);
        foreach t in array left_over loop
            begin
                execute format('delete from practice_shop.%I where attempt_id = $1', t) using the_attempt;
                left_over := array_remove(left_over, t);
            exception when foreign_key_violation then
                null;
            end;
        end loop;
        exit when cardinality(left_over) = 0;
        if cardinality(left_over) = before then
            raise exception 'what is left of attempt % cannot be removed: %', the_attempt, left_over;
        end if;
    end loop;
    perform set_config('uncial.removes', '', true);
end $$;

revoke all on schema practice_shop from public;
revoke all on all tables in schema practice_shop from public, uncial_app;
revoke execute on all functions in schema practice_shop from public, uncial_app;
