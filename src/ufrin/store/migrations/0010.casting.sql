-- Casting materials and what is stirred into them, their tins, and the Casts station.
create table resins (
    id bigint generated always as identity primary key,
    name text not null constraint resin_name_length check (char_length(name) between 1 and 120),
    kind text not null constraint resin_kind check (kind in (
        'polyurethane-resin', 'clear-polyurethane', 'epoxy-resin', 'polyester-resin', 'rigid-foam', 'soft-foam',
        'polyurethane-rubber', 'addition-silicone', 'condensation-silicone', 'plaster', 'wax'
    )),
    a_name text not null,
    a_colour text not null,
    b_name text not null,
    b_colour text not null,
    weight_a double precision,
    weight_b double precision,
    volume_a double precision,
    volume_b double precision,
    drops_per_100_g double precision,
    sg_a double precision,
    sg_b double precision,
    sg_mixed double precision,
    rises double precision,
    tolerance_pct double precision not null,
    viscosity_mpa_s double precision,
    shrinkage_pct double precision,
    pot_life_min double precision,
    handling_min double precision,
    demould_min double precision,
    full_cure_min double precision,
    most_g double precision,
    most_mm double precision,
    colour_most_pct double precision not null,
    kit_g double precision,
    kit_price numeric(14, 4) constraint resin_price check (kit_price >= 0 and kit_price < 1e9),
    retired_at timestamptz,
    version integer not null default 1,
    constraint resin_ratio_has_two_parts check (
        (weight_a is null) = (weight_b is null) and (volume_a is null) = (volume_b is null)
    ),
    constraint resin_figures check (
        weight_a > 0 and weight_a < 1e9 and weight_b > 0 and weight_b < 1e9
        and volume_a > 0 and volume_a < 1e9 and volume_b > 0 and volume_b < 1e9
        and drops_per_100_g > 0 and drops_per_100_g < 1e6
        and sg_a between 0.005 and 30 and sg_b between 0.005 and 30 and sg_mixed between 0.005 and 30
        and rises > 1 and rises < 1e3 and tolerance_pct > 0 and tolerance_pct <= 100
        and viscosity_mpa_s > 0 and viscosity_mpa_s < 1e12 and shrinkage_pct between -20 and 50
        and pot_life_min > 0 and pot_life_min < 1e9 and handling_min > 0 and handling_min < 1e9
        and demould_min > 0 and demould_min < 1e9 and full_cure_min > 0 and full_cure_min < 1e9
        and most_g > 0 and most_g < 1e9 and most_mm > 0 and most_mm <= 10000
        and colour_most_pct between 0 and 100 and kit_g > 0 and kit_g < 1e9
    )
);
create unique index resin_name_taken on resins (lower(name));

create table additions (
    id bigint generated always as identity primary key,
    name text not null constraint addition_name_length check (char_length(name) between 1 and 120),
    kind text not null constraint addition_kind check (kind in (
        'filler', 'light-filler', 'metal', 'dry-pigment', 'resin-colour', 'water-colour'
    )),
    colour text not null,
    bulk_sg double precision,
    true_sg double precision,
    most_volumes double precision,
    dry_min double precision,
    dry_c double precision,
    pack_g double precision,
    pack_price numeric(14, 4) constraint addition_price check (pack_price >= 0 and pack_price < 1e9),
    retired_at timestamptz,
    version integer not null default 1,
    constraint addition_densities check (bulk_sg <= true_sg),
    constraint addition_figures check (
        bulk_sg between 0.005 and 30 and true_sg between 0.005 and 30 and most_volumes > 0 and most_volumes < 1e3
        and dry_min > 0 and dry_min < 1e9 and dry_c between -60 and 400 and pack_g > 0 and pack_g < 1e9
    )
);
create unique index addition_name_taken on additions (lower(name));

