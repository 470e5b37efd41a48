-- Safekeeping: backups and what is wished of them, parcels that wait to be brought in, and sheets that are shared.
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

-- a parcel that was sent and looked at, until somebody says what to do with what collides
create table incoming_parcels (
    id bigint generated always as identity primary key,
    data bytea not null constraint parcel_size check (octet_length(data) > 0),
    name text not null constraint parcel_name check (char_length(name) <= 200),
    arrived_at timestamptz not null default now()
);

-- a job's sheet for a colleague without an account: whoever has the address may read it until it ends
create table shared_sheets (
    id bigint generated always as identity primary key,
    secret_hash bytea not null constraint shared_secret unique,
    job_id bigint not null constraint shared_of_job references jobs on delete cascade,
    for_whom text not null constraint shared_for check (char_length(for_whom) between 1 and 60),
    made_at timestamptz not null default now(),
    made_by text not null default '',
    ends_at timestamptz not null
);
create index shared_sheets_by_job on shared_sheets (job_id);
create trigger changes_are_kept after insert or delete on shared_sheets
    for each row execute function change_is_kept('job_id');
