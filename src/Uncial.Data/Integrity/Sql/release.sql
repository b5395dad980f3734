-- What may leave and how, and what may be taken back.

drop function if exists public.is_looked_at(int, text, int, int);

-- A length of the shop's rules, in millimetres; the default where the shop has not stored it yet.
create or replace function public.rule_of(name text, otherwise numeric) returns numeric
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
    select coalesce((select (rules ->> name)::numeric from public.shops limit 1), otherwise)
$$;

-- What one depth may be more than it was measured, squared.
create or replace function public.depth_square(repeated boolean) returns numeric
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
    select case when repeated then public.rule_of('repeatedDepthUncertainty', 0.01) else public.rule_of('depthUncertainty', 0.03) end ^ 2
$$;

-- A depth that the newest three standing measurements with a depth gauge agree on, nothing else after them: their mean; otherwise null.
create or replace function public.repeated_depth(surface int, depth_kind text, made int, since int)
    returns numeric language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
    select case when count(*) = 3 and bool_and(d.gauge = 'DepthGauge')
        and max(d.value_mm) - min(d.value_mm) <= public.rule_of('depthUncertainty', 0.03)
        then avg(d.value_mm) end
    from (select r.value_mm, g.kind as gauge
        from public.readings r left join public.withdrawals w on w.reading_id = r.id left join public.reading_flags f on f.reading_id = r.id
            left join public.gauges g on g.id = r.gauge_id
        where r.surface_id = surface and r.kind = depth_kind and r.cuts = made and r.number > since and w.id is null and f.id is null
        order by r.number desc limit 3) d
$$;

drop function if exists public.depths_seen(int, text, int, int);

-- What was seen of grooves and low lands since the last cut: whether every face was looked at, their depths added up, whether all is
-- bright, what the depths may be more than they were read, in squares, and whether one was said to be none with no gauge laid on. Low
-- lands measured before a cut are lessened by it; that is not worked out again here.
create or replace function public.depths_seen(surface int, part_kind text, made int, since int)
    returns table (looked boolean, groove numeric, relief numeric, bright boolean, unsure numeric, by_eye boolean)
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
    with standing as (
        select r.kind, r.value_mm, r.cuts, r.gauge_id, row_number() over (partition by r.kind order by r.number desc) as newest
        from public.readings r left join public.withdrawals w on w.reading_id = r.id left join public.reading_flags f on f.reading_id = r.id
        where r.surface_id = surface and r.number > since and w.id is null and f.id is null),
    face as (
        select
            coalesce(x.grooves, g.value_mm, case when x.side = 'inner' then last.groove_inner_mm else last.groove_outer_mm end) as groove,
            coalesce(case when x.side = 'inner' then last.dark_inner else last.dark_outer end = 0, false) as bright,
            coalesce(x.reliefs, l.value_mm) as relief, l.cuts as relief_cuts,
            x.grooves is not null as groove_sure, x.reliefs is not null as relief_sure,
            g.gauge_id is null as groove_by_eye, l.gauge_id is null as relief_by_eye
        from (select v.*, public.repeated_depth(surface, v.groove, made, since) as grooves,
                public.repeated_depth(surface, v.relief, made, since) as reliefs
            from (values ('Rotor', 'outer', 'GrooveOuter', 'ReliefOuter'), ('Rotor', 'inner', 'GrooveInner', 'ReliefInner'),
                ('Drum', 'bore', 'Groove', 'Relief'))
                v (kind, side, groove, relief)) x
        left join standing g on g.kind = x.groove and g.newest = 1 and g.cuts = made
        left join standing l on l.kind = x.relief and l.newest = 1
        left join lateral (select * from public.passes p where p.surface_id = surface and p.number > since
            order by p.cut desc limit 1) last on true
        where x.kind = part_kind)
    select bool_and(groove is not null and (bright or relief is not null)), sum(groove),
        sum(case when not bright and relief_cuts = made then relief else 0 end),
        bool_and(bright),
        coalesce(sum(public.depth_square(groove_sure) + public.depth_square(relief_sure)) filter (where not bright or groove > 0), 0),
        bool_or((groove = 0 and groove_by_eye) or (not bright and relief_cuts = made and relief = 0 and relief_by_eye))
    from face
