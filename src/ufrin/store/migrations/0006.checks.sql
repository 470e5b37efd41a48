-- The Checks station: the shop's own tests and schools, releases on the Shelf, sign-offs, faults and their outcomes, safety data sheets.
-- depends: 0005.opening

alter table stations drop constraint station_name;
alter table stations add constraint station_name check (station in ('master', 'opening', 'box', 'rubber', 'checks'));
insert into stations (job_id, station) select id, 'checks' from jobs;

alter table workshop
    add column air text not null default 'clear' constraint workshop_air check (air in ('clear', 'stream', 'vibrate', 'vacuum', 'pressure')),
    add column release text not null default 'spare' constraint workshop_release check (release in ('spare', 'always'));
alter table containers add column material text not null default 'plastic-sheet';

create table products (
    id bigint generated always as identity primary key,
    name text not null constraint product_name_length check (char_length(name) between 1 and 120),
    kind text not null,
    by text not null,
    finish text not null,
    sets_min double precision,
    shots double precision,
    pack_price double precision,
    retired_at timestamptz,
    version integer not null default 1
);
create unique index product_name_taken on products (lower(name));

create table own_rules (
    id bigint generated always as identity primary key,
    pour text not null,
    touches text not null,
    between_kind text not null,
    rubber_id bigint constraint rubber_has_tests references rubbers,
    verdict text not null,
    why text not null constraint own_rule_why check (char_length(why) between 1 and 400),
    tried_on date not null,
    added_at timestamptz not null default now(),
    withdrawn_at timestamptz
);
create unique index own_rule_once on own_rules (pour, touches, between_kind, rubber_id, verdict, why, tried_on) nulls not distinct where withdrawn_at is null;

-- stops that somebody took upon themselves; withdrawn, never deleted
create table sign_offs (
    id bigint generated always as identity primary key,
    job_id bigint not null references jobs on delete cascade,
    about text not null constraint sign_off_about check (char_length(about) between 1 and 64),
    says text not null,
    reason text not null constraint sign_off_reason check (char_length(reason) between 1 and 400),
    who text not null constraint sign_off_who check (char_length(who) between 1 and 120),
    at timestamptz not null default now(),
    withdrawn_at timestamptz
);
create unique index sign_off_once on sign_offs (job_id, about) where withdrawn_at is null;

-- what went wrong in a job, and what it turned out to be; pairs are "poured|touched|between" of the job as it was then
create table faults (
    id bigint generated always as identity primary key,
    job_id bigint not null references jobs on delete cascade,
    symptom text not null,
    cause text not null,
    note text not null constraint fault_note check (char_length(note) <= 400),
    pairs text[] not null,
    at timestamptz not null default now()
);
create index faults_of_job on faults (job_id, id desc);
create index faults_by_pair on faults using gin (pairs);

create table safety_sheets (
    id bigint generated always as identity primary key,
    rubber_id bigint references rubbers on delete cascade,
    additive_id bigint references additives on delete cascade,
    product_id bigint references products on delete cascade,
    name text not null constraint safety_sheet_name check (char_length(name) between 1 and 200),
    media text not null,
    data bytea not null,
    at timestamptz not null default now(),
    constraint safety_sheet_of_one_thing check (num_nonnulls(rubber_id, additive_id, product_id) = 1)
);
create unique index safety_sheet_once on safety_sheets (rubber_id, additive_id, product_id) nulls not distinct;
