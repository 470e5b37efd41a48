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