$$;

create or replace function public.guard_outcome() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare
    s record; c record; l record; recalled record; seen record;
    worst numeric; lower numeric; made int; s_sign int; times int; crack boolean; lead_only bigint[] := '{}';
begin
    perform 1 from public.parts where id = new.part_id for update;
    if public.part_has_left(new.part_id) then
        raise exception 'the part has left the workshop' using errcode = 'UN002';
    end if;
    select w.number, w.had_left into recalled from public.outcome_withdrawals w join public.outcomes o on o.id = w.outcome_id
        where o.part_id = new.part_id order by w.number desc limit 1;
    if new.kind = 'Scrapped' then
        if coalesce(trim(new.reason), '') = '' then
            raise exception 'scrapping takes a reason' using errcode = 'UN003';
        end if;
        return new;
    end if;
    select bool_or(f.kind = 'Crack') into crack from public.findings f join public.surfaces u on u.id = f.surface_id
        left join public.finding_withdrawals w on w.finding_id = f.id
        where u.part_id = new.part_id and f.kind in ('Crack', 'NoTurn') and w.id is null;
    if new.kind = 'Refused' then
        if coalesce(trim(new.reason), '') = '' then
            raise exception 'refusing takes a reason' using errcode = 'UN008';
        end if;
        if exists (select 1 from public.passes p join public.surfaces u on u.id = p.surface_id where u.part_id = new.part_id) then
            raise exception 'what was cut here is not refused' using errcode = 'UN010';
        end if;
        if crack then
            raise exception 'a cracked part is scrapped' using errcode = 'UN009';
        end if;
    elsif crack is not null then
        raise exception 'a part with a crack, or one that must not be turned, is scrapped or refused' using errcode = 'UN009';
    end if;
    if new.kind = 'Shelved' and (coalesce(trim(new.place), '') = '' or coalesce(trim(new.preservative), '') = '') then
        raise exception 'shelving takes a place and a preservative' using errcode = 'UN011';
    end if;
    for s in select * from public.surfaces where part_id = new.part_id order by id loop
        s_sign := case when s.kind = 'Rotor' then 1 else -1 end;
        select count(*) into made from public.passes where surface_id = s.id;
        select * into l from public.limits_at(s.id, 2147483647);
        select case when s.kind = 'Rotor' then min(r.value_mm) else max(r.value_mm) end into worst
            from public.readings r left join public.withdrawals w on w.reading_id = r.id
                left join public.reading_flags f on f.reading_id = r.id
            where r.surface_id = s.id and r.kind = 'Size' and r.cuts = made and w.id is null and f.id is null
                and (not coalesce(recalled.had_left, false) or r.number > recalled.number);
        -- Limits that contradict one another still hold a part back.
        if s_sign * (worst - coalesce(l.discard, public.held_limit_at(s.id, 'Discard', 2147483647),
            public.held_limit_at(s.id, 'MachineTo', 2147483647))) < 0 then
            raise exception 'a part beyond its discard limit leaves only as scrap' using errcode = 'UN004';
        end if;
        if new.kind = 'Released' then
            select * into c from public.confirmations where surface_id = s.id and cuts = made order by number desc limit 1;
            if not found or c.decision not in ('Release', 'LeadOnly') or worst is null or l.discard is null
                or c.number <= recalled.number then
                raise exception 'every work surface is confirmed before the part is released' using errcode = 'UN005';
            end if;
            if exists (select 1 from public.readings r left join public.withdrawals w on w.reading_id = r.id
                    left join public.reading_flags f on f.reading_id = r.id
                    where r.surface_id = s.id and greatest(r.number, w.number, f.number) > c.number) then
                raise exception 'measured again after it was confirmed: confirm again' using errcode = 'UN006';
            end if;
            -- The limits and rules of the judgement are those of now.
            if c.discard_mm <> l.discard or c.machine_to_mm <> l.machine_to
                or exists (select 1 from public.limit_entries e where e.surface_id = s.id and e.number > c.number)
                or exists (select 1 from public.limit_settlements t where t.surface_id = s.id and t.number > c.number)
                or coalesce(c.rules_id, 0) <> (select rules_id from public.shops limit 1) then
                raise exception 'limits or rules were changed after it was confirmed: confirm again' using errcode = 'UN019';
            end if;
            -- What is released is what was judged: the worst place, by the mean of its readings where they agree.
            select case when s.kind = 'Rotor' then min(p.size) else max(p.size) end into worst from (
                select case when max(r.value_mm) - min(r.value_mm) <= 2 * c.uncertainty_mm then avg(r.value_mm)
                    when s.kind = 'Rotor' then min(r.value_mm) else max(r.value_mm) end as size
                from public.readings r left join public.withdrawals w on w.reading_id = r.id
                    left join public.reading_flags f on f.reading_id = r.id
                where r.surface_id = s.id and r.kind = 'Size' and r.cuts = made and w.id is null and f.id is null
                    and (not coalesce(recalled.had_left, false) or r.number > recalled.number)
                group by mod(coalesce(r.degrees, 0), case when s.kind = 'Rotor' then 360 else 180 end), r.station_mm) p;
            if s_sign * (c.worst_mm - worst) > 0.0000001 then
                raise exception 'the worst reading lies past the size that was confirmed' using errcode = 'UN006';
            end if;
            if exists (select 1 from public.readings r left join public.withdrawals w on w.reading_id = r.id
                    where r.surface_id = s.id and r.kind = 'Size' and r.cuts = made and r.from_file and w.id is null) then
                raise exception 'readings that came with a file release no part' using errcode = 'UN014';
            end if;
            -- What nobody looked at is not nothing, and no depth is judged less than it was seen.
            select * into seen from public.depths_seen(s.id, s.kind, made, case when recalled.had_left then recalled.number else 0 end);
            if c.groove_left_mm is null or c.relief_left_mm is null or c.depth_uncertainty_mm is null or not seen.looked then
                raise exception 'grooves or low lands were not looked at' using errcode = 'UN027';
            end if;
            if c.groove_left_mm < seen.groove - 0.000001 or c.relief_left_mm < seen.relief - 0.000001 then
                raise exception 'grooves or low lands are deeper than what was judged' using errcode = 'UN006';
            end if;
            if not seen.bright and (c.depth_uncertainty_mm < sqrt(seen.unsure) - 0.000001
                or (s.kind = 'Rotor' and c.allowance_mm < public.rule_of('unseenLobesFullRound', 0.01))) then
                raise exception 'too little is allowed for what was not read' using errcode = 'UN005';
            end if;
            -- Judged anew: everything that may lie lower fits inside discard, and a judgement that says more than its figures do is
            -- between the limits.
            times := case when s.kind = 'Rotor' then 1 else 2 end;
            lower := c.allowance_mm + times * (c.groove_left_mm + c.relief_left_mm)
                + sqrt(c.uncertainty_mm ^ 2 + (times * c.depth_uncertainty_mm) ^ 2);
            if lower is null or s_sign * (c.worst_mm - l.discard) < lower - 0.000001 then
                raise exception 'it is not surely inside its discard limit' using errcode = 'UN005';
            end if;
            -- What somebody overlooks is seldom deep: near the limit "none" takes a gauge.
            if seen.by_eye and s_sign * (c.worst_mm - l.discard) < lower + public.rule_of('lookAgainWithin', 0.30) - 0.000001 then
                raise exception 'near its discard limit grooves and low lands are measured' using errcode = 'UN027';
            end if;
            if c.decision = 'LeadOnly' or s_sign * (c.worst_mm - l.machine_to) < lower - 0.000001 then
                lead_only := lead_only || c.id;
            end if;
        end if;
    end loop;
    if lead_only <> '{}' then
        if coalesce(trim(new.reason), '') = '' or not new.do_not_machine_again then
            raise exception 'between the limits only a lead releases, with a reason' using errcode = 'UN007';
        end if;
        if not coalesce((select (rules->>'leadMayReleaseBetweenLimits')::boolean from public.shops limit 1), true) then
            raise exception 'this shop releases nothing between the limits' using errcode = 'UN007';
        end if;
        perform public.require_signature(new.signature_id, new.part_id, 'BetweenLimits',
            'confirmations ' || array_to_string(array(select unnest(lead_only) order by 1), ','), new.by_id, 'UN007',
            'between the limits only a lead releases, with a PIN and a reason');
        new.signed_by_id := (select signed_by_id from public.signatures where id = new.signature_id);
    elsif new.signature_id is not null or new.signed_by_id is not null then
        raise exception 'nothing was to be signed for' using errcode = 'UN017';
    end if;
    return new;
