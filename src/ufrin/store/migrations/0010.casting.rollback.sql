alter table lot_moves disable trigger user;
update lot_moves set kind = 'counted' where kind = 'cast';
alter table lot_moves enable trigger user;
alter table lot_moves
    drop constraint lot_move_names_its_shot,
    drop column shot_id,
    drop constraint lot_move_kind,
    add constraint lot_move_kind check (kind in ('poured', 'corrected', 'counted', 'found'));
alter table shots drop column pour_id;
drop table retired_cavities, shot_photos, shot_pieces, shots, trials, cavity_counts;
drop function pieces_are_counted, shot_counts_no_more;
delete from lots where resin_id is not null or addition_id is not null;
drop index lot_code_taken;
alter table lots
    drop constraint lot_of_one_thing,
    drop constraint lot_part_fits,
    drop column resin_id,
    drop column addition_id,
    add constraint lot_of_one_thing check (num_nonnulls(rubber_id, additive_id) = 1),
    add constraint lot_part_fits check ((rubber_id is null) = (part = 'all'));
create unique index lot_code_taken on lots (rubber_id, additive_id, part, lower(code)) nulls not distinct;
delete from earlier_inputs where station = 'casts';
delete from stations where station = 'casts';
delete from input_keys where station = 'casts';
alter table stations
    drop constraint station_name,
    add constraint station_name check (station in ('master', 'opening', 'box', 'rubber', 'checks')),
    drop column resin_id,
    drop column foam_id,
    drop column filler_id,
    drop column cast_colour_id;
drop table resins, additions;
-- the version before does not know casts at the bench: their records go with their log
alter table lot_moves disable trigger user;
alter table pour_entries disable trigger user;
alter table pours disable trigger user;
update lot_moves set kind = 'counted', pour_id = null, number = null
where pour_id in (select id from pours where is_cast);
delete from pour_photos where pour_id in (select id from pours where is_cast);
delete from pour_entries where pour_id in (select id from pours where is_cast);
delete from pours where is_cast;
alter table lot_moves enable trigger user;
alter table pour_entries enable trigger user;
alter table pours enable trigger user;
alter table pours drop column is_cast;
