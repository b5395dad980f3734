-- People, screens, sessions and PINs. Hashes and tokens are read by these functions only, never by the application's login.

create or replace function public.token_hash(token text) returns bytea
    language sql immutable set search_path = pg_catalog, public, pg_temp as $$
    select sha256(convert_to(token, 'UTF8'))
$$;

create or replace function public.new_token() returns text language sql volatile set search_path = pg_catalog, public, pg_temp as $$
    select encode(public.gen_random_bytes(32), 'hex')
$$;

-- Four to eight digits; not the commonest: one digit repeated, a run up or down, a year.
create or replace function public.pin_is_weak(pin text) returns boolean
    language sql immutable set search_path = pg_catalog, public, pg_temp as $$
    select pin is null or pin !~ '^[0-9]{4,8}$' or pin ~ '^([0-9])\1*$' or position(pin in '01234567890123456789') > 0
        or position(pin in '98765432109876543210') > 0 or pin ~ '^(19|20)[0-9]{2}$' or pin ~ '^([0-9]{2})\1+$'
$$;

-- The hash of the first version: PBKDF2 with HMAC-SHA512, one block. Slow here, and asked once: the sign-in replaces it.
create or replace function public.is_earlier_pin(earlier bytea, pin text) returns boolean
    language plpgsql immutable set search_path = pg_catalog, public, pg_temp as $$
declare rounds int; salt_length int; salt bytea; wanted bytea; u bytea; t bit(512); algorithm text;
begin
    if get_byte(earlier, 0) <> 1 then return false; end if;
    algorithm := case get_byte(earlier, 4) when 0 then 'sha1' when 1 then 'sha256' else 'sha512' end;
    if algorithm <> 'sha512' then return false; end if;
    rounds := ('x' || encode(substring(earlier from 6 for 4), 'hex'))::bit(32)::int;
    salt_length := ('x' || encode(substring(earlier from 10 for 4), 'hex'))::bit(32)::int;
    salt := substring(earlier from 14 for salt_length);
    wanted := substring(earlier from 14 + salt_length);
    u := public.hmac(salt || '\x00000001'::bytea, convert_to(pin, 'UTF8'), algorithm);
    t := ('x' || encode(u, 'hex'))::bit(512);
    for i in 2 .. rounds loop
        u := public.hmac(u, convert_to(pin, 'UTF8'), algorithm);
        t := t # ('x' || encode(u, 'hex'))::bit(512);
    end loop;
    return left(encode(wanted, 'hex'), 128) = left((
        select string_agg(lpad(to_hex(substring(t from 1 + 32 * i for 32)::int), 8, '0'), '' order by i) from generate_series(0, 15) i),
            length(encode(wanted, 'hex')));
end $$;

create or replace function public.write_pin(the_operator int, pin text) returns void
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
begin
    insert into public.pins (operator_id, hash, set_at)
        values (the_operator, public.crypt(pin, public.gen_salt('bf', 8)), public.uncial_now())
        on conflict (operator_id) do update set hash = excluded.hash, earlier = null, set_at = excluded.set_at;
end $$;

create or replace function public.pin_fits(the_operator int, pin text) returns boolean
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
declare p record;
begin
    select * into p from public.pins where operator_id = the_operator;
    if not found then return false; end if;
    if p.hash is not null then return public.crypt(pin, p.hash) = p.hash; end if;
    if not public.is_earlier_pin(p.earlier, pin) then return false; end if;
    perform public.write_pin(the_operator, pin);
    return true;
end $$;

-- Seconds to wait after so many misses.
create or replace function public.pin_delay(misses int) returns int
    language sql immutable set search_path = pg_catalog, public, pg_temp as $$
    select case when misses < 5 then 0 else least(900, 30 * power(2, least(misses - 5, 10))::int) end
$$;

create or replace function public.screen_of(screen_token text) returns int
    language sql stable set search_path = pg_catalog, public, pg_temp as $$
    select id from public.screens where token_hash = public.token_hash(screen_token) and retired_at is null
$$;

create or replace function public.is_enrolled(screen_token text) returns boolean
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
    select public.screen_of(screen_token) is not null
$$;