end $$;

-- Recall.
create or replace function public.guard_withdrawal() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare o record;
begin
    select * into o from public.outcomes where id = new.outcome_id;
    perform 1 from public.parts where id = o.part_id for update;
    if coalesce(trim(new.reason), '') = '' then
        raise exception 'only a lead recalls a part, with a reason' using errcode = 'UN013';
    end if;
    if o.kind = 'Scrapped' then
        raise exception 'scrap stays scrap' using errcode = 'UN012';
    end if;
    if exists (select 1 from public.parts p join public.parts later on later.tag = p.tag and later.visit > p.visit
        where p.id = o.part_id) then
        raise exception 'the part was received again since' using errcode = 'UN015';
    end if;
    perform public.require_signature(new.signature_id, o.part_id, 'Recall', format('outcome %s', o.id), new.by_id, 'UN013',
        'only a lead recalls a part, with a PIN and a reason');
    new.signed_by_id := (select signed_by_id from public.signatures where id = new.signature_id);
    return new;
end $$;

-- A reading decided where it is past machine-to, or the worst and within its uncertainty of it. It is withdrawn only when the same
-- point was read again by the same or a finer gauge; beyond discard, and from before a cut, also with a lead's PIN.
create or replace function public.guard_reading_withdrawal() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare r record; s record; l record; made int; s_sign int; worst boolean; circle int; decided boolean; beyond boolean;
begin
    if coalesce(trim(new.reason), '') = '' then
        raise exception 'a reading is withdrawn with a reason' using errcode = 'UN020';
    end if;
    select * into r from public.readings where id = new.reading_id;
    if r.kind <> 'Size' then
        if new.signature_id is not null then raise exception 'nothing was to be signed for' using errcode = 'UN017'; end if;
        return new;
    end if;
    select * into s from public.surfaces where id = r.surface_id;
    select * into l from public.limits_at(s.id, 2147483647);
    select count(*) into made from public.passes where surface_id = s.id;
    s_sign := case when s.kind = 'Rotor' then 1 else -1 end;
    circle := case when s.kind = 'Rotor' then 360 else 180 end;
    beyond := coalesce(s_sign * (r.value_mm - l.discard) < 0, false);
    worst := not exists (select 1 from public.readings o left join public.withdrawals w on w.reading_id = o.id
        left join public.reading_flags f on f.reading_id = o.id
        where o.surface_id = s.id and o.kind = 'Size' and o.cuts = r.cuts and w.id is null and f.id is null
            and s_sign * (o.value_mm - r.value_mm) < 0);
    decided := beyond or coalesce(s_sign * (r.value_mm - l.machine_to) < 0
        or (worst and s_sign * (r.value_mm - l.machine_to) < r.uncertainty_mm), false);
    if decided and r.cuts = made and not exists (select 1 from public.reading_flags where reading_id = r.id)
        and not exists (select 1 from public.readings o left join public.withdrawals w on w.reading_id = o.id
            left join public.reading_flags f on f.reading_id = o.id
            where o.surface_id = s.id and o.kind = 'Size' and o.cuts = r.cuts and o.number > r.number and w.id is null and f.id is null
                and mod(coalesce(o.degrees, 0), circle) = mod(coalesce(r.degrees, 0), circle)
                and o.station_mm is not distinct from r.station_mm
                and o.resolution_mm <= r.resolution_mm and (o.gauge_id = r.gauge_id or o.uncertainty_mm <= r.uncertainty_mm)) then
        raise exception 'a reading that decided is withdrawn after its place was read again by the same or a finer gauge'
            using errcode = 'UN021';
    end if;
    if beyond or (decided and r.cuts < made) then
        perform public.require_signature(new.signature_id, s.part_id, 'ReadingBeyond', format('reading %s', r.id), new.by_id, 'UN022',
            'a reading beyond discard is withdrawn with a lead''s PIN');
    elsif new.signature_id is not null then
        raise exception 'nothing was to be signed for' using errcode = 'UN017';
    end if;
    return new;
