-- What is stirred into rubbers, cups, scales, lots, test coupons; and pours with their record, to which lines are only added.
-- depends: 0003.queue

alter table workshop add column confidence_pct double precision not null default 80
    constraint workshop_confidence check (confidence_pct between 50 and 99);

alter table rubbers
    add column form text not null default 'liquid',
    add column thinner_of text not null default 'A+B';

create table additives (
    id bigint generated always as identity primary key,
    name text not null constraint additive_name_length check (char_length(name) between 1 and 120),
    kind text not null constraint additive_kind check (kind in ('thinner', 'thickener', 'pigment')),
    colour text not null,
    family text not null,
    sg double precision,
    viscosity_mpa_s double precision,
    most_parts double precision,
    pack_g double precision,
    pack_price double precision,
    retired_at timestamptz,
    version integer not null default 1
);
create unique index additive_name_taken on additives (lower(name));

create table cups (
    id bigint generated always as identity primary key,
    name text not null constraint cup_name_length check (char_length(name) between 1 and 120),
    bottom_mm double precision not null,
    top_mm double precision,
    height_mm double precision not null,
    mark_ml double precision,
    retired_at timestamptz,
    version integer not null default 1
);
create unique index cup_name_taken on cups (lower(name));

create table scales (
    id bigint generated always as identity primary key,
    name text not null constraint scale_name_length check (char_length(name) between 1 and 120),
    address text not null,
    baud double precision not null,
    step_g double precision not null,
    most_g double precision not null,
    retired_at timestamptz,
    version integer not null default 1
);
create unique index scale_name_taken on scales (lower(name));

alter table stations
    add column blend_id bigint generated always as ((inputs ->> 'blend_id')::bigint) stored constraint blend_in_use references rubbers,
    add column thinner_id bigint generated always as ((inputs ->> 'thinner_id')::bigint) stored constraint thinner_in_use references additives,
    add column thickener_id bigint generated always as ((inputs ->> 'thickener_id')::bigint) stored constraint thickener_in_use references additives,
    add column pigment_id bigint generated always as ((inputs ->> 'pigment_id')::bigint) stored constraint pigment_in_use references additives,
    add column cup_id bigint generated always as ((inputs ->> 'cup_id')::bigint) stored constraint cup_in_use references cups;

create table lots (
    id bigint generated always as identity primary key,
    rubber_id bigint constraint rubber_has_lots references rubbers,
    additive_id bigint constraint additive_has_lots references additives,
    code text not null constraint lot_code_length check (char_length(code) between 1 and 60),
    part text not null constraint lot_part check (part in ('A', 'B', 'all')),
    got_g double precision not null constraint lot_got check (got_g > 0),
    left_g double precision not null constraint lot_left check (left_g >= 0),
    use_by date,
    opened_on date,
    price double precision,
    arrived_at timestamptz not null default now(),
    version integer not null default 1,
    constraint lot_of_one_thing check (num_nonnulls(rubber_id, additive_id) = 1),
    constraint lot_part_fits check ((rubber_id is null) = (part = 'all'))
);
create unique index lot_code_taken on lots (rubber_id, additive_id, part, lower(code)) nulls not distinct;

create table coupons (
    id bigint generated always as identity primary key,
    rubber_id bigint not null constraint rubber_has_coupons references rubbers,
    thinner_id bigint constraint additive_has_coupons references additives,
    parts double precision not null constraint coupon_parts check (parts between 0 and 50),
    scale text not null constraint coupon_scale check (scale in ('00', 'A', 'D')),
    readings double precision[] not null,
    thickness_mm double precision not null,
    edge_mm double precision not null,
    apart_mm double precision not null,
    logged_at timestamptz not null default now(),
    withdrawn_at timestamptz
);
create index coupons_by_rubber on coupons (rubber_id);

create table pours (
    id bigint generated always as identity primary key,
    job_id bigint not null constraint pour_of_job references jobs on delete cascade,
    rubber_id bigint constraint rubber_was_poured references rubbers,
    who text not null constraint pour_who_length check (char_length(who) <= 120),
    plan jsonb not null,
    started_at timestamptz not null default now(),
    finished_at timestamptz,
    needed_g double precision,
    used_g double precision
);
create index pours_of_job on pours (job_id, id desc);
create index pours_running on pours (started_at) where finished_at is null;
create index pours_by_rubber on pours (rubber_id);
create index pours_to_learn_from on pours (finished_at desc) where needed_g > 0 and used_g > 0;

create table pour_entries (
    pour_id bigint not null references pours on delete cascade,
    number integer not null constraint pour_entry_number check (number > 0),
    token text not null constraint pour_entry_token check (char_length(token) between 1 and 64),
    at timestamptz not null,
    steady_s double precision not null,
    machine text not null,
    kind text not null,
    ingredient text not null default '',
    net_g double precision,
    gross_g double precision,
    scale text not null default '',
    temp_c double precision,
    of_number integer,
    lot_id bigint constraint lot_was_poured references lots,
    text text not null default '',
    primary key (pour_id, number),
    constraint pour_entry_once unique (pour_id, token)
);

-- what was taken out of a tin or counted again; the tin's own row has the sum
create table lot_moves (
    id bigint generated always as identity primary key,
    lot_id bigint not null references lots on delete cascade,
    at timestamptz not null default now(),
    grams double precision not null,
    pour_id bigint,
    number integer,
    why text not null
);
create index lot_moves_of_lot on lot_moves (lot_id, id desc);

create function record_is_not_changed() returns trigger language plpgsql as $$
begin
    raise exception 'the record of pours is only added to' using errcode = 'integrity_constraint_violation', constraint = 'record_kept';
end $$;
create trigger pour_entries_are_kept before update on pour_entries for each row execute function record_is_not_changed();
create trigger lot_moves_are_kept before update on lot_moves for each row execute function record_is_not_changed();
