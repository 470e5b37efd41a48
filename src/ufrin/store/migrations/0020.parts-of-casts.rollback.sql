delete from input_keys where station = 'casts' and key in ('foam_each_g', 'face_each_g');

drop table shot_parts;
