-- name: note
-- What a thermometer reads now; into the log where it differs from what was noted last, or that is long ago.
with heard as (
    update thermometers set heard_at = to_timestamp(%(wall_s)s), heard_c = %(temp_c)s where id = %(id)s returning name
), last as (
    select r.temp_c, r.at from room_temps r join heard h on h.name = r.thermometer order by r.at desc, r.id desc limit 1
)
insert into room_temps (at, steady_s, machine, temp_c, thermometer)
select to_timestamp(%(wall_s)s), %(steady_s)s, %(machine)s, %(temp_c)s, h.name from heard h
where not exists (
    select from last l where abs(l.temp_c - %(temp_c)s) < %(changed_c)s
        and l.at > to_timestamp(%(wall_s)s) - make_interval(secs => 60 * %(every_min)s)
)

-- name: heard
-- The thermometers in use, and when each was heard last.
select name, heard_at, heard_c from thermometers where retired_at is null order by lower(name)
