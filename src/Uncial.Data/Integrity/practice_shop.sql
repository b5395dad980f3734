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
    end loop;
end $$;

revoke all on schema practice_shop from public;
revoke all on all tables in schema practice_shop from public, uncial_app;
revoke execute on all functions in schema practice_shop from public, uncial_app;
