-- Backups: what was made when, how many are kept, and how old the newest may get before the Board warns.
-- depends: 0014.people

create table backups (
    id bigint generated always as identity primary key,
    tried_at timestamptz not null default now(),
    -- empty where it failed
    file text not null constraint backup_file check (char_length(file) <= 400),
    bytes bigint not null default 0 constraint backup_bytes check (bytes >= 0),
    row_count bigint not null default 0 constraint backup_rows check (row_count >= 0),
    took_s double precision not null default 0 constraint backup_time check (took_s >= 0),
    -- why it failed
    refused text not null default ''
);
create index backups_by_time on backups (tried_at desc);

alter table workshop
    add column backups_kept integer not null default 14
        constraint workshop_backups_kept check (backups_kept between 1 and 366),
    add column backup_wish_days integer not null default 2
        constraint workshop_backup_wish check (backup_wish_days between 0 and 366);

create trigger backup_changes_are_kept after update of backups_kept, backup_wish_days on workshop
    for each row execute function change_is_kept('version');
