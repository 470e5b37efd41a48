-- A shot says in plain words that it filled its cavities only partly; and what a list shows of a job whose mould is
-- begun, and was changed since, is worked out again once a pour begins or ends.
-- depends: 0018.one-figure

alter table shots rename column is_part to was_partly_filled;
alter table shots rename constraint shot_part_is_enough to partly_filled_is_not_short;

alter view job_marks rename to job_input_marks;
create view job_marks as
select i.job_id, concat_ws(
    ';', i.mark,
    (select max(p.id) || ':' || count(p.finished_at) from pours p where p.job_id = i.job_id and not p.is_cast)
) as mark
from job_input_marks i;
