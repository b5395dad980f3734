-- The limits of a surface as they were after a numbered fact of its part, and who may make them laxer.

-- The limit of one kind: what a lead settled, unless a source was read anew since; otherwise the strictest of the newest of each
-- source. Of a nominal size the newest.
create or replace function public.held_limit_at(the_surface int, the_kind text, the_number int) returns numeric
    language plpgsql stable set search_path = pg_catalog, public, pg_temp as $$
declare settled numeric; result numeric;
begin
    select e.value_mm into settled from public.limit_settlements t join public.limit_entries e on e.id = t.entry_id
        where t.surface_id = the_surface and t.kind = the_kind and t.number <= the_number
            and not exists (select 1 from public.limit_entries n where n.surface_id = the_surface and n.kind = the_kind
                and n.number > t.number and n.number <= the_number)
        order by t.number desc limit 1;
    if settled is not null then return settled; end if;
    if the_kind = 'Nominal' then
        return (select value_mm from public.limit_entries where surface_id = the_surface and kind = the_kind and number <= the_number
            order by number desc limit 1);
    end if;
    select case when (select s.kind from public.surfaces s where s.id = the_surface) = 'Rotor' then max(newest.value_mm)
        else min(newest.value_mm) end
        into result
        from (select distinct on (source) value_mm from public.limit_entries
            where surface_id = the_surface and kind = the_kind and number <= the_number order by source, number desc) newest;
    return result;
end $$;

-- Machine-to is derived from discard where nobody stated it; discard is machine-to where nobody stated that. Limits that contradict
-- one another are none: nothing is released by them.
create or replace function public.limits_by(the_surface int, the_number int, rules jsonb, out nominal numeric, out machine_to numeric,
    out discard numeric)
    language plpgsql stable set search_path = pg_catalog, public, pg_temp as $$
declare rotor boolean; stated numeric; derived numeric; s int;
begin
    select u.kind = 'Rotor' into rotor from public.surfaces u where u.id = the_surface;
    s := case when rotor then 1 else -1 end;
    nominal := public.held_limit_at(the_surface, 'Nominal', the_number);
    stated := public.held_limit_at(the_surface, 'MachineTo', the_number);
    discard := coalesce(public.held_limit_at(the_surface, 'Discard', the_number), stated);
    if discard is null then return; end if;
    derived := discard + s * coalesce(
        (rules->>case when rotor then 'rotorMachineToAboveDiscard' else 'drumMachineToBelowDiscard' end)::numeric,
        case when rotor then 0.40 else 0.75 end);
    if s * (nominal - derived) < 0 then derived := nominal; end if;
    machine_to := coalesce(stated, derived);
    if s * (machine_to - discard) < 0 or s * (nominal - machine_to) < 0 or s * (nominal - discard) < 0 then
        machine_to := null; discard := null;
    end if;
end $$;

create or replace function public.limits_at(the_surface int, the_number int, out nominal numeric, out machine_to numeric,
    out discard numeric)
    language sql stable set search_path = pg_catalog, public, pg_temp as $$
    select l.* from public.limits_by(the_surface, the_number, (select rules from public.shops limit 1)) l
$$;

-- The same as they hold a part back, also where they contradict one another: machine-to is then as strict as discard. What is laxer
-- than before is told by it.
create or replace function public.effective_machine_to(the_surface int, the_number int) returns numeric
    language plpgsql stable set search_path = pg_catalog, public, pg_temp as $$
declare rotor boolean; nominal numeric; stated numeric; discard numeric; derived numeric; s int; rules jsonb;
begin
    select u.kind = 'Rotor' into rotor from public.surfaces u where u.id = the_surface;
    select x.rules into rules from public.shops x limit 1;
    s := case when rotor then 1 else -1 end;
    nominal := public.held_limit_at(the_surface, 'Nominal', the_number);
    stated := public.held_limit_at(the_surface, 'MachineTo', the_number);
    discard := coalesce(public.held_limit_at(the_surface, 'Discard', the_number), stated);
    derived := discard + s * coalesce(
        (rules->>case when rotor then 'rotorMachineToAboveDiscard' else 'drumMachineToBelowDiscard' end)::numeric,
        case when rotor then 0.40 else 0.75 end);
    if s * (nominal - derived) < 0 then derived := nominal; end if;
    derived := coalesce(stated, derived);
    return case when rotor then greatest(derived, discard) else least(derived, discard) end;
end $$;

create or replace function public.is_laxer(rotor boolean, was numeric, now numeric) returns boolean language sql immutable
    set search_path = pg_catalog, public, pg_temp as $$
    select coalesce(case when rotor then now < was else now > was end, false)
$$;

-- A signature that a decision rests on: of a lead, PIN checked, for exactly this, in this transaction.
create or replace function public.require_signature(the_id bigint, the_part int, the_purpose text, the_subject text, the_by int,
    code text, says text)
    returns void language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if not exists (select 1 from public.signatures s where s.id = the_id and s.part_id is not distinct from the_part
        and s.signed_for = the_purpose
            and s.subject = the_subject and s.by_id = the_by and s.pin_checked and s.role in ('lead', 'owner')
            and s.transaction = pg_current_xact_id()::text) then
        raise exception '%', says using errcode = code;
    end if;
end $$;