-- A PIN is tried in two steps: here the try is counted, and committed; what was typed is named by its hash only. The functions that
-- judge it take no try of their own transaction, so that rolling back does not uncount it, and only the PIN that was named.
create or replace function public.begin_try(the_operator int, screen_token text, the_address text, the_commitment bytea, the_purpose text,
    out try bigint, out wait int)
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare screen int := public.screen_of(screen_token); now timestamptz := public.uncial_now(); d record; whose int; place_ text;
begin
    whose := case when screen is null then 0 else the_operator end;
    place_ := case when screen is null then 'address ' || left(coalesce(the_address, '?'), 64) else 'screen ' || screen end;
    if not exists (select 1 from public.operators where id = the_operator) or length(the_commitment) <> 32 then wait := 1; return; end if;
    insert into public.pin_delays (operator_id, place, misses, last_at) values (whose, place_, 0, now) on conflict do nothing;
    select * into d from public.pin_delays where operator_id = whose and place = place_ for update;
    -- A clock that went back does not lengthen the wait; half a day without a try ends it.
    if d.last_at > now then d.last_at := now; end if;
    if now - d.last_at > interval '12 hours' then d.misses := 0; end if;
    wait := greatest(0, ceil(extract(epoch from d.last_at + make_interval(secs => public.pin_delay(d.misses)) - now)))::int;
    if wait > 0 then
        update public.pin_delays set last_at = d.last_at where operator_id = whose and place = place_;
        return;
    end if;
    update public.pin_delays set misses = d.misses + 1, last_at = now where operator_id = whose and place = place_;
    insert into public.pin_tries (operator_id, screen_id, address, commitment, at, transaction, purpose)
        values (the_operator, screen, left(the_address, 64), the_commitment, now, pg_current_xact_id()::text, left(the_purpose, 40))
            returning id into try;
end $$;

-- Judges a try; the person whose PIN it was, or null.
create or replace function public.judge_try(the_try bigint, pin text, nonce bytea) returns int
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
declare t record; fits boolean;
begin
    select * into t from public.pin_tries where id = the_try for update;
    if not found or t."right" is not null or t.transaction = pg_current_xact_id()::text
        or sha256(nonce || convert_to(coalesce(pin, ''), 'UTF8')) <> t.commitment
        or t.at not between public.uncial_now() - interval '2 minutes' and public.uncial_now() + interval '2 minutes' then
        return null;
    end if;
    fits := public.pin_fits(t.operator_id, pin)
        and exists (select 1 from public.operators where id = t.operator_id and disabled_at is null);
    update public.pin_tries set "right" = fits where id = the_try;
    if not fits then return null; end if;
    update public.pin_delays set misses = 0 where operator_id = case when t.screen_id is null then 0 else t.operator_id end
        and place = case when t.screen_id is null then 'address ' || left(coalesce(t.address, '?'), 64) else 'screen ' || t.screen_id end;
    return t.operator_id;
end $$;

create or replace function public.open_session(the_operator int, screen int) returns text
    language plpgsql set search_path = pg_catalog, public, pg_temp as $$
declare token text := public.new_token();
begin
    insert into public.sessions (operator_id, screen_id, token_hash, started_at, seen_at)
        values (the_operator, screen, public.token_hash(token), public.uncial_now(), public.uncial_now());
    return token;
end $$;

-- Signs in at an enrolled screen: the token of the session, or null.
create or replace function public.sign_in(the_try bigint, pin text, nonce bytea, screen_token text) returns text
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare who int; screen int := public.screen_of(screen_token);
begin
    if screen is null or not exists (select 1 from public.pin_tries where id = the_try and screen_id = screen) then return null; end if;
    who := public.judge_try(the_try, pin, nonce);
    if who is null then return null; end if;
    return public.open_session(who, screen);
end $$;

create or replace function public.session_of(token text, out session bigint, out operator int, out name text, out role text,
    out screen int, out screen_name text)
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare seen timestamptz; now timestamptz := public.uncial_now();
begin
    select s.id, o.id, o.display_name, o.role, c.id, c.name, s.seen_at into session, operator, name, role, screen, screen_name, seen
        from public.sessions s join public.operators o on o.id = s.operator_id join public.screens c on c.id = s.screen_id
        where s.token_hash = public.token_hash(token) and s.ended_at is null and o.disabled_at is null and c.retired_at is null
            and s.seen_at > now - interval '12 hours';
    if now - seen > interval '5 minutes' or seen > now then update public.sessions set seen_at = now where id = session; end if;
end $$;

create or replace function public.sign_out(token text) returns void
    language sql security definer set search_path = pg_catalog, public, pg_temp as $$
    update public.sessions set ended_at = public.uncial_now(), ended_by = 'sign-out' where token_hash = public.token_hash(token)
        and ended_at is null
$$;

create or replace function public.end_sessions(the_operator int, why text, but bigint default 0) returns void
    language sql set search_path = pg_catalog, public, pg_temp as $$
    update public.sessions set ended_at = public.uncial_now(), ended_by = why where operator_id = the_operator and ended_at is null
        and id <> but
$$;

