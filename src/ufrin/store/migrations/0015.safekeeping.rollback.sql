drop table shared_sheets, incoming_parcels;
drop trigger backup_changes_are_kept on workshop;
alter table workshop drop column backups_kept, drop column backup_wish_days;
drop table backups;
