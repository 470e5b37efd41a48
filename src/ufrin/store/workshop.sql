-- name: load
-- The workshop's settings: one row.
select units, currency, version from workshop

-- name: lock
-- The same, held against other saves.
select units, currency, version from workshop for update

-- name: save
-- New settings.
update workshop set units = %(units)s, currency = %(currency)s, version = version + 1
