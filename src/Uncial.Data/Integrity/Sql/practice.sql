-- Practice: a schema of its own, reached by a login that reaches nothing else. Run as the owner of the database.

revoke all on schema practice from public;
grant usage on schema practice to uncial_practice;
revoke all on all tables in schema practice from public, uncial_practice, uncial_app;
revoke all on all tables in schema public from uncial_practice;
grant select on practice.learners, practice.drill_runs, practice.drill_answers, practice.attempts, practice.attempt_steps
    to uncial_practice;
grant insert on practice.learners, practice.drill_runs, practice.drill_answers, practice.attempts to uncial_practice;
grant usage, select on all sequences in schema practice to uncial_practice;

-- A guest is removed when the time is over, with everything of the guest's; who works here may remove the own practice. What is done in a
-- class its instructor removes.
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
    delete from practice.learners where id = the_learner and class_id is null;
end $$;

-- So much at most: a loop somewhere, or somebody who means it, fills no disk.
create or replace function practice.guard_learner() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    if new.class_id is not null then return new; end if;
    if new.operator_id is null and (new.expires_at is null or new.expires_at > clock_timestamp() + interval '2 days') then
        raise exception 'a guest stays two days at most' using errcode = 'UP010';
    end if;
    if new.operator_id is null and (select count(*) from practice.learners where address is not distinct from new.address
        and operator_id is null) >= 500 then
        raise exception 'too many guests from this address' using errcode = 'UP011';
    end if;
    return new;
end $$;
create or replace trigger learners_guard before insert on practice.learners for each row execute function practice.guard_learner();

create or replace function practice.guard_run() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    -- What counts for a day is told by nobody.
    new.started_at := clock_timestamp();
    if (select count(*) from practice.drill_runs where learner_id = new.learner_id
        and started_at > clock_timestamp() - interval '1 day') >= 200 then
        raise exception 'two hundred drills a day are the most' using errcode = 'UP011';
    end if;
    return new;
end $$;
create or replace trigger drill_runs_guard before insert on practice.drill_runs for each row execute function practice.guard_run();

create or replace function practice.guard_answer() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    if new.number <> (select count(*) + 1 from practice.drill_answers where run_id = new.run_id) or new.number > 20 then
        raise exception 'items are answered in their order' using errcode = 'UP012';
    end if;
    return new;
end $$;
create or replace trigger drill_answers_guard before insert on practice.drill_answers
    for each row execute function practice.guard_answer();

-- Attempts at lessons: steps are added by these functions alone, in their order, until the trainee has decided.
create or replace function practice.guard_attempt() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    new.started_at := clock_timestamp();
    if (select count(*) from practice.attempts where learner_id = new.learner_id
        and started_at > clock_timestamp() - interval '1 day') >= 40 then
        raise exception 'forty lessons a day are the most' using errcode = 'UP011';
    end if;
    -- Guests of one address together: a class behind one address comes through, a loop does not.
    if (select count(*) from practice.attempts a join practice.learners l on l.id = a.learner_id
        join practice.learners own on own.id = new.learner_id and own.operator_id is null
        where l.operator_id is null and l.class_id is null and own.class_id is null and l.address is not distinct from own.address
        and a.started_at > clock_timestamp() - interval '1 day') >= 400 then
        raise exception 'four hundred lessons a day of one address are the most' using errcode = 'UP011';
    end if;
    new.ended_at := null;
    new.hand := null;
    new.held := null;
    return new;
end $$;
create or replace trigger attempts_guard before insert on practice.attempts for each row execute function practice.guard_attempt();

drop function if exists practice.add_step(bigint, text, jsonb, text, numeric, bigint);
create or replace function practice.add_step(the_attempt bigint, the_surface int, the_kind text, the_deed jsonb, the_word text,
    the_mm numeric, the_fact bigint) returns int language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare place int;
begin
    if (select ended_at is not null from practice.attempts where id = the_attempt for update) then
        raise exception 'the job is over' using errcode = 'UP013';
    end if;
    select coalesce(max(number), 0) + 1 into place from practice.attempt_steps where attempt_id = the_attempt;
    if place > 2000 then
        raise exception 'two thousand steps are the most' using errcode = 'UP011';
    end if;
    insert into practice.attempt_steps (attempt_id, number, surface, kind, deed, word, mm, fact_id, is_taken_back, at)
        values (the_attempt, place, the_surface, the_kind, the_deed, the_word, the_mm, the_fact, false, clock_timestamp());
    return place;
end $$;

-- Something is done at the bench, by somebody who has seen everything that was done before.
drop function if exists practice.do_deed(bigint, jsonb, jsonb, int);
create or replace function practice.do_deed(the_attempt bigint, the_deed jsonb, the_hand jsonb, seen int, the_surface int) returns int
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare place int;
begin
    place := practice.add_step(the_attempt, the_surface, 'Did', the_deed, null, null, null);
    if place <> seen + 1 then
        raise exception 'something else was done meanwhile' using errcode = 'UP014';
    end if;
    update practice.attempts set hand = the_hand, held = null where id = the_attempt;
    return place;
end $$;

create or replace function practice.take_up(the_attempt bigint, the_hand jsonb, the_held jsonb) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    update practice.attempts set hand = the_hand, held = the_held where id = the_attempt and ended_at is null;
end $$;

create or replace function practice.decide(the_attempt bigint, the_decision text) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    perform practice.add_step(the_attempt, 1, 'Verdict', null, the_decision, null, null);
    update practice.attempts set ended_at = clock_timestamp(), held = null where id = the_attempt;
end $$;

-- With an attempt goes the shop that it had for itself.
create or replace function practice.clear_attempt() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    perform practice_shop.remove_rows(old.id);
    return old;
end $$;
create or replace trigger attempts_clear after delete on practice.attempts for each row execute function practice.clear_attempt();

revoke execute on all functions in schema practice from public;
grant execute on function practice.remove_expired(), practice.remove_learner(int), practice.do_deed(bigint, jsonb, jsonb, int, int),
    practice.take_up(bigint, jsonb, jsonb), practice.decide(bigint, text) to uncial_practice;