drop index lot_code_taken;
alter table lots
    add column resin_id bigint constraint resin_has_lots references resins,
    add column addition_id bigint constraint addition_has_lots references additions,
    drop constraint lot_of_one_thing,
    drop constraint lot_part_fits,
    add constraint lot_of_one_thing check (num_nonnulls(rubber_id, additive_id, resin_id, addition_id) = 1),
    add constraint lot_part_fits check (resin_id is not null or (rubber_id is null) = (part = 'all'));
create unique index lot_code_taken
    on lots (rubber_id, additive_id, resin_id, addition_id, part, lower(code)) nulls not distinct;
create index lots_of_resin on lots (resin_id) where resin_id is not null;
create index lots_of_addition on lots (addition_id) where addition_id is not null;

-- the Casts station
alter table stations
    drop constraint station_name,
    add constraint station_name check (station in ('master', 'opening', 'box', 'rubber', 'checks', 'casts')),
    add column resin_id bigint generated always as ((inputs ->> 'resin_id')::bigint) stored
        constraint resin_in_use references resins,
    add column foam_id bigint generated always as ((inputs ->> 'foam_id')::bigint) stored
        constraint foam_in_use references resins,
    add column filler_id bigint generated always as ((inputs ->> 'filler_id')::bigint) stored
        constraint filler_in_use references additions,
    add column cast_colour_id bigint generated always as ((inputs ->> 'cast_colour_id')::bigint) stored
        constraint cast_colour_in_use references additions;
create index stations_by_resin on stations (resin_id) where resin_id is not null;
create index stations_by_foam on stations (foam_id) where foam_id is not null;
create index stations_by_filler on stations (filler_id) where filler_id is not null;
create index stations_by_cast_colour on stations (cast_colour_id) where cast_colour_id is not null;
insert into input_keys (station, kind, key)
select 'casts', k.kind, unnest(k.keys) from (values
    ('number', array[
        'resin_id', 'foam_id', 'filler_id', 'cast_colour_id', 'cavities', 'pieces', 'cavity_ml', 'area_cm2',
        'height_mm', 'rubber_shrink_pct', 'sprue_ml', 'overfill_pct', 'spare_pct', 'scoops', 'colour_pct',
        'thickness_mm', 'coat_mm', 'face_mm', 'squeeze_pct', 'each_g', 'set_in_ml', 'set_in_g', 'set_in_after', 'known_g',
        'known_cm2', 'mould_g', 'now_g', 'cup_ml', 'room_c'
    ]),
    ('string', array['cast_kind', 'basis', 'layers', 'colour_shares'])
) as k (kind, keys);
insert into stations (job_id, station) select id, 'casts' from jobs;

-- casts are weighed at the same bench; they belong to no mould that is being made
alter table pours add column is_cast boolean generated always as ((plan ->> 'how') is not distinct from 'cast') stored;

-- the log of a mould: its shots, the pieces of each, and trials of two ways
create table trials (
    id bigint generated always as identity primary key,
    job_id bigint not null constraint trial_of_job references jobs on delete cascade,
    what text not null constraint trial_what check (char_length(what) between 1 and 60),
    first text not null constraint trial_first check (char_length(first) between 1 and 60),
    second text not null constraint trial_second check (char_length(second) between 1 and 60),
    seed bigint not null,
    is_blind boolean not null default false,
    started_at timestamptz not null default now(),
    ended_at timestamptz
);
create unique index trial_of_a_time on trials (job_id) where ended_at is null;
create index trials_by_job on trials (job_id);

