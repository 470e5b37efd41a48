-- name: begin
-- Somebody has signed in.
insert into sessions (token_hash, account_id, ends_at, program)
values (%(token_hash)s, %(account_id)s, now() + make_interval(hours => %(longest_h)s), %(program)s)

-- name: of_token
-- Who is signed in with a token: neither idle for too long, nor past its end, nor begun in the future by a clock that
-- was set back since.
select a.id as account_id, a.name, a.role, s.seen_at < now() - interval '1 minute' as is_seen_anew
from sessions s join accounts a on a.id = s.account_id
where s.token_hash = %(token_hash)s and a.ended_at is null and s.ends_at > now()
    and s.seen_at > now() - make_interval(hours => %(idle_h)s) and s.began_at < now() + interval '5 minutes'

-- name: seen
-- The session was used.
update sessions set seen_at = now() where token_hash = %(token_hash)s

-- name: of_account
-- The sessions of somebody, the newest first.
select began_at, seen_at, ends_at, program, token_hash = %(token_hash)s as is_this_one
from sessions where account_id = %(account_id)s and ends_at > now() and seen_at > now() - make_interval(hours => %(idle_h)s)
order by seen_at desc

-- name: end
-- Signed out here.
delete from sessions where token_hash = %(token_hash)s

-- name: end_all
-- Signed out everywhere, or everywhere but here.
delete from sessions where account_id = %(account_id)s and token_hash is distinct from %(besides)s

-- name: tidy
-- Sessions that can't be used any more, and old codes and tries.
with ended as (delete from sessions where ends_at < now() or seen_at < now() - make_interval(hours => %(idle_h)s)),
    used as (delete from one_time_codes where ends_at < now() - interval '1 day')
delete from failed_tries where at < now() - interval '1 day'

-- name: failed
-- A try that failed.
insert into failed_tries (name, address) values (%(name)s, %(address)s)

-- name: failures
-- How often somebody has failed lately: under this name from this address, from this address, and under this name; a
-- clock that was set back since makes none of them forgotten.
select
    count(*) filter (where name = %(name)s and address = %(address)s and at > now() - interval '15 minutes') as here,
    count(*) filter (where address = %(address)s and at > now() - interval '15 minutes') as address,
    count(*) filter (where name = %(name)s and at > now() - interval '1 hour') as name
from failed_tries where at > now() - interval '1 hour' and (name = %(name)s or address = %(address)s)

-- name: forget_failures
-- Somebody got in: their failed tries from here count no longer.
delete from failed_tries where name = %(name)s and address = %(address)s
