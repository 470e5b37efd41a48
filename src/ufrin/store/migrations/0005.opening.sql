-- The Opening station, and pull directions of a mesh.
-- depends: 0004.shelf-and-pours

alter table stations drop constraint station_name;
alter table stations add constraint station_name check (station in ('master', 'opening', 'box', 'rubber'));
insert into stations (job_id, station) select id, 'opening' from jobs;

alter table meshes add column directions jsonb;
alter table mesh_work drop constraint mesh_work_what;
alter table mesh_work add constraint mesh_work_what check (what in ('measure', 'attitudes', 'directions'));