create table shots (
    id bigint generated always as identity primary key,
    job_id bigint not null constraint shot_of_job references jobs on delete cascade,
    trial_id bigint constraint shot_of_trial references trials,
    pour_id bigint constraint shot_of_pour references pours,
    at timestamptz not null default now(),
    who text not null constraint shot_who check (char_length(who) <= 120),
    kind text not null constraint shot_kind check (char_length(kind) between 1 and 40),
    resin text not null constraint shot_resin check (char_length(resin) <= 120),
    mixed_g double precision not null,
    left_over_g double precision not null,
    was_short boolean not null,
    missing_g double precision not null,
    release text not null constraint shot_release check (char_length(release) <= 120),
    air text not null constraint shot_air check (char_length(air) <= 40),
    attitude text not null constraint shot_attitude check (char_length(attitude) <= 120),
    mould_c double precision,
    room_c double precision,
    note text not null constraint shot_note check (char_length(note) <= 400),
    reason text not null constraint shot_reason check (char_length(reason) <= 400),
    token text not null constraint shot_token check (char_length(token) between 1 and 80),
    taken_back_at timestamptz,
    constraint shot_once unique (job_id, token),
    constraint shot_figures check (
        mixed_g > 0 and mixed_g < 1e7 and left_over_g >= 0 and left_over_g < mixed_g and missing_g >= 0 and missing_g < 1e7
        and mould_c between -60 and 300 and room_c between -60 and 100
    )
);
create index shots_by_job on shots (job_id, kind, id);
create unique index shot_of_a_pour on shots (pour_id) where pour_id is not null and taken_back_at is null;
create index shots_by_pour on shots (pour_id) where pour_id is not null;
create index shots_by_trial on shots (trial_id) where trial_id is not null;

create table shot_pieces (
    shot_id bigint not null constraint piece_of_shot references shots on delete cascade,
    cavity integer not null constraint piece_cavity check (cavity between 1 and 1000),
    is_good boolean not null,
    flaws text[] not null,
    final_g double precision constraint piece_weight check (final_g > 0 and final_g < 1e7),
    way text not null default '' constraint piece_way check (way in ('', 'first', 'second')),
    primary key (shot_id, cavity)
);

-- what a cavity has come to, counted as shots are logged and taken back: a log may be long
create table cavity_counts (
    job_id bigint not null constraint count_of_job references jobs on delete cascade,
    cavity integer not null,
    shots integer not null,
    good integer not null,
    primary key (job_id, cavity)
);
create function pieces_are_counted() returns trigger language plpgsql as $$
begin
    insert into cavity_counts (job_id, cavity, shots, good)
    select s.job_id, p.cavity, count(*), count(*) filter (where p.is_good)
    from new_pieces p join shots s on s.id = p.shot_id group by s.job_id, p.cavity
    on conflict (job_id, cavity) do update
        set shots = cavity_counts.shots + excluded.shots, good = cavity_counts.good + excluded.good;
    return null;
end $$;
create trigger pieces_are_counted after insert on shot_pieces referencing new table as new_pieces
    for each statement execute function pieces_are_counted();
create function shot_counts_no_more() returns trigger language plpgsql as $$
begin
    update cavity_counts c set shots = c.shots - 1, good = c.good - p.is_good::integer
    from shot_pieces p where p.shot_id = new.id and c.job_id = new.job_id and c.cavity = p.cavity;
    return null;
end $$;
create trigger shot_counts_no_more after update of taken_back_at on shots
    for each row when (old.taken_back_at is null and new.taken_back_at is not null)
    execute function shot_counts_no_more();

create table shot_photos (
    id bigint generated always as identity primary key,
    shot_id bigint not null constraint photo_of_shot references shots on delete cascade,
    data bytea not null constraint shot_photo_size check (octet_length(data) between 1 and 4000000),
    width_px integer not null,
    height_px integer not null
);
create index shot_photos_by_shot on shot_photos (shot_id);

-- what a shot took out of which tin
alter table lot_moves
    add column shot_id bigint constraint move_of_shot references shots,
    drop constraint lot_move_kind,
    add constraint lot_move_kind check (kind in ('poured', 'corrected', 'counted', 'found', 'cast')),
    add constraint lot_move_names_its_shot check ((kind = 'cast') = (shot_id is not null));
create index lot_moves_of_shot on lot_moves (shot_id) where shot_id is not null;

create table retired_cavities (
    job_id bigint not null constraint cavity_of_job references jobs on delete cascade,
    cavity integer not null constraint cavity_number check (cavity between 1 and 1000),
    why text not null constraint cavity_why check (char_length(why) between 1 and 200),
    at timestamptz not null default now(),
    primary key (job_id, cavity)
);