create or replace function public.guard_limit_entry() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare s record; b record; was numeric; now numeric; before record; rotor boolean; laxer boolean;
begin
    select u.*, p.tag, p.visit, p.corner, j.vehicle into s from public.surfaces u join public.parts p on p.id = u.part_id
        join public.jobs j on j.id = p.job_id where u.id = new.surface_id;
    rotor := s.kind = 'Rotor';
    if new.copied_from_id is not null then
        if not exists (select 1 from public.limit_entries e join public.surfaces u on u.id = e.surface_id
            join public.parts p on p.id = u.part_id
                where e.id = new.copied_from_id and p.tag = s.tag and p.visit = s.visit - 1 and u.kind = s.kind and u.in_hat = s.in_hat
                    and (e.kind, e.value_mm, e.source) = (new.kind, new.value_mm, new.source)) then
            raise exception 'a limit is repeated as it stood at the visit before' using errcode = 'UN016';
        end if;
    elsif new.source = 'LimitBook' then
        select * into b from public.book where id = new.book_entry_id;
        if not found or b.ended_at is not null or b.kind <> s.kind or b.in_hat <> s.in_hat
            or not (lower(s.vehicle) = lower(b.vehicle) or starts_with(lower(s.vehicle), lower(b.vehicle) || ' ')
                or starts_with(lower(s.vehicle), lower(b.vehicle) || ','))
            or (b.axle = 'Front' and s.corner like 'Rear%') or (b.axle = 'Rear' and s.corner like 'Front%')
            or (case new.kind when 'Nominal' then b.nominal_mm when 'MachineTo' then b.machine_to_mm else b.discard_mm end)
                is distinct from new.value_mm then
            raise exception 'a limit of the book is read from its entry' using errcode = 'UN016';
        end if;
    elsif new.book_entry_id is not null then
        raise exception 'only a limit of the book has an entry of the book' using errcode = 'UN016';
    end if;

    was := public.effective_machine_to(new.surface_id, new.number - 1);
    now := public.effective_machine_to(new.surface_id, new.number);
    laxer := public.is_laxer(rotor, was, now)
        or public.is_laxer(rotor, public.held_limit_at(new.surface_id, 'Discard', new.number - 1),
            public.held_limit_at(new.surface_id, 'Discard', new.number));
    -- Nothing was stated in this visit yet: the limits of the visit before stand.
    if s.visit > 1 then
        select public.effective_machine_to(u.id, 2147483647) as machine_to, public.held_limit_at(u.id, 'Discard', 2147483647) as discard
            into before
            from public.parts p join public.surfaces u on u.part_id = p.id where p.tag = s.tag and p.visit = s.visit - 1
                and u.kind = s.kind and u.in_hat = s.in_hat;
        laxer := laxer or (was is null and public.is_laxer(rotor, before.machine_to, now))
            or (public.held_limit_at(new.surface_id, 'Discard', new.number - 1) is null
                and public.is_laxer(rotor, before.discard, public.held_limit_at(new.surface_id, 'Discard', new.number)));
    end if;
    if laxer then
        perform public.require_signature(new.signature_id, s.part_id, 'LaxerLimit',
            format('surface %s %s %s', new.surface_id, new.kind, trim_scale(new.value_mm)), new.by_id, 'UN017',
            'a limit that is laxer than the one that holds takes a lead''s PIN and a reason');
    elsif new.signature_id is not null then
        raise exception 'nothing was to be signed for' using errcode = 'UN017';
    end if;
    return new;
end $$;

create or replace function public.guard_settlement() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if not exists (select 1 from public.limit_entries where id = new.entry_id and surface_id = new.surface_id and kind = new.kind) then
        raise exception 'a statement of this limit is settled on' using errcode = 'UN016';
    end if;
    perform public.require_signature(new.signature_id, (select part_id from public.surfaces where id = new.surface_id), 'Settlement',
        format('entry %s', new.entry_id), new.by_id, 'UN017', 'a lead settles which limit holds, with a PIN');
    return new;
end $$;

-- The shop's rules change by a row here and in no other way; rules that derive a laxer machine-to are signed for.
create or replace function public.guard_rule_change() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare was jsonb; last bigint;
begin
    select rules into was from public.shops for update;
    last := coalesce((select rules_id from public.shops), 0);
    if not exists (select 1 from public.operators where id = new.by_id and role = 'owner' and disabled_at is null) then
        raise exception 'the owner changes the rules of the shop' using errcode = 'UN018';
    end if;
    -- No figure of a shop is negative: an allowance below nothing would let a part past its limits.
    if exists (select 1 from jsonb_each(new.after) e
        where case when jsonb_typeof(e.value) = 'number' then e.value::numeric < 0 else false end) then
        raise exception 'no rule of a shop is negative' using errcode = 'UN029';
    end if;
    new.before := was;
    new.laxer :=
        coalesce((new.after->>'rotorMachineToAboveDiscard')::numeric, 0.40)
            < coalesce((was->>'rotorMachineToAboveDiscard')::numeric, 0.40)
        or coalesce((new.after->>'drumMachineToBelowDiscard')::numeric, 0.75)
            < coalesce((was->>'drumMachineToBelowDiscard')::numeric, 0.75);
    if new.laxer then
        perform public.require_signature(new.signature_id, null, 'LaxerRules', format('rules after %s', last), new.by_id, 'UN017',
            'rules that derive a laxer limit take a lead''s PIN and a reason');
    end if;
    update public.shops set rules = new.after, rules_id = new.id;
    return new;
end $$;
