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
