-- What can't be is refused by the database itself; stock is the sum of its moves; the Board has rows of its own; heavy
-- parts stand beside the rows that pages read.
-- depends: 0007.one-plan

-- the workshop's day, and the pressure of its air: typed, or from its height above the sea, or that of the sea
alter table workshop
    add column time_zone text not null default 'UTC'
        constraint workshop_time_zone check (timezone(time_zone, timestamptz '2000-01-01 00:00+00') is not null),
    add column air_pressure_hpa double precision
        constraint workshop_air_pressure check (air_pressure_hpa between 500 and 1100),
    add column height_m double precision constraint workshop_height check (height_m between -500 and 5500),
    add column scale_hosts text not null default '127.0.0.1, localhost'
        constraint workshop_scale_hosts check (char_length(scale_hosts) <= 400),
    add column demo text constraint workshop_demo check (demo in ('begun', 'filled'));
create index workshop_scale on workshop (scale_id);
create function workshop_day() returns date stable language sql as
    $$ select (now() at time zone time_zone)::date from workshop $$;

-- the file and the solids of a mesh stand beside the row that pages read, and so does the content of a sheet
create table mesh_files (
    mesh text primary key constraint file_of_mesh references meshes on delete cascade,
    data bytea not null
);
alter table mesh_files alter column data set storage external;
insert into mesh_files select hash, data from meshes;
create table mesh_solids (
    mesh text primary key constraint solid_of_mesh references meshes on delete cascade,
    solid bytea not null,
    drawn bytea not null
);
alter table mesh_solids alter column solid set storage external;
insert into mesh_solids select hash, solid, drawn from meshes where solid is not null and drawn is not null;
alter table meshes add column bytes bigint;
update meshes set bytes = octet_length(data);
alter table meshes
    alter column bytes set not null,
    add constraint mesh_bytes check (bytes >= 0),
    add constraint mesh_figures check (jsonb_typeof(figures) = 'object'),
    drop column data, drop column solid, drop column drawn;
alter table mesh_work
    add constraint mesh_work_progress check (progress between 0 and 1),
    add constraint mesh_work_tries check (tries >= 0);

create table safety_sheet_files (
    sheet_id bigint primary key constraint file_of_sheet references safety_sheets on delete cascade,
    data bytea not null
);
alter table safety_sheet_files alter column data set storage external;
insert into safety_sheet_files select id, data from safety_sheets;
alter table safety_sheets drop column data;
create index safety_sheets_of_additive on safety_sheets (additive_id) where additive_id is not null;
create index safety_sheets_of_product on safety_sheets (product_id) where product_id is not null;

-- figures on the Shelf: a comparison with an upper bound refuses "not a number" too, which counts as more than anything
alter table rubbers
    alter column kit_price type numeric(14, 4),
    add constraint rubber_family check (family in ('addition-silicone', 'condensation-silicone', 'polyurethane-rubber')),
    add constraint rubber_form check (form in ('liquid', 'putty')),
    add constraint rubber_thinner_of check (thinner_of in ('A+B', 'A')),
    add constraint rubber_hardness check (hardness_scale in ('00', 'A', 'D') and hardness between 0 and 100),
    add constraint rubber_ratio_has_two_parts check (
        (weight_a is null) = (weight_b is null) and (volume_a is null) = (volume_b is null)
        and (weight_a is not null or volume_a is not null)
    ),
    add constraint rubber_ratio_is_a_number check (
        weight_a < 1e9 and weight_b < 1e9 and volume_a < 1e9 and volume_b < 1e9
    ),
    add constraint rubber_figures check (
        sg_a between 0.05 and 30 and sg_b between 0.05 and 30 and sg_mixed between 0.05 and 30
        and tolerance_pct > 0 and tolerance_pct <= 100 and viscosity_mpa_s > 0 and viscosity_mpa_s < 1e12
        and pot_life_min > 0 and pot_life_min < 1e9 and demould_min > 0 and demould_min < 1e9
        and full_cure_min > 0 and full_cure_min < 1e9 and elongation_pct >= 0 and elongation_pct < 1e9
        and tear_kn_per_m >= 0 and tear_kn_per_m < 1e9 and kit_g > 0 and kit_g < 1e9
    ),
    add constraint rubber_price check (kit_price >= 0 and kit_price < 1e9);
