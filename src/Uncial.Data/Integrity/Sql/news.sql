-- Several instances may serve one shop. What was saved is told to all of them when it is committed, by ids alone: each reads anew with
-- its own rights. A device that sends is connected by one of them, which holds an advisory lock for it.

create or replace function public.tell_of_surface() returns trigger
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
    perform pg_notify('uncial_news', 'surface ' || new.id);
    return null;
end $$;

create or replace function public.tell_of_reading() returns trigger
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
    perform pg_notify('uncial_news', 'taken ' || new.gauge_id || ' ' || new.line);
    return null;
end $$;

create or replace function public.tell_of_save() returns trigger
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
    perform pg_notify('uncial_news', 'saved');
    return null;
end $$;

-- Numbers of the advisory locks: one for each device.
create or replace function public.device_lock(the_kind text) returns int
    language sql immutable set search_path = pg_catalog, public, pg_temp as $$
    select case the_kind when 'Gauge' then 821490701 else 821490702 end
$$;

-- The session that holds a device's lock is connected to it from now on, under a number that no earlier owner knows. One that lost its
-- session and came back before anybody else goes on under its number.
create or replace function public.take_device(the_kind text, the_device int, the_instance uuid) returns bigint
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare given bigint;
begin
    if not exists (select 1 from pg_locks l where l.locktype = 'advisory' and l.pid = pg_backend_pid() and l.granted
            and l.database = (select oid from pg_database where datname = current_database())
            and l.classid = public.device_lock(the_kind)::oid and l.objid = the_device::oid and l.objsubid = 2) then
        raise exception 'the lock of the device is not held';
    end if;
    insert into public.live_devices as d (kind, device_id, fence, instance, seen_at)
        values (the_kind, the_device, 1, the_instance, public.uncial_now())
        on conflict (kind, device_id) do update set seen_at = public.uncial_now(), instance = the_instance,
            fence = case when d.instance = the_instance then d.fence else d.fence + 1 end,
            says = case when d.instance = the_instance then d.says end
        returning d.fence into given;
    return given;
end $$;

create or replace function public.keep_devices(the_instance uuid) returns void
    language sql security definer set search_path = pg_catalog, public, pg_temp as $$
    update public.live_devices set seen_at = public.uncial_now() where instance = the_instance
$$;

-- A reading that a gauge sent names the owner of the gauge that showed it. One that came from an earlier owner is not stored: the gauge
-- sends it again to the owner of today.
create or replace function public.guard_fence() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare the_fence bigint;
begin
    if new.line is not null and new.gauge_id is not null then
        select d.fence into the_fence from public.live_devices d where d.kind = 'Gauge' and d.device_id = new.gauge_id for share;
        if the_fence is not null and the_fence is distinct from new.fence then
            raise exception 'another instance has taken the gauge over' using errcode = 'UN036';
        end if;
    end if;
    return new;
end $$;
