-- name: begin
-- One more; what somebody left unfinished before is thrown away.
with left_open as (
    delete from practices where ended_at is null
        and case when %(account_id)s::bigint is null then account_id is null and lower(who) = lower(%(who)s)
            else account_id = %(account_id)s end
)
insert into practices (account_id, who, level, plan, mishaps, began_at, steady_s, machine)
values (%(account_id)s, %(who)s, %(level)s, %(plan)s, %(mishaps)s, to_timestamp(%(wall_s)s), %(steady_s)s, %(machine)s)
returning id

-- name: look
-- A practice.
select id, account_id, who, level, plan, mishaps, began_at, steady_s, machine, ended_at from practices where id = %(id)s

-- name: lock
-- The same, held until its next line is kept.
select id, account_id, who, level, plan, mishaps, began_at, steady_s, machine, ended_at from practices where id = %(id)s
for update

-- name: lines
-- Its lines, in their order.
select is_act, line from practice_lines where practice_id = %(id)s order by number

-- name: how_many
-- How many lines it has, which tells whether it has gone on.
select count(*) as lines from practice_lines where practice_id = %(id)s

-- name: add
-- One more line.
insert into practice_lines (practice_id, number, is_act, line)
select %(id)s, count(*) + 1, %(is_act)s, %(line)s from practice_lines where practice_id = %(id)s

-- name: end
-- It has ended, with what came of it.
update practices set ended_at = to_timestamp(%(wall_s)s), review = %(review)s where id = %(id)s

-- name: past
-- What somebody practised, the newest first.
select id, level, plan ->> 'rubber' as rubber, ended_at, review from practices
where ended_at is not null
    and case when %(account_id)s::bigint is null then account_id is null and lower(who) = lower(%(who)s)
        else account_id = %(account_id)s end
order by id desc limit %(limit)s
