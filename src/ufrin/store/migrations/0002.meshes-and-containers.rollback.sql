alter table stations drop column mesh, drop column container_id;
drop table containers;
drop table mesh_work;
drop table meshes;
