drop table done_steps;
drop table sheets;
alter table jobs drop column advised_style;
alter table workshop drop column scale_id, drop column room_temp_c;
