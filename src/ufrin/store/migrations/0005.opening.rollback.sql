delete from mesh_work where what = 'directions';
alter table mesh_work drop constraint mesh_work_what;
alter table mesh_work add constraint mesh_work_what check (what in ('measure', 'attitudes'));
alter table meshes drop column directions;
delete from stations where station = 'opening';
alter table stations drop constraint station_name;
alter table stations add constraint station_name check (station in ('master', 'box', 'rubber'));
