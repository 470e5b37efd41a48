-- Jobs with their stations, the Shelf's rubbers, and the workshop's settings.
-- depends:

create table workshop (
    id smallint primary key default 1 constraint one_workshop check (id = 1),
    units text not null default 'metric' constraint workshop_units check (units in ('metric', 'us')),
    currency text not null default 'EUR' constraint workshop_currency check (char_length(currency) between 1 and 8),
    version integer not null default 1
);
insert into workshop default values;

create table rubbers (
    id bigint generated always as identity primary key,
    name text not null constraint rubber_name_length check (char_length(name) between 1 and 120),
    family text not null,
    a_name text not null,
    a_colour text not null,
    b_name text not null,
    b_colour text not null,
    weight_a double precision,
    weight_b double precision,
    volume_a double precision,
    volume_b double precision,
    sg_a double precision,
    sg_b double precision,
    sg_mixed double precision,
    tolerance_pct double precision not null,
    viscosity_mpa_s double precision,
    pot_life_min double precision,
    demould_min double precision,
    full_cure_min double precision,
    hardness_scale text not null,
    hardness double precision,
    elongation_pct double precision,
    tear_kn_per_m double precision,
    kit_g double precision,
    kit_price double precision,
    retired_at timestamptz,
    version integer not null default 1,
    constraint rubber_ratio_by_weight check (weight_a > 0 and weight_b > 0),
    constraint rubber_ratio_by_volume check (volume_a > 0 and volume_b > 0)
);
create unique index rubber_name_taken on rubbers (lower(name));

create table jobs (
    id bigint generated always as identity primary key,
    name text not null constraint job_name_length check (char_length(name) between 1 and 120),
    created_at timestamptz not null default now(),
    put_away_at timestamptz
);
create index jobs_newest_first on jobs (created_at desc, id desc) where put_away_at is null;

create table stations (
    job_id bigint not null references jobs on delete cascade,
    station text not null constraint station_name check (station in ('master', 'box', 'rubber')),
    inputs jsonb not null default '{}',
    version integer not null default 1,
    rubber_id bigint generated always as ((inputs ->> 'rubber_id')::bigint) stored constraint rubber_in_use references rubbers,
    primary key (job_id, station)
);
create index stations_by_rubber on stations (rubber_id) where rubber_id is not null;

-- what a station held before: a stack, taken from by undo
create table earlier_inputs (
    job_id bigint not null,
    station text not null,
    version integer not null,
    inputs jsonb not null,
    kept_at timestamptz not null default now(),
    primary key (job_id, station, version),
    foreign key (job_id, station) references stations on delete cascade
);