end $$;

-- A reading is put in doubt by a check that its own gauge failed after it, and by nothing else.
create or replace function public.guard_flag() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if not exists (select 1 from public.readings r
        join public.zero_checks c on c.id = new.zero_check_id and c.gauge_id = r.gauge_id and not c.passed
            where r.id = new.reading_id) then
        raise exception 'a reading is put in doubt by a check that its gauge failed' using errcode = 'UN026';
    end if;
    return new;
end $$;

create or replace function public.guard_finding_withdrawal() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare f record;
begin
    select x.kind, s.part_id into f from public.findings x join public.surfaces s on s.id = x.surface_id where x.id = new.finding_id;
    if f.kind in ('Crack', 'NoTurn') then
        perform public.require_signature(new.signature_id, f.part_id, 'FindingTakenBack', format('finding %s', new.finding_id), new.by_id,
            'UN023',
            'a crack is taken back by a lead, with a PIN');
    end if;
    return new;
end $$;

-- A first pass that could end past machine-to is signed for.
create or replace function public.guard_plan() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
begin
    if new.document->'option'->>'start' = 'Blocked' or new.signature_id is not null then
        perform public.require_signature(new.signature_id, (select part_id from public.surfaces where id = new.surface_id), 'PastMachineTo',
            format('surface %s plan %s', new.surface_id, new.version), new.by_id, 'UN024',
            'a first pass that could end past machine-to is signed for by a lead, with a PIN');
    end if;
    return new;
