drop view job_marks;
drop table board_rows;
alter table jobs drop constraint job_advised_style;
alter table stations
    drop column other_id, drop column third_id, drop column shape;
drop index stations_by_blend, stations_by_thinner, stations_by_thickener, stations_by_pigment, stations_by_cup;
drop trigger stations_fit on stations;
drop trigger earlier_inputs_fit on earlier_inputs;
drop function inputs_fit;
alter table earlier_inputs drop column shape;
drop table retired_inputs, input_keys;
alter table faults add column pairs text[] not null default '{}', drop constraint fault_symptom, drop constraint fault_cause;
update faults f set pairs = (
    select coalesce(array_agg(p.pour || '|' || p.touches || '|' || p.between_kind order by p.place), '{}')
    from fault_pairs p where p.fault_id = f.id
);
create index faults_by_pair on faults using gin (pairs);
drop table fault_pairs;
drop index own_rules_of_rubber;
alter table own_rules
    drop constraint own_rule_pour, drop constraint own_rule_touches, drop constraint own_rule_between,
    drop constraint own_rule_verdict;
drop trigger lot_moves_stay on lot_moves;
drop trigger lots_follow_their_moves on lot_moves;
drop trigger lots_are_their_moves on lots;
drop trigger lots_come_whole on lots;
drop function lots_follow_moves, lot_is_its_moves, lot_comes_whole;
drop index lots_of_additive, lot_moves_of_entry;
alter table lots
    drop constraint lot_left_of_got, drop constraint lot_price,
    alter column got_g type double precision, alter column left_g type double precision,
    alter column price type double precision;
alter table lot_moves
    drop constraint lot_move_grams, drop constraint lot_move_of_entry, drop constraint lot_move_names_its_entry,
    drop column kind, alter column grams type double precision;
drop trigger pour_entries_are_told on pour_entries;
drop function pour_entry_is_told;
drop trigger pour_entries_stay on pour_entries;
drop trigger pours_are_kept on pours;
drop index pour_entries_by_lot, pour_entries_corrected;
alter table pour_entries
    drop constraint pour_entry_figures, drop constraint pour_entry_kind, drop constraint entry_of_entry,
    drop constraint entry_of_pour,
    add constraint pour_entries_pour_id_fkey foreign key (pour_id) references pours on delete cascade;
alter table pours
    drop constraint pour_finished_after_start, drop constraint pour_figures, drop constraint pour_plan,
    drop constraint pour_of_job,
    add constraint pour_of_job foreign key (job_id) references jobs on delete cascade;
drop index coupons_by_thinner;
alter table coupons drop constraint coupon_figures;
alter table scales drop constraint scale_figures;
alter table containers drop constraint container_figures, drop constraint container_material;
alter table cups drop constraint cup_figures;
alter table products
    drop constraint product_price, drop constraint product_figures, drop constraint product_finish,
    drop constraint product_put_on, drop constraint product_kind, alter column pack_price type double precision;
alter table additives
    drop constraint additive_price, drop constraint additive_figures, drop constraint additive_family,
    alter column pack_price type double precision;
alter table rubbers
    drop constraint rubber_price, drop constraint rubber_figures, drop constraint rubber_ratio_is_a_number,
    drop constraint rubber_ratio_has_two_parts, drop constraint rubber_hardness, drop constraint rubber_thinner_of,
    drop constraint rubber_form, drop constraint rubber_family, alter column kit_price type double precision;
drop index safety_sheets_of_additive, safety_sheets_of_product;
alter table safety_sheets add column data bytea;
update safety_sheets s set data = f.data from safety_sheet_files f where f.sheet_id = s.id;
alter table safety_sheets alter column data set not null;
drop table safety_sheet_files;
alter table mesh_work drop constraint mesh_work_progress, drop constraint mesh_work_tries;
alter table meshes add column data bytea, add column solid bytea, add column drawn bytea;
update meshes m set data = f.data from mesh_files f where f.mesh = m.hash;
update meshes m set solid = s.solid, drawn = s.drawn from mesh_solids s where s.mesh = m.hash;
alter table meshes
    alter column data set not null, drop constraint mesh_figures, drop column bytes;
drop table mesh_solids, mesh_files;
drop function workshop_day;
drop index workshop_scale;
alter table workshop
    drop column demo, drop column scale_hosts, drop column height_m, drop column air_pressure_hpa, drop column time_zone;