-- A lead's signature for one decision: its number, or null where the PIN is wrong. Whoever is signed in stays so and stands in it.
create or replace function public.give_signature(token text, the_try bigint, pin text, nonce bytea, the_part int, the_purpose text,
    the_subject text, the_reason text) returns bigint
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare s record; who record; judged int; result bigint;
begin
    select * into s from public.session_of(token);
    if s.session is null or not exists (select 1 from public.pin_tries where id = the_try and screen_id = s.screen)
        then return null; end if;
    -- Judged once, not for each row that is looked at.
    judged := public.judge_try(the_try, pin, nonce);
    select * into who from public.operators where id = judged;
    if who.id is null then return null; end if;
    if who.role not in ('lead', 'owner') or coalesce(trim(the_reason), '') = '' then return null; end if;
    insert into public.signatures (part_id, signed_for, subject, reason, signed_by_id, role, pin_checked, screen_id, at, by_id)
        values (the_part, the_purpose, the_subject, trim(the_reason), who.id, who.role, true, s.screen, public.uncial_now(), s.operator)
            returning id into result;
    return result;
end $$;

create or replace function public.stamp_signature() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    new.transaction := pg_current_xact_id()::text;
    return new;
end $$;

create or replace function public.keep_people_event(the_act text, the_operator int, the_screen int, the_detail text, the_by int)
    returns void
    language sql set search_path = pg_catalog, public, pg_temp as $$
    insert into public.people_events (act, operator_id, screen_id, detail, at, by_id)
        values (the_act, the_operator, the_screen, left(the_detail, 120), public.uncial_now(), the_by)
$$;

-- Enrols a screen, by a lead's PIN typed there: the screen's token, or null. Tries count against the address, not against the lead.
create or replace function public.enrol_screen(the_try bigint, pin text, nonce bytea, the_name text, the_address text) returns text
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare who record; judged int; token text := public.new_token(); new_id int;
begin
    -- Judged once, not for each row that is looked at.
    judged := public.judge_try(the_try, pin, nonce);
    select * into who from public.operators where id = judged;
    if who.id is null or who.role not in ('lead', 'owner') then return null; end if;
    insert into public.screens (name, token_hash, enrolled_at, enrolled_by_id, address)
        values (left(trim(the_name), 60), public.token_hash(token), public.uncial_now(), who.id, left(the_address, 64))
            returning id into new_id;
    perform public.keep_people_event('ScreenEnrolled', null, new_id, the_name, who.id);
    return token;
end $$;

-- The demo's screens enrol themselves. A shop of its own has no such way.
create or replace function public.enrol_demo_screen(the_address text) returns text
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare token text := public.new_token();
begin
    if not exists (select 1 from public.shops where has_demo_data) then return null; end if;
    insert into public.screens (name, token_hash, enrolled_at, address)
        values ('Demo screen', public.token_hash(token), public.uncial_now(), left(the_address, 64));
    return token;
end $$;

-- The first to come to an empty shop becomes its owner, at its first screen.
create or replace function public.found_shop(shop_name text, owner_name text, pin text, the_address text, out screen_token text,
    out token text, out refusal text)
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare who int; screen int;
begin
    perform pg_advisory_xact_lock(8214906353);
    if exists (select 1 from public.operators) then refusal := 'notEmpty'; return; end if;
    if public.pin_is_weak(pin) then refusal := 'weakPin'; return; end if;
    update public.shops set name = left(trim(shop_name), 120), turn = turn + 1;
    insert into public.operators (user_name, display_name, role) values ('owner', left(trim(owner_name), 80), 'owner')
        returning id into who;
    perform public.write_pin(who, pin);
    screen_token := public.new_token();
    insert into public.screens (name, token_hash, enrolled_at, enrolled_by_id, address)
        values ('First screen', public.token_hash(screen_token), public.uncial_now(), who, left(the_address, 64)) returning id into screen;
    perform public.keep_people_event('Added', who, null, owner_name, who);
    token := public.open_session(who, screen);
end $$;

-- What a lead or the owner does to somebody's account, with the own PIN: 'done', or why not. Only an owner touches owners or makes one.
-- the_role is the role, or the pace where that is changed, or whether the person instructs.
create or replace function public.manage_person(session_token text, the_try bigint, pin text, nonce bytea, the_act text, the_target int,
    the_name text, the_role text, the_pin text)
    returns text language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare s record; target record; judged int; new_id int;
