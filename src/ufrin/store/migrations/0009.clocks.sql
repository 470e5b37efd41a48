-- Clocks after the pour: what is noted until the mould is taken out, the temperatures of the room, what the shop's own
-- cures teach, pictures, and when a job is wished to be ready.
-- depends: 0008.steady

alter table rubbers
    add column mix_least_min double precision,
    add column mix_most_min double precision,
    add column press_min double precision,
    add column cast_in_min double precision,
    add constraint rubber_times check (
        mix_least_min > 0 and mix_least_min < 1e9 and mix_most_min > 0 and mix_most_min < 1e9
        and mix_most_min >= mix_least_min and press_min > 0 and press_min < 1e9
        and cast_in_min > 0 and cast_in_min < 1e9
    );

alter table pour_entries
    add column what text not null default '' constraint pour_entry_what check (char_length(what) <= 40),
    add column volume_ml double precision
        constraint pour_entry_volume check (volume_ml > 0 and volume_ml <= 1e6),
    drop constraint pour_entry_kind,
    add constraint pour_entry_kind check (kind in (
        'start', 'tare', 'hold', 'down', 'weigh', 'wrong', 'discard', 'mixed', 'poured', 'leftover',
        'temperature', 'correction', 'note', 'finish', 'step', 'witness', 'short', 'mishap', 'demould', 'found',
        'photo', 'retract'
    ));
create index pour_entries_that_teach on pour_entries (pour_id) where kind in ('witness', 'demould');

-- pictures of what was found, beside the line that names them; taken down to what a page needs
create table pour_photos (
    pour_id bigint not null,
    number integer not null,
    data bytea not null,
    width_px integer not null,
    height_px integer not null,
    primary key (pour_id, number),
    constraint photo_of_entry foreign key (pour_id, number) references pour_entries (pour_id, number),
    constraint photo_size check (width_px between 1 and 4000 and height_px between 1 and 4000)
);
alter table pour_photos alter column data set storage external;

-- what is poured and not yet taken out, found without reading every record
alter table pours
    add column demoulded_at timestamptz,
    add column half text not null generated always as (coalesce(plan ->> 'half', '')) stored,
    add column is_followed boolean not null generated always as (plan ->> 'method' is not null) stored;
create index pours_to_take_out on pours (finished_at desc)
    where finished_at is not null and demoulded_at is null and is_followed;
create index pours_taken_out on pours (demoulded_at desc) where demoulded_at is not null;

create table thermometers (
    id bigint generated always as identity primary key,
    name text not null constraint thermometer_name_length check (char_length(name) between 1 and 120),
    address text not null,
    baud double precision not null constraint thermometer_baud check (baud between 50 and 4000000),
    heard_at timestamptz,
    heard_c double precision constraint thermometer_heard check (heard_c between -60 and 200),
    retired_at timestamptz,
    version integer not null default 1
);
create unique index thermometer_name_taken on thermometers (lower(name));

-- the temperatures of the room, noted when they change; the name stays when the thermometer goes
create table room_temps (
    id bigint generated always as identity primary key,
    at timestamptz not null,
    steady_s double precision not null,
    machine text not null,
    temp_c double precision not null constraint room_temp check (temp_c between -60 and 200),
    thermometer text not null
);
create index room_temps_by_time on room_temps (at, id);

-- how long a rubber takes here as a share of its tin's time, worked out again whenever a pour tells something of it
create table cure_factors (
    rubber_id bigint primary key constraint factor_of_rubber references rubbers on delete cascade,
    log_mean double precision not null,
    log_sd double precision not null,
    pours integer not null constraint factor_pours check (pours >= 0)
);

alter table jobs add column wanted_at timestamptz;

-- numbers that go up with every change that may matter to what runs, or to the lists of jobs: as long as a number stays,
-- what was read under it stays true; they go up before the change is committed
create sequence runs_mark;
create sequence lists_mark;
create function mark_goes_up() returns trigger language plpgsql as $$
begin
    perform nextval(tg_argv[0]::regclass);
    return null;
end $$;
do $$
declare
    moved text;
begin
    foreach moved in array array['pour_entries', 'pours', 'room_temps', 'jobs'] loop
        execute format(
            'create trigger runs_mark_goes_up after insert or update or delete or truncate on %I '
            'for each statement execute function mark_goes_up(''runs_mark'')', moved
        );
    end loop;
    foreach moved in array array[
        'jobs', 'board_rows', 'stations', 'meshes', 'containers', 'rubbers', 'additives', 'cups', 'lots', 'coupons',
        'sign_offs', 'workshop', 'scales', 'own_rules', 'products', 'pours', 'pour_entries', 'room_temps'
    ] loop
        execute format(
            'create trigger lists_mark_goes_up after insert or update or delete or truncate on %I '
            'for each statement execute function mark_goes_up(''lists_mark'')', moved
        );
    end loop;
end $$;
