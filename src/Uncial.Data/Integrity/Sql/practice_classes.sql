-- Classes and lessons of practice. An instructor is somebody who is signed in and instructs: the token of the session says so, and no claim
-- of the application. An instructor makes classes and trainees, and has no right over anybody of the shop. Run as the owner.

create or replace function practice.instructor(session_token text) returns int
    language sql security definer set search_path = pg_catalog, practice, pg_temp as $$
    select s.operator from public.session_of(session_token) s join public.operators o on o.id = s.operator
        where o.instructs_since is not null and o.disabled_at is null
$$;

-- The own class, locked; an error where it is another's or there is none.
create or replace function practice.own_class(session_token text, the_class int, must_be_open boolean) returns practice.classes
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare c practice.classes;
begin
    select * into c from practice.classes where id = the_class and instructor_id = practice.instructor(session_token) for update;
    if not found then raise exception 'no class of yours' using errcode = 'UP020'; end if;
    if must_be_open and c.closed_at is not null then raise exception 'the class is closed' using errcode = 'UP021'; end if;
    return c;
end $$;

-- Lessons come as a list of id, text and seed; the seed counts where everybody gets the same part.
create or replace function practice.begin_class(session_token text, the_name text, same_parts boolean, lessons jsonb) returns int
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare who int := practice.instructor(session_token); new_id int;
begin
    if who is null then raise exception 'who instructs begins classes' using errcode = 'UP020'; end if;
    if (select count(*) from practice.classes where instructor_id = who and closed_at is null) >= 20 then
        raise exception 'twenty open classes are the most' using errcode = 'UP011';
    end if;
    if jsonb_array_length(lessons) not between 1 and 24 then
        raise exception 'a class has one lesson to twenty-four' using errcode = 'UP011';
    end if;
    insert into practice.classes (name, instructor_id, is_same_part, begun_at)
        values (left(trim(the_name), 80), who, same_parts, clock_timestamp()) returning id into new_id;
    insert into practice.class_lessons (class_id, number, lesson_id, lesson_text, seed)
        select new_id, place, left(l ->> 'id', 60), l ->> 'text', (l ->> 'seed')::bigint
        from jsonb_array_elements(lessons) with ordinality as e(l, place);
    return new_id;
end $$;

create or replace function practice.add_trainee(session_token text, the_class int, the_name text, the_code text) returns int
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare c practice.classes; new_id int;
begin
    c := practice.own_class(session_token, the_class, true);
    if coalesce(trim(the_name), '') = '' then raise exception 'a trainee has a name' using errcode = 'UP022'; end if;
    if exists (select 1 from practice.learners where class_id = c.id and lower(name) = lower(trim(the_name))) then
        raise exception 'somebody of the class has this name' using errcode = 'UP023';
    end if;
    if (select count(*) from practice.learners where class_id = c.id) >= 40 then
        raise exception 'forty trainees are the most' using errcode = 'UP011';
    end if;
    insert into practice.learners (name, class_id, code, token_hash, created_at, expires_at)
        values (left(trim(the_name), 80), c.id, the_code, sha256(convert_to(the_code, 'UTF8')), clock_timestamp(),
            clock_timestamp() + interval '180 days') returning id into new_id;
    return new_id;
end $$;

create or replace function practice.remove_trainee(session_token text, the_class int, the_learner int) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    perform practice.own_class(session_token, the_class, false);
    delete from practice.learners where id = the_learner and class_id = the_class;
end $$;

-- A class that is closed is debriefed; what is still worked at stays where it is.
create or replace function practice.close_class(session_token text, the_class int) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    perform practice.own_class(session_token, the_class, true);
    update practice.classes set closed_at = clock_timestamp() where id = the_class;
end $$;

create or replace function practice.remove_class(session_token text, the_class int) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    perform practice.own_class(session_token, the_class, false);
    delete from practice.learners where class_id = the_class;
    delete from practice.classes where id = the_class;
end $$;

-- An attempt within a class has the lesson, and where all get the same part the seed, of the class: no trainee picks another. The same
-- part is worked once.
create or replace function practice.guard_class_attempt() returns trigger
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare c practice.classes; l practice.class_lessons;
begin
    if new.class_id is null then return new; end if;
    select k.* into c from practice.classes k join practice.learners t on t.class_id = k.id
        where k.id = new.class_id and t.id = new.learner_id
        -- One after the other: two tablets at once are one try.
        for update of t;
    if not found then raise exception 'who is not in the class has no lesson of it' using errcode = 'UP020'; end if;
    if c.closed_at is not null then raise exception 'the class is closed' using errcode = 'UP021'; end if;
    select * into l from practice.class_lessons where class_id = c.id and lesson_id = new.lesson_id;
    if not found then raise exception 'it is no lesson of the class' using errcode = 'UP020'; end if;
    new.lesson_text := l.lesson_text;
    if c.is_same_part then
        new.seed := l.seed;
        if exists (select 1 from practice.attempts where class_id = c.id and learner_id = new.learner_id and lesson_id = new.lesson_id) then
            raise exception 'the part of a class is worked once' using errcode = 'UP024';
        end if;
    end if;
    return new;
end $$;
create or replace trigger attempts_of_class before insert on practice.attempts for each row execute function practice.guard_class_attempt();

-- Lessons of the shop's own: a lead or the owner, who is signed in, keeps and removes them.
create or replace function practice.lesson_keeper(session_token text) returns int
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare who int;
begin
    select s.operator into who from public.session_of(session_token) s where s.role in ('lead', 'owner');
    if who is null then raise exception 'a lead or the owner keeps lessons' using errcode = 'UP030'; end if;
    return who;
end $$;

create or replace function practice.keep_lesson(session_token text, the_id text, the_text text) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
declare who int := practice.lesson_keeper(session_token);
begin
    if length(the_text) > 60000 or (select count(*) from practice.lessons where id <> the_id) >= 200 then
        raise exception 'two hundred lessons are the most' using errcode = 'UP011';
    end if;
    insert into practice.lessons (id, text, kept_by_id, kept_at) values (the_id, the_text, who, clock_timestamp())
        on conflict (id) do update set text = excluded.text, kept_by_id = excluded.kept_by_id, kept_at = excluded.kept_at;
end $$;

create or replace function practice.remove_lesson(session_token text, the_id text) returns void
    language plpgsql security definer set search_path = pg_catalog, practice, pg_temp as $$
begin
    perform practice.lesson_keeper(session_token);
    delete from practice.lessons where id = the_id;
end $$;

-- A class and a code are given by its instructor alone: the login of practice writes neither column.
revoke insert on practice.learners from uncial_practice;
grant insert (name, operator_id, token_hash, address, created_at, expires_at) on practice.learners to uncial_practice;
grant select on practice.classes, practice.class_lessons, practice.lessons to uncial_practice;
revoke execute on all functions in schema practice from public;
grant execute on function practice.instructor(text), practice.begin_class(text, text, boolean, jsonb),
    practice.add_trainee(text, int, text, text), practice.remove_trainee(text, int, int), practice.close_class(text, int),
    practice.remove_class(text, int), practice.keep_lesson(text, text, text), practice.remove_lesson(text, text) to uncial_practice;
