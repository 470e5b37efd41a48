do $$
declare
    kept record;
begin
    for kept in select tgrelid::regclass as name from pg_trigger where tgname = 'changes_are_kept' loop
        execute format('drop trigger changes_are_kept on %s', kept.name);
    end loop;
end $$;
alter table pour_entries drop column doer;
alter table lot_moves drop column doer;
drop table changes, failed_tries, one_time_codes, devices, sessions, accounts;
drop function change_is_kept, doer;
