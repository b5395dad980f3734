-- Practice: a schema of its own, reached by a login that reaches nothing else. Run as the owner of the database.

revoke all on schema practice from public;
grant usage on schema practice to uncial_practice;
revoke all on all tables in schema practice from public, uncial_practice, uncial_app;
revoke all on all tables in schema public from uncial_practice;
grant select on practice.learners, practice.drill_runs, practice.drill_answers to uncial_practice;
grant insert on practice.learners, practice.drill_runs, practice.drill_answers to uncial_practice;
grant usage, select on all sequences in schema practice to uncial_practice;

-- A guest is removed when the time is over, with everything of the guest's; who works here may remove the own practice.
create or replace function practice.remove_expired() returns int
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare gone int;
begin
    delete from practice.learners where expires_at < clock_timestamp();
    get diagnostics gone = row_count;
    return gone;
end $$;

create or replace function practice.remove_learner(the_learner int) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    delete from practice.learners where id = the_learner;
end $$;

-- So much at most: a loop somewhere, or somebody who means it, fills no disk.
create or replace function practice.guard_learner() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    if new.operator_id is null and (new.expires_at is null or new.expires_at > clock_timestamp() + interval '2 days') then
        raise exception 'a guest stays two days at most' using errcode = 'UN010';
    end if;
    if new.operator_id is null and (select count(*) from practice.learners where address is not distinct from new.address
        and operator_id is null) >= 500 then
        raise exception 'too many guests from this address' using errcode = 'UN011';
    end if;
    return new;
end $$;
create or replace trigger learners_guard before insert on practice.learners for each row execute function practice.guard_learner();

create or replace function practice.guard_run() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    if (select count(*) from practice.drill_runs where learner_id = new.learner_id
        and started_at > clock_timestamp() - interval '1 day') >= 200 then
        raise exception 'two hundred drills a day are the most' using errcode = 'UN011';
    end if;
    return new;
end $$;
create or replace trigger drill_runs_guard before insert on practice.drill_runs for each row execute function practice.guard_run();

create or replace function practice.guard_answer() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    if new.number <> (select count(*) + 1 from practice.drill_answers where run_id = new.run_id) or new.number > 20 then
        raise exception 'items are answered in their order' using errcode = 'UN012';
    end if;
    return new;
end $$;
create or replace trigger drill_answers_guard before insert on practice.drill_answers
    for each row execute function practice.guard_answer();

revoke execute on all functions in schema practice from public;
grant execute on function practice.remove_expired(), practice.remove_learner(int) to uncial_practice;