alter table additives
    alter column pack_price type numeric(14, 4),
    add constraint additive_family check (
        family in ('any', 'addition-silicone', 'condensation-silicone', 'polyurethane-rubber')
    ),
    add constraint additive_figures check (
        sg between 0.05 and 30 and viscosity_mpa_s > 0 and viscosity_mpa_s < 1e12
        and most_parts > 0 and most_parts < 1e6 and pack_g > 0 and pack_g < 1e9
    ),
    add constraint additive_price check (pack_price >= 0 and pack_price < 1e9);
alter table products
    alter column pack_price type numeric(14, 4),
    add constraint product_kind check (kind in (
        'clear-coat', 'shellac', 'wax', 'petroleum-jelly', 'soap', 'silicone-release',
        'silicone-free-release', 'pva-film', 'talc'
    )),
    add constraint product_put_on check (by in ('spray', 'brush', 'wipe', 'dust')),
    add constraint product_finish check (finish in ('kind', 'shiny', 'satin', 'matt')),
    add constraint product_figures check (sets_min > 0 and sets_min < 1e9 and shots > 0 and shots < 1e9),
    add constraint product_price check (pack_price >= 0 and pack_price < 1e9);
alter table cups add constraint cup_figures check (
    bottom_mm > 0 and bottom_mm <= 10000 and top_mm > 0 and top_mm <= 10000 and height_mm > 0 and height_mm <= 10000
    and mark_ml > 0 and mark_ml < 1e9
);
alter table containers
    add constraint container_material check (material in (
        'addition-silicone', 'condensation-silicone', 'polyurethane-rubber', 'polyurethane-resin',
        'clear-polyurethane', 'epoxy-resin', 'polyester-resin', 'plaster', 'concrete', 'wax', 'sulphur-clay',
        'sulphur-free-clay', 'photopolymer-print', 'filament-print', 'bare-wood', 'sealed-wood', 'foam',
        'metal', 'glass', 'acrylic-sheet', 'melamine-board', 'plastic-sheet', 'stone', 'ceramic', 'shell',
        'card', 'paint', 'latex', 'sealed'
    )),
    add constraint container_figures check (
        length_mm > 0 and length_mm <= 10000 and width_mm > 0 and width_mm <= 10000
        and bottom_mm > 0 and bottom_mm <= 10000 and top_mm > 0 and top_mm <= 10000 and height_mm <= 10000
    );
alter table scales add constraint scale_figures check (
    baud between 50 and 4000000 and step_g > 0 and step_g <= most_g and most_g <= 1e6
);
alter table coupons add constraint coupon_figures check (
    cardinality(readings) between 1 and 100 and 0 <= all (readings) and 100 >= all (readings)
    and thickness_mm > 0 and thickness_mm < 1e6 and edge_mm >= 0 and edge_mm < 1e6
    and apart_mm >= 0 and apart_mm < 1e6
);
create index coupons_by_thinner on coupons (thinner_id) where thinner_id is not null;

-- pours and their records are only added to: a job with pours can be put away, not deleted
alter table pours
    drop constraint pour_of_job,
    add constraint pour_of_job foreign key (job_id) references jobs,
    add constraint pour_plan check (jsonb_typeof(plan) = 'object'),
    add constraint pour_figures check (needed_g >= 0 and needed_g < 1e9 and used_g >= 0 and used_g < 1e9),
    add constraint pour_finished_after_start check (finished_at >= started_at);
alter table pour_entries drop constraint pour_entries_pour_id_fkey;
alter table pour_entries
    add constraint entry_of_pour foreign key (pour_id) references pours,
    add constraint entry_of_entry foreign key (pour_id, of_number) references pour_entries (pour_id, number),
    add constraint pour_entry_kind check (kind in (
        'start', 'tare', 'hold', 'down', 'weigh', 'wrong', 'discard', 'mixed', 'poured', 'leftover',
        'temperature', 'correction', 'note', 'finish'
    )),
    add constraint pour_entry_figures check (
        net_g between -1e7 and 1e7 and gross_g between -1e7 and 1e7 and temp_c between -60 and 200
        and steady_s > -1e12 and steady_s < 1e12
    );