end $$;

-- No pass is started on a plan that rests on what is not so any more: readings, limits, findings, set-up or mounting of after it.
create or replace function public.guard_cut_start() returns trigger
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
declare p record; l record; needed text[];
begin
    perform 1 from public.parts u join public.surfaces s on s.part_id = u.id where s.id = new.surface_id for update of u;
    select * into p from public.plans where id = new.plan_id and surface_id = new.surface_id;
    if not found or exists (select 1 from public.plans n where n.surface_id = new.surface_id and n.version > p.version) then
        raise exception 'a pass is started by the newest plan of its surface' using errcode = 'UN028';
    end if;
    select * into l from public.limits_at(new.surface_id, 2147483647);
    if l.machine_to is distinct from (p.document->'request'->>'machineTo')::numeric
        or l.discard is distinct from coalesce((p.document->'request'->>'discard')::numeric, l.discard)
        or exists (select 1 from public.readings r left join public.withdrawals w on w.reading_id = r.id
            left join public.reading_flags f on f.reading_id = r.id
            where r.surface_id = new.surface_id and case when r.number > p.number then w.id is null and f.id is null
                else greatest(w.number, f.number) > p.number end)
        or exists (select 1 from public.findings f left join public.finding_withdrawals w on w.finding_id = f.id
            where f.surface_id = new.surface_id and case when f.number > p.number then w.id is null and f.kind <> 'Nothing'
                else w.number > p.number end)
        or exists (select 1 from public.mounts m where m.surface_id = new.surface_id and m.number > p.number)
        or exists (select 1 from public.set_up_checks c where c.surface_id = new.surface_id and c.number > p.number) then
        raise exception 'the plan rests on what is not so any more' using errcode = 'UN028';
    end if;
    needed := array['Locks', 'Lever']
        || case when (select a.profile->>'kind' from public.lathes a where a.id = new.lathe_id) = 'Grinder' then '{}'
            else array['Damping'] end
        || case when coalesce((p.document->'option'->'passes'->new.index->>'turnFirst')::boolean, false) then array['Turned']
            else '{}' end;
    if not coalesce(new.looked_at, '{}') @> needed then
        raise exception 'locks, lever and damping are looked at before each start' using errcode = 'UN030';
    end if;
    -- The day of the shop is not known here: a check of the last 24 hours may be from yesterday, an older one never counts.
    if not exists (select 1 from public.eye_checks e where e.by_id = new.by_id and e.lathe_id = new.lathe_id
            and e.at <= new.at and e.at > new.at - interval '24 hours') then
        raise exception 'eyes, guard and sleeves are seen to once a day at each lathe' using errcode = 'UN031';
    end if;
    return new;
end $$;
