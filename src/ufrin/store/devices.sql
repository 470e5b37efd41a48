-- name: all
-- Devices that have joined, the newest first.
select id, name, kind, joined_at, joined_by, seen_at, who from devices order by kind, id desc

-- name: of_token
-- The device that has a token; ``is_seen_anew`` asks for it to be marked as used.
select id, name, kind, joined_at, joined_by, seen_at, who, seen_at < now() - interval '1 minute' as is_seen_anew
from devices where token_hash = %(token_hash)s

-- name: seen
-- The device was used.
update devices set seen_at = now() where id = %(id)s

-- name: join
-- A device joins.
insert into devices (name, kind, token_hash, joined_by) values (%(name)s, %(kind)s, %(token_hash)s, %(joined_by)s) returning id

-- name: stands
-- Somebody else stands at it.
update devices set who = %(who)s where id = %(id)s returning id

-- name: throw_out
-- It may do nothing any more.
delete from devices where id = %(id)s returning id

-- name: add_code
-- A code that works once.
insert into one_time_codes (code_hash, kind, account_id, made_by, ends_at)
values (%(code_hash)s, %(kind)s, %(account_id)s, %(made_by)s, now() + make_interval(secs => %(lasts_s)s))

-- name: forget_codes
-- Codes of a kind that nobody used, of one account where it is named.
delete from one_time_codes where kind = %(kind)s and account_id is not distinct from %(account_id)s and used_at is null

-- name: code
-- A code that may still be used; a clock that was set back to before it was made makes it no good.
select kind, account_id, made_by, extract(epoch from ends_at - now())::float8 as left_s from one_time_codes
where code_hash = %(code_hash)s and kind = %(kind)s and used_at is null and ends_at > now()
    and made_at < now() + interval '1 minute'

-- name: use_code
-- It is used, once.
update one_time_codes set used_at = now() where code_hash = %(code_hash)s and kind = %(kind)s and used_at is null
    and ends_at > now() and made_at < now() + interval '1 minute'
returning kind, account_id, made_by, 0.0::float8 as left_s

-- name: was_used
-- Whether a code was used, for the page that shows it.
select used_at is not null as was_used from one_time_codes where code_hash = %(code_hash)s
