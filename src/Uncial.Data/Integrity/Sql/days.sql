-- The day's board: who may settle its hours, and what may be pinned.

create or replace function public.guard_day_hours() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if not exists (select 1 from public.operators where id = new.by_id and role in ('lead', 'owner') and disabled_at is null) then
        raise exception 'a lead sets the hours of a single day' using errcode = 'UN032';
    end if;
    return new;
end $$;

create or replace function public.guard_day_settings() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if not exists (select 1 from public.operators where id = new.by_id and role = 'owner' and disabled_at is null) then
        raise exception 'the owner settles the days of the shop' using errcode = 'UN033';
    end if;
    -- The board is planned with these: a week has seven days, and no step takes less than nothing.
    if jsonb_typeof(new.settings->'week'->'days') is distinct from 'array' or jsonb_array_length(new.settings->'week'->'days') <> 7
        or exists (select 1 from jsonb_each(new.settings->'shifts') s where jsonb_array_length(s.value->'days') is distinct from 7)
        or exists (select 1 from unnest(array['adapterMinutes', 'measureMinutes', 'confirmMinutes', 'readingRestsAfter']) k
            where jsonb_typeof(new.settings->k) is distinct from 'number' or (new.settings->>k)::numeric not between 0 and 240) then
        raise exception 'hours of seven days, and minutes from 0 to 240' using errcode = 'UN035';
    end if;
    return new;
end $$;

-- A pin of a part that has left would hold a place that nothing fills.
create or replace function public.guard_pin() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if exists (select 1 from public.outcomes o join public.surfaces s on s.part_id = o.part_id
        where s.id = new.surface_id and not exists (select 1 from public.outcome_withdrawals w where w.outcome_id = o.id)) then
        raise exception 'only a part that is in the shop is pinned' using errcode = 'UN034';
    end if;
    return new;
end $$;