create index pour_entries_corrected on pour_entries (pour_id, of_number) where of_number is not null;
create index pour_entries_by_lot on pour_entries (lot_id) where lot_id is not null;
create trigger pours_are_kept before delete on pours for each row execute function record_is_not_changed();
create trigger pour_entries_stay before delete on pour_entries for each row execute function record_is_not_changed();

-- every server on this database hears of a new line, so that benches and tabs at any of them look again
create function pour_entry_is_told() returns trigger language plpgsql as $$
begin
    perform pg_notify('pour_entries', new.pour_id::text);
    return null;
end $$;
create trigger pour_entries_are_told after insert on pour_entries for each row execute function pour_entry_is_told();

-- stock is the sum of its moves: what came less what was taken, and nothing else writes it
alter table lot_moves disable trigger lot_moves_are_kept;
update lot_moves m set pour_id = null, number = null
where not exists (select from pour_entries e where e.pour_id = m.pour_id and e.number = m.number);
update lots set got_g = greatest(got_g, left_g);
alter table lots
    alter column got_g type numeric(12, 3), alter column left_g type numeric(12, 3),
    alter column price type numeric(14, 4);
alter table lot_moves alter column grams type numeric(12, 3), add column kind text;
update lot_moves set kind =
    case when pour_id is null then 'counted' when why like 'corrected:%' then 'corrected' else 'poured' end;
insert into lot_moves (lot_id, grams, why, kind)
select l.id, l.got_g - coalesce(m.grams, 0) - l.left_g, 'brought forward', 'counted'
from lots l left join (select lot_id, sum(grams) as grams from lot_moves group by lot_id) as m on m.lot_id = l.id
where l.got_g - coalesce(m.grams, 0) <> l.left_g;
alter table lot_moves
    alter column kind set not null,
    add constraint lot_move_kind check (kind in ('poured', 'corrected', 'counted', 'found')),
    add constraint lot_move_names_its_pour check ((kind in ('poured', 'corrected')) = (pour_id is not null)),
    add constraint lot_move_names_its_entry check ((pour_id is null) = (number is null)),
    add constraint lot_move_of_entry foreign key (pour_id, number) references pour_entries (pour_id, number)
        deferrable initially deferred,
    add constraint lot_move_grams check (grams between -1e7 and 1e7);
create index lot_moves_of_entry on lot_moves (pour_id, number) where pour_id is not null;
alter table lot_moves enable trigger lot_moves_are_kept;
alter table lots
    add constraint lot_left_of_got check (left_g <= got_g),
    add constraint lot_price check (price >= 0 and price < 1e9);
create index lots_of_additive on lots (additive_id) where additive_id is not null;

create function lot_comes_whole() returns trigger language plpgsql as $$
begin
    if new.left_g is not null and new.left_g <> new.got_g then
        raise exception 'a tin comes whole' using errcode = 'integrity_constraint_violation', constraint = 'lot_stock';
    end if;
    new.left_g := new.got_g;
    return new;
end $$;
create trigger lots_come_whole before insert on lots for each row execute function lot_comes_whole();
create function lot_is_its_moves() returns trigger language plpgsql as $$
begin
    if pg_trigger_depth() > 1 then
        return new;
    end if;
    if new.left_g is distinct from old.left_g then
        raise exception 'stock is the sum of its moves'
            using errcode = 'integrity_constraint_violation', constraint = 'lot_stock';
    end if;
    new.left_g := old.left_g + new.got_g - old.got_g;
    return new;
end $$;
create trigger lots_are_their_moves before update on lots for each row execute function lot_is_its_moves();
create function lots_follow_moves() returns trigger language plpgsql as $$
begin
    update lots l set left_g = l.left_g - m.grams, version = l.version + 1,
        opened_on = case when m.poured then coalesce(l.opened_on, workshop_day()) else l.opened_on end
    from (select lot_id, sum(grams) as grams, bool_or(kind = 'poured') as poured from new_moves group by lot_id) as m
    where l.id = m.lot_id;
    return null;
end $$;
create trigger lots_follow_their_moves after insert on lot_moves referencing new table as new_moves
    for each statement execute function lots_follow_moves();
