drop table safety_sheets, faults, sign_offs, own_rules, products;
alter table containers drop column material;
alter table workshop drop column air, drop column release;
delete from stations where station = 'checks';
alter table stations drop constraint station_name;
alter table stations add constraint station_name check (station in ('master', 'opening', 'box', 'rubber'));
