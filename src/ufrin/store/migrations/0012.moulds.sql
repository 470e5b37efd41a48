-- Moulds: their card, the signs of their wear, their care, why cavities were retired, and orders that are cast in them.
-- depends: 0011.cast-benches

create table moulds (
    id bigint generated always as identity primary key,
    job_id bigint not null constraint mould_of_job references jobs on delete cascade,
    made_on date not null,
    detail text not null default 'usual' constraint mould_detail check (detail in ('easy', 'usual', 'deep')),
    is_released boolean not null default false,
    shots_before integer not null default 0 constraint mould_shots_before check (shots_before between 0 and 1000000),
    release_every integer constraint mould_care check (release_every > 0 and clean_every > 0 and rest_every > 0),
    clean_every integer,
    rest_every integer,
    place text not null default '' constraint mould_place check (char_length(place) <= 120),
    -- a rigid mould of a mould keeps to one rubber family for ever, and tells what each half takes
    only_family text not null default '' constraint mould_family check (char_length(only_family) <= 40),
    parts integer constraint mould_parts check (parts between 1 and 20),
    half_amounts text not null default '' constraint mould_amounts check (char_length(half_amounts) <= 200),
    -- the mould whose cast was the master of this one
    parent_id bigint constraint mould_of_mould references moulds,
    finish text not null default '' constraint mould_finish check (finish in ('', 'gloss', 'satin', 'matt')),
    master_cost numeric(14, 4) not null default 0 constraint mould_costs check (
        master_cost >= 0 and master_cost < 1e12 and (mould_cost is null or (mould_cost >= 0 and mould_cost < 1e12))
        and (buy_price is null or (buy_price >= 0 and buy_price < 1e12)) and work_cost >= 0 and work_cost < 1e12
    ),
    mould_cost numeric(14, 4),
    work_cost numeric(14, 4) not null default 0,
    buy_price numeric(14, 4),
    -- the life to expect of a cavity by its rubber, its cast and its detail, as it was worked out last
    expected_casts double precision not null default 25
        constraint mould_expected check (expected_casts > 0 and expected_casts < 1e6),
    retired_at timestamptz,
    cause text not null default '' constraint mould_cause check (char_length(cause) <= 20),
    why text not null default '' constraint mould_why check (char_length(why) <= 200),
    version integer not null default 1,
    constraint mould_of_a_job unique (job_id),
    constraint mould_not_of_itself check (parent_id <> id),
    constraint mould_retired_for_a_cause check ((retired_at is null) = (cause = ''))
);
create index moulds_of_mould on moulds (parent_id) where parent_id is not null;

create table mould_signs (
    id bigint generated always as identity primary key,
    mould_id bigint not null constraint sign_of_mould references moulds on delete cascade,
    at timestamptz not null default now(),
    cavity integer constraint sign_cavity check (cavity between 1 and 1000),
    sign text not null constraint sign_kind check (sign in ('colour', 'sticking', 'edge', 'matt', 'swollen')),
    note text not null default '' constraint sign_note check (char_length(note) <= 200),
    photo bytea constraint sign_photo check (octet_length(photo) between 1 and 4000000)
);
create index signs_by_mould on mould_signs (mould_id, id desc);

create table mould_cares (
    mould_id bigint not null constraint care_of_mould references moulds on delete cascade,
    care text not null constraint care_kind check (care in ('release', 'clean', 'rest')),
    at timestamptz not null default now(),
    primary key (mould_id, care)
);

alter table retired_cavities
    add column cause text not null default 'other' constraint cavity_cause check (char_length(cause) between 1 and 20);

create table orders (
    id bigint generated always as identity primary key,
    job_id bigint not null constraint order_of_job references jobs on delete cascade,
    name text not null constraint order_name check (char_length(name) between 1 and 120),
    pieces integer not null constraint order_pieces check (pieces between 1 and 1000000),
    start_on date not null,
    due_on date constraint order_due check (due_on >= start_on),
    moulds_at_once integer not null default 1 constraint order_moulds check (moulds_at_once between 1 and 1000),
    cycle_min double precision not null constraint order_cycle check (cycle_min > 0 and cycle_min < 1e6),
    hours_a_day double precision not null constraint order_hours check (hours_a_day > 0 and hours_a_day <= 24),
    flawed_pct double precision not null default 0 constraint order_flawed check (flawed_pct >= 0 and flawed_pct < 90),
    made_at timestamptz not null default now(),
    closed_at timestamptz
);
create index orders_by_job on orders (job_id);
create index orders_open on orders (due_on) where closed_at is null;

-- those that are there already: taken out of their box, cast in, or entered by hand
insert into moulds (job_id, made_on)
select j.id, coalesce(
    (select max(p.demoulded_at) from pours p where p.job_id = j.id and not p.is_cast),
    (select min(s.at) from shots s where s.job_id = j.id), j.created_at
)::date
from jobs j
where j.is_mould_only or exists (select from shots s where s.job_id = j.id)
    or exists (select from pours p where p.job_id = j.id and not p.is_cast and p.demoulded_at is not null);
