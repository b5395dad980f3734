-- Hands what an earlier version made as the cluster's superuser to the owner of the database. Run by the administrator.
do $$
declare o record;
begin
    for o in select c.oid::regclass::text as name from pg_catalog.pg_class c join pg_catalog.pg_namespace n on n.oid = c.relnamespace
            where n.nspname = 'public' and c.relkind in ('r', 'p', 'S') and pg_get_userbyid(c.relowner) <> 'uncial_owner'
                and not exists (select 1 from pg_catalog.pg_depend d where d.objid = c.oid and d.deptype in ('e', 'a', 'i')
                    and (c.relkind = 'S' or d.deptype = 'e')) loop
        execute format('alter table %s owner to uncial_owner', o.name);
    end loop;
    for o in select p.oid::regprocedure::text as name from pg_catalog.pg_proc p join pg_catalog.pg_namespace n on n.oid = p.pronamespace
            where n.nspname = 'public' and pg_get_userbyid(p.proowner) <> 'uncial_owner'
                and not exists (select 1 from pg_catalog.pg_depend d where d.objid = p.oid and d.deptype = 'e') loop
        execute format('alter routine %s owner to uncial_owner', o.name);
    end loop;
    execute format('revoke temporary, create on database %I from public', current_database());
    execute format('grant connect on database %I to uncial_app, uncial_practice', current_database());
end $$;
