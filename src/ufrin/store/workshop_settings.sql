-- name: load
-- The workshop's settings: one row.
select w.units, w.currency, w.confidence_pct, w.air, w.release, w.room_temp_c, w.scale_id, s.step_g as scale_step_g,
    w.time_zone, w.air_pressure_hpa, w.height_m, w.scale_hosts, workshop_day() as today, w.version
from workshop w left join scales s on s.id = w.scale_id

-- name: lock
-- The same, held against other saves.
select w.units, w.currency, w.confidence_pct, w.air, w.release, w.room_temp_c, w.scale_id, s.step_g as scale_step_g,
    w.time_zone, w.air_pressure_hpa, w.height_m, w.scale_hosts, workshop_day() as today, w.version
from workshop w left join scales s on s.id = w.scale_id for update of w

-- name: save
-- New settings.
update workshop set units = %(units)s, currency = %(currency)s, confidence_pct = %(confidence_pct)s, air = %(air)s,
    release = %(release)s, room_temp_c = %(room_temp_c)s, scale_id = %(scale_id)s,
    time_zone = %(time_zone)s, air_pressure_hpa = %(air_pressure_hpa)s, height_m = %(height_m)s,
    scale_hosts = %(scale_hosts)s,
    version = version + 1
