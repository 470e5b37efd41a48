-- name: demo_state
-- How far the filling with demo data came.
select demo from workshop

-- name: mark_demo
-- Kept with the settings, so that it goes with them.
update workshop set demo = %(state)s

-- name: is_empty
-- Whether there is neither a job nor a rubber.
select not exists (select from jobs) and not exists (select from rubbers) as is_empty

-- name: empty
-- All that makers put in; the settings name a scale, so they go with the scales.
truncate jobs, rubbers, additives, resins, additions, products, cups, containers, scales, people, equipment, other_work,
    placed_steps, schedule_plans restart identity cascade

-- name: settings
-- The settings as they are at first.
insert into workshop default values

-- name: somebody
-- Somebody to plan with.
insert into people (name) values ('Maker')