begin
    select * into s from public.session_of(session_token);
    if s.session is null then return 'signedOut'; end if;
    if s.role not in ('lead', 'owner') and the_act <> 'OwnPinChanged' then return 'notAllowed'; end if;
    if the_act not in ('Unlocked', 'Renamed') then
        judged := public.judge_try(the_try, pin, nonce);
        if judged is null or judged <> s.operator then return 'wrongPin'; end if;
    end if;
    if the_act = 'OwnPinChanged' then
        if public.pin_is_weak(the_pin) then return 'weakPin'; end if;
        perform public.write_pin(s.operator, the_pin);
        perform public.end_sessions(s.operator, 'new PIN', s.session);
        perform public.keep_people_event(the_act, s.operator, null, null, s.operator);
        return 'done';
    end if;
    if the_act in ('Added', 'RoleChanged') and (coalesce(the_role, '') not in ('operator', 'lead', 'owner')
        or (the_role = 'owner' and s.role <> 'owner')) then return 'notAllowed'; end if;
    if the_act = 'InstructsChanged' and coalesce(the_role, '') not in ('Yes', 'No') then return 'notAllowed'; end if;
    if the_act = 'PaceChanged' and coalesce(the_role, '') not in ('Guided', 'Experienced') then return 'notAllowed'; end if;
    if the_act in ('Added', 'Renamed') and coalesce(trim(the_name), '') = '' then return 'noName'; end if;
    if the_act in ('Added', 'PinChanged') and public.pin_is_weak(the_pin) then return 'weakPin'; end if;
    if the_act = 'Added' then
        insert into public.operators (user_name, display_name, role)
            values ('p' || left(public.new_token(), 12), left(trim(the_name), 80), the_role) returning id into new_id;
        perform public.write_pin(new_id, the_pin);
        perform public.keep_people_event(the_act, new_id, null, the_name || ', ' || the_role, s.operator);
        return 'done';
    end if;
    select * into target from public.operators where id = the_target for update;
    if not found then return 'notFound'; end if;
    if target.role = 'owner' and s.role <> 'owner' then return 'notAllowed'; end if;
    if the_act in ('RoleChanged', 'Disabled') and target.role = 'owner' and target.disabled_at is null
        and not exists (select 1 from public.operators where role = 'owner' and disabled_at is null and id <> the_target) then
        return 'lastOwner';
    end if;
    case the_act
        when 'Renamed' then update public.operators set display_name = left(trim(the_name), 80) where id = the_target;
        when 'RoleChanged' then
            update public.operators set role = the_role where id = the_target;
            perform public.end_sessions(the_target, 'new role', s.session);
        when 'PaceChanged' then
            update public.operators set experienced_since = case the_role when 'Experienced' then public.uncial_now() end
                where id = the_target;
        when 'InstructsChanged' then
            update public.operators set instructs_since = case the_role when 'Yes' then coalesce(instructs_since, public.uncial_now()) end
                where id = the_target;
        when 'PinChanged' then
            perform public.write_pin(the_target, the_pin);
            perform public.end_sessions(the_target, 'new PIN', s.session);
        when 'Disabled' then
            update public.operators set disabled_at = public.uncial_now() where id = the_target;
            perform public.end_sessions(the_target, 'disabled');
        when 'Enabled' then update public.operators set disabled_at = null where id = the_target;
        when 'Unlocked' then delete from public.pin_delays where operator_id = the_target;
        else return 'notAllowed';
    end case;
    perform public.keep_people_event(the_act, the_target, null,
        case the_act when 'Renamed' then target.display_name || ' → ' || the_name
            when 'RoleChanged' then target.role || ' → ' || the_role
            when 'InstructsChanged' then the_role
            when 'PaceChanged' then case when target.experienced_since is null then 'Guided' else 'Experienced' end || ' → ' || the_role
            end, s.operator);
    return 'done';
end $$;

create or replace function public.retire_screen(session_token text, the_screen int) returns text
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare s record;
begin
    select * into s from public.session_of(session_token);
    if s.session is null then return 'signedOut'; end if;
    if s.role not in ('lead', 'owner') then return 'notAllowed'; end if;
    update public.screens set retired_at = public.uncial_now() where id = the_screen and retired_at is null;
    if not found then return 'notFound'; end if;
    update public.sessions set ended_at = public.uncial_now(), ended_by = 'screen retired' where screen_id = the_screen
        and ended_at is null;
    perform public.keep_people_event('ScreenRetired', null, the_screen, null, s.operator);
    return 'done';
end $$;

-- A lead says at which lathe a screen stands, or that it stands at none.
create or replace function public.pin_screen(session_token text, the_screen int, the_lathe int) returns text
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare s record; at_lathe text;
begin
    select * into s from public.session_of(session_token);
    if s.session is null then return 'signedOut'; end if;
    if s.role not in ('lead', 'owner') then return 'notAllowed'; end if;
    if the_lathe is not null then
        select l.profile->>'name' into at_lathe from public.lathes l where l.id = the_lathe and l.retired_at is null;
        if at_lathe is null then return 'notFound'; end if;
    end if;
    update public.screens set lathe_id = the_lathe where id = the_screen and retired_at is null;
    if not found then return 'notFound'; end if;
    perform public.keep_people_event('ScreenPinned', null, the_screen, coalesce(at_lathe, ''), s.operator);
    return 'done';
end $$;
