-- The room of a job is one, at its Rubber station; and a mould is post-cured where its tin or the job asks for it.
-- depends: 0017.practice

update stations r set inputs = r.inputs || jsonb_build_object('room_temp_c', c.inputs -> 'room_c')
from stations c
where c.job_id = r.job_id and r.station = 'rubber' and c.station = 'casts'
    and c.inputs ? 'room_c' and not r.inputs ? 'room_temp_c';
insert into retired_inputs (job_id, station, key, value)
select job_id, station, 'room_c', inputs -> 'room_c' from stations where station = 'casts' and inputs ? 'room_c'
on conflict do nothing;
update stations set inputs = inputs - 'room_c' where station = 'casts' and inputs ? 'room_c';
update earlier_inputs set inputs = inputs - 'room_c' where station = 'casts' and inputs ? 'room_c';
update undone_inputs set inputs = inputs - 'room_c' where station = 'casts' and inputs ? 'room_c';
delete from input_keys where station = 'casts' and key = 'room_c';

alter table rubbers
    add column post_cure_c double precision,
    add column post_cure_min double precision,
    add constraint rubber_post_cure check (
        (post_cure_c is null) = (post_cure_min is null) and post_cure_c between 20 and 300 and post_cure_min > 0
    );
insert into input_keys (station, kind, key)
select 'rubber', 'number', unnest(array['post_cure_c', 'post_cure_min']);

-- filled to a part on purpose: it teaches nothing of the amount
alter table shots add column is_part boolean not null default false,
    add constraint shot_part_is_enough check (not (is_part and was_short));
