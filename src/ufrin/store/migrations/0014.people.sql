-- People and devices: accounts, sessions, bench devices that were joined, one-time codes, tries, and who did what.
-- depends: 0013.schedule

create table accounts (
    id bigint generated always as identity primary key,
    name text not null constraint account_name check (char_length(name) between 1 and 60),
    role text not null constraint account_role check (role in ('owner', 'maker', 'reader')),
    -- empty until its owner has chosen a password
    password_hash text not null default '' constraint account_password check (char_length(password_hash) <= 400),
    made_at timestamptz not null default now(),
    -- since when it may not sign in any more
    ended_at timestamptz
);
create unique index account_once on accounts (lower(name));

-- only the hash of a token is kept: whoever reads this table can't sign in with it
create table sessions (
    token_hash bytea primary key,
    account_id bigint not null constraint session_of_account references accounts on delete cascade,
    began_at timestamptz not null default now(),
    seen_at timestamptz not null default now(),
    ends_at timestamptz not null,
    program text not null default '' constraint session_program check (char_length(program) <= 200)
);
create index sessions_by_account on sessions (account_id);

create table devices (
    id bigint generated always as identity primary key,
    name text not null constraint device_name check (char_length(name) between 1 and 60),
    -- at the bench, or a script that reads the interface
    kind text not null constraint device_kind check (kind in ('bench', 'script')),
    token_hash bytea not null constraint device_token unique,
    joined_at timestamptz not null default now(),
    joined_by text not null default '',
    seen_at timestamptz not null default now(),
    -- who stands at it just now
    who text not null default '' constraint device_who check (char_length(who) <= 60)
);

create table one_time_codes (
    code_hash bytea primary key,
    kind text not null constraint code_kind check (kind in ('owner', 'password', 'device')),
    account_id bigint constraint code_of_account references accounts on delete cascade,
    made_by text not null default '',
    made_at timestamptz not null default now(),
    ends_at timestamptz not null,
    used_at timestamptz
);
create index one_time_codes_by_account on one_time_codes (account_id);

-- tries to sign in, or to use a code, that failed
create table failed_tries (
    at timestamptz not null default now(),
    name text not null,
    address text not null
);
create index failed_tries_by_time on failed_tries (at);

-- who did what: written by the triggers below, in the same transaction as the change
create table changes (
    id bigint generated always as identity primary key,
    at timestamptz not null default now(),
    doer text not null,
    thing text not null,
    number text not null,
    how text not null constraint change_how check (how in ('entered', 'changed', 'deleted'))
);
create index changes_by_thing on changes (thing, number);

-- the server names who is at work; where nobody signs in there is no name to keep
create function doer() returns text stable language sql as $$ select coalesce(current_setting('ufrin.doer', true), '') $$;

create function change_is_kept() returns trigger language plpgsql as $$
declare
    changed jsonb;
begin
    if doer() = '' then
        return null;
    end if;
    changed := to_jsonb(case when tg_op = 'DELETE' then old else new end);
    insert into changes (doer, thing, number, how) values (
        doer(), tg_table_name,
        (select string_agg(changed ->> key, ' ' order by place) from unnest(tg_argv) with ordinality as keys (key, place)),
        case tg_op when 'INSERT' then 'entered' when 'UPDATE' then 'changed' else 'deleted' end
    );
    return null;
end $$;

do $$
declare
    tables text[] := array[
        'stations job_id,station', 'done_steps job_id,step', 'sign_offs job_id', 'faults job_id', 'sheets job_id',
        'rubbers name', 'additives name', 'resins name', 'additions name', 'products name', 'cups name', 'containers name', 'scales name',
        'thermometers name', 'coupons rubber_id', 'own_rules id', 'pours id', 'shots id', 'moulds id', 'mould_signs mould_id',
        'mould_cares mould_id', 'orders id', 'retired_cavities job_id', 'trials job_id', 'people name', 'days_off id',
        'equipment name', 'other_work name', 'placed_steps step', 'shop_hours id', 'accounts name'
    ];
    words text[];
begin
    for i in 1 .. array_length(tables, 1) loop
        words := regexp_split_to_array(tables[i], ' ');
        execute format(
            'create trigger changes_are_kept after insert or update or delete on %I for each row execute function change_is_kept(%s)',
            words[1], (select string_agg(quote_literal(key), ', ') from unnest(string_to_array(words[2], ',')) as key)
        );
    end loop;
end $$;

-- what is kept with these beside what a person did is no change of theirs
create trigger changes_are_kept after insert or delete or update of name, put_away_at, wanted_at, is_off_schedule on jobs
    for each row execute function change_is_kept('id');
create trigger changes_are_kept after insert or delete or update of code, use_by, opened_on, price on lots
    for each row execute function change_is_kept('id');
create trigger changes_are_kept after update of units, currency, confidence_pct, air, release, room_temp_c, scale_id,
    time_zone, air_pressure_hpa, height_m, scale_hosts on workshop
    for each row execute function change_is_kept('version');
create trigger changes_are_kept after insert or delete or update of name, who on devices
    for each row execute function change_is_kept('name');

-- of readings, with each line itself
alter table pour_entries add column doer text not null default doer();
alter table lot_moves add column doer text not null default doer();
