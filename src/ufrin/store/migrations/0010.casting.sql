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
        'thickness_mm', 'coat_mm', 'face_mm', 'squeeze_pct', 'set_in_ml', 'set_in_g', 'set_in_after', 'known_g',
        'known_cm2', 'mould_g', 'cup_ml', 'room_c'
    ]),
    ('string', array['cast_kind', 'basis', 'layers', 'colour_shares'])
) as k (kind, keys);
insert into stations (job_id, station) select id, 'casts' from jobs;
