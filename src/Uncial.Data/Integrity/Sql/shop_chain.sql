-- One chain over the whole shop: every new link of a part's chain, and every change of a row that belongs to no part. Written at
-- commit, one transaction after the other.

-- Text of a row: everything but what is null, the counters of changes and a fact's own number, which is checked against its link; of a
-- photo its hash. The number of a job is no such number: it is what the customer is given.
create or replace function public.row_text(the_row jsonb) returns text
    language sql immutable set search_path = pg_catalog, public, pg_temp as $$
    select jsonb_strip_nulls(case when the_row ? 'bytes'
        then the_row - 'bytes' || jsonb_build_object('bytes_sha256', encode(sha256(convert_to(the_row->>'bytes', 'UTF8')), 'hex'))
        else the_row - 'turn' - case when the_row ? 'vehicle' and the_row ? 'received_at' then '' else 'number' end end)::text
$$;

-- The hash of a link is over the one before it, what it is about, its time and the row. Links of earlier versions, whose operation is an
-- upper-case letter, leave the time out.
create or replace function public.shop_add(the_table text, the_id text, the_op text, the_row_hash bytea) returns void
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
declare last record; made timestamptz := public.uncial_now();
begin
    perform pg_advisory_xact_lock(8214906352);
    select c.number, c.hash into last from public.shop_chain c order by c.number desc limit 1;
    insert into public.shop_chain (number, ref_table, ref_id, op, row_hash, hash, at)
        values (coalesce(last.number, 0) + 1, the_table, the_id, lower(the_op), the_row_hash,
            sha256(coalesce(last.hash, ''::bytea)
                || convert_to(the_table || ' ' || the_id || ' ' || lower(the_op) || ' '
                    || (extract(epoch from made) * 1000000)::bigint || ' ', 'UTF8') || the_row_hash), made);
end $$;

create or replace function public.shop_link() returns trigger language plpgsql security definer
    set search_path = pg_catalog, public, pg_temp set timezone = 'UTC' as $$
declare was jsonb; now jsonb; key text;
begin
    if tg_table_name = 'chain' then
        perform public.shop_add('chain', new.part_id || ':' || new.number, 'I', new.hash);
        return null;
    end if;
    if tg_op <> 'INSERT' then was := to_jsonb(old); end if;
    if tg_op <> 'DELETE' then now := to_jsonb(new); end if;
    if tg_op = 'UPDATE' and public.row_text(was) = public.row_text(now) then return null; end if;
    key := coalesce(coalesce(now, was)->>'id', coalesce(now, was)->>'operator_id');
    perform public.shop_add(tg_table_name, key, left(tg_op, 1),
        sha256(convert_to(tg_table_name || ' ' || public.row_text(coalesce(now, was)), 'UTF8')));
    return null;
end $$;

-- What was there before the chain began is taken into it once, so that it covers the whole shop. Done by the opening step.
create or replace function public.begin_shop_chain(the_tables text[]) returns void
    language plpgsql set search_path = pg_catalog, public, pg_temp set timezone = 'UTC' as $$
declare t text; r record;
begin
    if exists (select 1 from public.shop_chain) then
        -- Jobs were once taken in without their number: each is linked again with it, once.
        for r in select to_jsonb(j) as fact, known.row_hash from public.jobs j
            join (select distinct on (c.ref_id) c.ref_id, c.row_hash from public.shop_chain c
                where c.ref_table = 'jobs' order by c.ref_id, c.number desc) known on known.ref_id = j.id::text loop
            if r.row_hash = sha256(convert_to('jobs ' || public.row_text(r.fact - 'number'), 'UTF8')) then
                perform public.shop_add('jobs', r.fact->>'id', 'U', sha256(convert_to('jobs ' || public.row_text(r.fact), 'UTF8')));
            end if;
        end loop;
        return;
    end if;
    foreach t in array the_tables loop
        for r in execute format('select to_jsonb(f) as fact from public.%I f', t) loop
            perform public.shop_add(t, coalesce(r.fact->>'id', r.fact->>'operator_id'), 'I',
                sha256(convert_to(t || ' ' || public.row_text(r.fact), 'UTF8')));
        end loop;
    end loop;
    for r in select c.part_id, c.number, c.hash from public.chain c order by c.part_id, c.number loop
        perform public.shop_add('chain', r.part_id || ':' || r.number, 'I', r.hash);
    end loop;
end $$;