create trigger lot_moves_stay before delete on lot_moves for each row when (old.pour_id is not null)
    execute function record_is_not_changed();

-- the shop's own tests, and the pairings of a fault in columns
alter table own_rules
    add constraint own_rule_pour check (pour in (
        'addition-silicone', 'condensation-silicone', 'polyurethane-rubber', 'polyurethane-resin',
        'clear-polyurethane', 'epoxy-resin', 'polyester-resin', 'plaster', 'concrete', 'wax'
    )),
    add constraint own_rule_touches check (char_length(touches) between 1 and 120),
    add constraint own_rule_between check (between_kind in (
        'none', 'clear-coat', 'shellac', 'wax', 'petroleum-jelly', 'soap', 'silicone-release',
        'silicone-free-release', 'pva-film', 'talc'
    )),
    add constraint own_rule_verdict check (
        verdict in ('fine', 'release', 'seal', 'may-not-set', 'will-not-set', 'bonds', 'harms-mould')
    );
create index own_rules_of_rubber on own_rules (rubber_id) where rubber_id is not null;
create table fault_pairs (
    fault_id bigint not null constraint pair_of_fault references faults on delete cascade,
    place integer not null constraint fault_pair_place check (place > 0),
    pour text not null,
    touches text not null,
    between_kind text not null,
    primary key (fault_id, place)
);
insert into fault_pairs
select f.id, p.place, split_part(p.pair, '|', 1), split_part(p.pair, '|', 2), split_part(p.pair, '|', 3)
from faults f cross join lateral unnest(f.pairs) with ordinality as p (pair, place);
create index fault_pairs_by_case on fault_pairs (pour, touches, between_kind);
alter table faults
    drop column pairs,
    add constraint fault_symptom check (char_length(symptom) between 1 and 60),
    add constraint fault_cause check (char_length(cause) between 1 and 60);

-- what a station holds: every key is known and of its kind, in the shape that this version reads
create table input_keys (
    station text not null,
    key text not null,
    kind text not null constraint input_key_kind check (kind in ('number', 'string', 'boolean')),
    primary key (station, key)
);
insert into input_keys
select k.station, unnest(k.keys), k.kind from (values
    ('master', 'string', array[
        'what', 'mesh', 'mesh_unit', 'up', 'standin', 'profile', 'outline', 'counted_way', 'material',
        'own_material', 'sealer', 'release', 'finish'
    ]),
    ('master', 'number', array[
        'spin_deg', 'shrink_pct', 'surface_pm_mm', 'top_mm', 'ring_mm', 'slab_base_mm', 'relief_ml',
        'length_mm', 'width_mm', 'height_mm', 'mass_g', 'known_ml', 'known_pm_ml', 'hung_reading_g',
        'hung_sinker_g', 'under_reading_g', 'under_sinker_g', 'level_before_ml', 'level_after_ml',
        'dip_diameter_mm', 'dip_before_mm', 'dip_after_mm', 'boxed_length_mm', 'boxed_width_mm',
        'boxed_depth_mm', 'boxed_net_ml', 'boxed_count', 'grain_before_ml', 'grain_after_ml',
        'density_g_per_ml', 'density_pm_g_per_ml', 'water_temp_c', 'scale_step_g', 'mark_ml', 'ruler_step_mm',
        'size_pm_mm'
    ]),
    ('master', 'boolean', array[
        'solid'
    ]),
    ('opening', 'string', array[
        'style', 'bed_material', 'show', 'slit_side', 'keys', 'cast_up', 'gates', 'vents'
    ]),
    ('opening', 'number', array[
        'slack_mm', 'key_mm', 'tilt_limit_deg', 'worth_ml'
    ]),
    ('opening', 'boolean', array[
        'flat_back', 'chin', 'hook', 'hole_through', 'thin_part', 'tall_part'
    ]),
    ('box', 'string', array[
        'shape', 'bed_material', 'filler_family', 'jacket_material', 'wall_material', 'board_material',
        'joint'
    ]),
    ('box', 'number', array[
        'container_id', 'count', 'other_id', 'other_count', 'third_id', 'third_count', 'rows', 'columns',
        'side_mm', 'over_mm', 'under_mm', 'gap_mm', 'bed_mm', 'sunk_mm', 'freeboard_mm', 'wall_thickness_mm',
        'lip_mm', 'filler_ml', 'jacket_mm', 'sheet_length_mm', 'sheet_width_mm', 'kerf_mm'
    ]),
    ('rubber', 'number', array[
        'rubber_id', 'blend_id', 'blend_pct', 'thinner_id', 'thinner_parts', 'pigment_id', 'pigment_pct',
        'kit_left_a_g', 'spare_pct', 'learnt_spare_pct', 'cling_g', 'scale_step_g', 'cup_id', 'cup_ml',
        'rise_factor', 'cup_mark_ml', 'drops_per_ml', 'room_temp_c', 'mix_min', 'degas_min', 'pour_min',
        'pad_mm', 'pad_thickness_mm', 'coats', 'coat_mm', 'coat_area_cm2', 'thickener_id', 'thickener_parts',
        'shots_wanted', 'target_shore'
    ]),
    ('rubber', 'string', array[
        'basis', 'amount', 'learnt_spare_on', 'undercut', 'detail', 'target_scale'
    ]),
    ('checks', 'string', array[
        'between_board', 'between_walls', 'between_bed', 'between_halves', 'between_cast', 'cast_material',
        'cast_finish', 'insert', 'air', 'cast_air'
    ]),
    ('checks', 'number', array[
        'drop_mm', 'vibrate_min', 'vacuum_kpa', 'vacuum_gauge_kpa', 'vacuum_min', 'pot_kpa', 'cast_kpa'
    ])
) as k (station, kind, keys);

