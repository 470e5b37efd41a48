alter table shots drop constraint shot_part_is_enough, drop column is_part;
alter table rubbers drop constraint rubber_post_cure, drop column post_cure_c, drop column post_cure_min;
update stations set inputs = inputs - array['post_cure_c', 'post_cure_min'] where station = 'rubber';
update earlier_inputs set inputs = inputs - array['post_cure_c', 'post_cure_min'] where station = 'rubber';
update undone_inputs set inputs = inputs - array['post_cure_c', 'post_cure_min'] where station = 'rubber';
delete from input_keys where station = 'rubber' and key in ('post_cure_c', 'post_cure_min');
insert into input_keys (station, kind, key) values ('casts', 'number', 'room_c');
