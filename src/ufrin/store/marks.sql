-- name: marks
-- Numbers that have gone up since what runs, or a list of jobs, may differ.
select (select last_value from runs_mark) as runs, (select last_value from lists_mark) as lists
