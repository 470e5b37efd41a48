-- name: load
-- The workshop's settings: one row.
select units, currency, confidence_pct, air, release, version from workshop

-- name: lock
-- The same, held against other saves.
select units, currency, confidence_pct, air, release, version from workshop for update

-- name: save
-- New settings.
update workshop set units = %(units)s, currency = %(currency)s, confidence_pct = %(confidence_pct)s, air = %(air)s,
    release = %(release)s,
    version = version + 1
