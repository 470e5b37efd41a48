-- Meshes by their content, the Shelf's containers, and the queue of long work beside them.
-- depends: 0001.first

create table meshes (
    hash text primary key constraint mesh_hash check (hash ~ '^[0-9a-f]{64}$'),
    name text not null constraint mesh_name_length check (char_length(name) <= 200),
    data bytea not null,
    figures jsonb,
    solid bytea,
    drawn bytea,
    attitudes jsonb,
    arrived_at timestamptz not null default now()
);
alter table meshes alter column data set storage external;
alter table meshes alter column solid set storage external;

-- what is worked out from a mesh, once, and where that stands
create table mesh_work (
    mesh text not null references meshes on delete cascade,
    what text not null constraint mesh_work_what check (what in ('measure', 'attitudes')),
    state text not null default 'waiting' constraint mesh_work_state check (state in ('waiting', 'done', 'refused', 'stopped')),
    progress real not null default 0,
    tries integer not null default 0,
    refused text,
    primary key (mesh, what)
);

create table containers (
    id bigint generated always as identity primary key,
    name text not null constraint container_name_length check (char_length(name) between 1 and 120),
    shape text not null constraint container_shape check (shape in ('rectangle', 'round', 'tapered')),
    length_mm double precision,
    width_mm double precision,
    bottom_mm double precision,
    top_mm double precision,
    height_mm double precision not null constraint container_height check (height_mm > 0),
    retired_at timestamptz,
    version integer not null default 1
);
create unique index container_name_taken on containers (lower(name));

alter table stations
    add column container_id bigint generated always as ((inputs ->> 'container_id')::bigint) stored constraint container_in_use references containers,
    add column mesh text generated always as (inputs ->> 'mesh') stored constraint mesh_in_use references meshes;
create index stations_by_container on stations (container_id) where container_id is not null;
create index stations_by_mesh on stations (mesh) where mesh is not null;