-- keys of earlier versions that nothing reads any more are set aside, not lost
create table retired_inputs (
    job_id bigint not null constraint retired_inputs_of_job references jobs on delete cascade,
    station text not null,
    key text not null,
    value jsonb not null,
    retired_at timestamptz not null default now()
);
create index retired_inputs_by_job on retired_inputs (job_id);
insert into retired_inputs (job_id, station, key, value)
select s.job_id, s.station, e.key, e.value from stations s cross join lateral jsonb_each(s.inputs) as e
where not exists (select from input_keys k where k.station = s.station and k.key = e.key);
update stations s set inputs = kept.inputs
from (
    select s.job_id, s.station, coalesce(jsonb_object_agg(e.key, e.value) filter (where k.key is not null), '{}') as inputs
    from stations s cross join lateral jsonb_each(s.inputs) as e
    left join input_keys k on k.station = s.station and k.key = e.key
    group by s.job_id, s.station having bool_or(k.key is null)
) as kept
where kept.job_id = s.job_id and kept.station = s.station;
update earlier_inputs s set inputs = kept.inputs
from (
    select s.job_id, s.station, s.version,
        coalesce(jsonb_object_agg(e.key, e.value) filter (where k.key is not null), '{}') as inputs
    from earlier_inputs s cross join lateral jsonb_each(s.inputs) as e
    left join input_keys k on k.station = s.station and k.key = e.key
    group by s.job_id, s.station, s.version having bool_or(k.key is null)
) as kept
where kept.job_id = s.job_id and kept.station = s.station and kept.version = s.version;

alter table stations add column shape smallint not null default 8 constraint station_shape check (shape > 0);
alter table earlier_inputs add column shape smallint not null default 8 constraint earlier_shape check (shape > 0);
create function inputs_fit() returns trigger language plpgsql as $$
declare wrong record;
begin
    select e.key, k.kind into wrong from jsonb_each(new.inputs) as e
        left join input_keys k on k.station = new.station and k.key = e.key
        where k.kind is distinct from jsonb_typeof(e.value) limit 1;
    if found then
        raise exception 'a station has no such input as %', wrong.key using errcode = 'integrity_constraint_violation',
            constraint = case when wrong.kind is null then 'station_input_known' else 'station_input_kind' end;
    end if;
    return new;
end $$;
create trigger stations_fit before insert or update of inputs on stations
    for each row execute function inputs_fit();
create trigger earlier_inputs_fit before insert on earlier_inputs for each row execute function inputs_fit();

