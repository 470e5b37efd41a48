drop view job_marks;
alter view job_input_marks rename to job_marks;
alter table shots rename constraint partly_filled_is_not_short to shot_part_is_enough;
alter table shots rename column was_partly_filled to is_part;
