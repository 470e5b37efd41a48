-- name: all
-- Everybody who has an account, who may sign in first, with when each was last here.
select a.id, a.name, a.role, a.password_hash <> '' as has_password, a.made_at, a.ended_at,
    (select max(s.seen_at) from sessions s where s.account_id = a.id) as seen_at
from accounts a order by a.ended_at is not null, lower(a.name)

-- name: one
-- One account.
select a.id, a.name, a.role, a.password_hash <> '' as has_password, a.made_at, a.ended_at, null::timestamptz as seen_at
from accounts a where a.id = %(id)s

-- name: sign_in
-- What is needed to check a password; somebody who has left is not found.
select id, password_hash from accounts where lower(name) = lower(%(name)s) and ended_at is null

-- name: called
-- Somebody who may sign in, by the name.
select id from accounts where lower(name) = lower(%(name)s) and ended_at is null

-- name: password_hash
-- The hash of one account's password.
select password_hash from accounts where id = %(id)s and ended_at is null

-- name: owners
-- How many owners can sign in, besides one; nobody else can take one away until the transaction ends.
select id from accounts where role = 'owner' and ended_at is null and password_hash <> '' and id <> %(besides)s for update

-- name: has_owner
-- Whether an owner can sign in.
select exists (select from accounts where role = 'owner' and ended_at is null and password_hash <> '') as has_owner

-- name: add
-- A new account.
insert into accounts (name, role, password_hash) values (%(name)s, %(role)s, %(password_hash)s) returning id

-- name: change_role
-- What somebody may do from now on.
update accounts set role = %(role)s where id = %(id)s and ended_at is null returning id

-- name: set_password
-- A new password.
update accounts set password_hash = %(password_hash)s where id = %(id)s and ended_at is null returning id

-- name: end
-- Somebody may not sign in any more.
update accounts set ended_at = now() where id = %(id)s and ended_at is null returning id

-- name: take_back
-- Somebody who had left may sign in again, with a new password.
update accounts set ended_at = null, password_hash = '' where id = %(id)s returning id

-- name: names_at_bench
-- The names of those who may weigh, for one tap at the bench.
select name from accounts where role in ('owner', 'maker') and ended_at is null order by lower(name)
