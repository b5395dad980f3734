-- The lines of the logbook: what is searched for, kept with every fact.

create or replace function public.log_refresh(the_job int) returns void language sql set search_path = pg_catalog, public, pg_temp as $$
    insert into public.log_lines (part_id, job_number, received_at, search, people)
        select p.id, j.number, j.received_at, lower(concat_ws(' ', '', p.tag, j.vehicle, j.customer, j.number::text, p.mark)),
            array[j.received_by_id]
        from public.parts p join public.jobs j on j.id = p.job_id where j.id = the_job
    on conflict (part_id) do update set job_number = excluded.job_number, received_at = excluded.received_at, search = excluded.search
$$;

create or replace function public.log_part() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    perform public.log_refresh(new.job_id);
    return new;
end $$;

create or replace function public.log_job() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    perform public.log_refresh(new.id);
    return new;
end $$;