-- the other jobs whose masters share a box are real ones
update stations s set inputs = s.inputs - 'other_id' - 'other_count'
where s.inputs ? 'other_id' and not exists (select from jobs j where j.id = (s.inputs ->> 'other_id')::bigint);
update stations s set inputs = s.inputs - 'third_id' - 'third_count'
where s.inputs ? 'third_id' and not exists (select from jobs j where j.id = (s.inputs ->> 'third_id')::bigint);
alter table stations
    add column other_id bigint generated always as ((inputs ->> 'other_id')::bigint) stored
        constraint other_job_shares_box references jobs,
    add column third_id bigint generated always as ((inputs ->> 'third_id')::bigint) stored
        constraint third_job_shares_box references jobs,
    add constraint box_is_shared_with_others check (other_id <> job_id and third_id <> job_id);
create index stations_by_other on stations (other_id) where other_id is not null;
create index stations_by_third on stations (third_id) where third_id is not null;
create index stations_by_blend on stations (blend_id) where blend_id is not null;
create index stations_by_thinner on stations (thinner_id) where thinner_id is not null;
create index stations_by_thickener on stations (thickener_id) where thickener_id is not null;
create index stations_by_pigment on stations (pigment_id) where pigment_id is not null;
create index stations_by_cup on stations (cup_id) where cup_id is not null;

alter table jobs add constraint job_advised_style check (advised_style in (
    'open', 'slit', 'two-part', 'squeeze', 'skin', 'press', 'tray'
));

-- what a list shows of a job, and from what it was worked out
create table board_rows (
    job_id bigint primary key constraint row_of_job references jobs on delete cascade,
    figures jsonb not null constraint board_row_figures check (jsonb_typeof(figures) = 'object'),
    worked_out_from text not null,
    asked_at timestamptz
);

-- the versions of everything that the figures of a job follow from: as long as this stays, they stay
create view job_marks as
select j.id as job_id, concat_ws(
    ';',
    (select string_agg(s.version::text, ',' order by s.station) from stations s where s.job_id = j.id),
    (select string_agg(o.job_id || ':' || o.station || ':' || o.version, ',' order by o.job_id, o.station)
        from stations b join stations o on o.job_id in (b.other_id, b.third_id)
        where b.job_id = j.id and b.station = 'box'),
    (select string_agg(m.hash || ':' || (m.figures is not null), ',' order by m.hash)
        from stations b left join stations s on s.station = 'master' and s.job_id in (b.job_id, b.other_id, b.third_id)
            join meshes m on m.hash = s.mesh
        where b.job_id = j.id and b.station = 'box'),
    (select string_agg(c.id || ':' || c.version, ',') from stations b join containers c on c.id = b.container_id
        where b.job_id = j.id and b.station = 'box'),
    (select concat_ws(
            ',',
            (select string_agg(r.id || ':' || r.version || ':' || (r.retired_at is null), ',' order by r.id)
                from rubbers r where r.id in (s.rubber_id, s.blend_id)),
            (select string_agg(a.id || ':' || a.version, ',' order by a.id)
                from additives a where a.id in (s.thinner_id, s.thickener_id, s.pigment_id)),
            (select c.version from cups c where c.id = s.cup_id),
            (select count(*) || ':' || coalesce(sum(l.version), 0) || ':'
                    || count(*) filter (where l.use_by < workshop_day()) || ':'
                    || count(*) filter (where l.use_by <= workshop_day() + 30)
                from lots l where l.rubber_id in (s.rubber_id, s.blend_id)
                    or l.additive_id in (s.thinner_id, s.thickener_id, s.pigment_id)),
            (select count(*) || ':' || count(c.withdrawn_at) from coupons c where c.rubber_id = s.rubber_id),
            case when not s.inputs ?| array['spare_pct', 'learnt_spare_pct'] then (select max(p.id) from pours p) end
        ) from stations s where s.job_id = j.id and s.station = 'rubber'),
    (select count(*) || ':' || count(s.withdrawn_at) from sign_offs s where s.job_id = j.id),
    (select w.version || ':' || coalesce(s.version, 0) from workshop w left join scales s on s.id = w.scale_id),
    (select count(*) || ':' || coalesce(max(r.id), 0) || ':' || count(r.withdrawn_at) from own_rules r),
    (select count(*) || ':' || coalesce(sum(p.version), 0) from products p)
) as mark
from jobs j;
