-- The schedule: people, equipment, working hours and days off, other work, what was put at a time, and the plans made.
-- depends: 0012.moulds

create table shop_hours (
    id boolean primary key default true constraint one_row check (id),
    hours text not null default '08:00-12:00, 13:00-17:00' constraint shop_hours_text check (char_length(hours) <= 200),
    days integer[] not null default '{1,2,3,4,5}',
    hour_cost numeric(12, 4) not null default 0 constraint shop_hour_cost check (hour_cost >= 0 and hour_cost < 1e6),
    -- whoever knows it may read the calendar of the whole shop
    secret text not null default replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''),
    version integer not null default 1
);
insert into shop_hours default values;

create table people (
    id bigint generated always as identity primary key,
    name text not null constraint person_name check (char_length(name) between 1 and 60),
    -- empty: the shop's hours and days
    hours text not null default '' constraint person_hours check (char_length(hours) <= 200),
    days integer[],
    secret text not null default replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', ''),
    constraint person_once unique (name)
);
insert into people (name) values ('Maker');

create table days_off (
    id bigint generated always as identity primary key,
    person_id bigint constraint day_off_of_person references people on delete cascade,
    first_day date not null,
    last_day date not null,
    constraint days_off_in_order check (last_day >= first_day)
);

create index days_off_by_person on days_off (person_id);

create table equipment (
    id bigint generated always as identity primary key,
    name text not null constraint equipment_name check (char_length(name) between 1 and 60),
    kind text not null constraint equipment_kind check (kind in ('oven', 'chamber', 'pot', 'table', 'other')),
    number integer not null default 1 constraint equipment_number check (number between 1 and 100),
    price numeric(12, 4) not null default 0 constraint equipment_price check (price >= 0 and price < 1e9),
    constraint equipment_once unique (name)
);

create table equipment_away (
    id bigint generated always as identity primary key,
    equipment_id bigint not null constraint away_of_equipment references equipment on delete cascade,
    from_at timestamptz not null,
    until_at timestamptz not null,
    constraint away_in_order check (until_at > from_at)
);

create index away_by_equipment on equipment_away (equipment_id);

-- other work that takes somebody's time: a delivery, a visit, a tidy-up
create table other_work (
    id bigint generated always as identity primary key,
    name text not null constraint other_work_name check (char_length(name) between 1 and 120),
    attended_min double precision not null constraint other_work_minutes check (attended_min > 0 and attended_min <= 1440),
    person_id bigint constraint other_work_of_person references people on delete set null,
    equipment_id bigint constraint other_work_with references equipment on delete set null,
    finish_by timestamptz,
    done_at timestamptz
);

create index other_work_by_person on other_work (person_id);
create index other_work_by_equipment on other_work (equipment_id);

create table placed_steps (
    step text primary key constraint placed_step_key check (char_length(step) between 1 and 80),
    begins_at timestamptz not null,
    person_id bigint constraint placed_with_person references people on delete set null
);

create index placed_steps_by_person on placed_steps (person_id);

-- the plan that counts, and one that waits to be looked at because it touches a promise
create table schedule_plans (
    kind text primary key constraint schedule_plan_kind check (kind in ('taken', 'proposed')),
    made_at timestamptz not null default now(),
    fingerprint text not null,
    plan jsonb not null
);

-- the search for the best plan, which a worker does
create table schedule_search (
    id boolean primary key default true constraint one_search check (id),
    state text not null default 'done' constraint schedule_search_state check (state in ('waiting', 'done', 'refused')),
    fingerprint text not null default '',
    progress jsonb,
    refused text,
    asked_at timestamptz not null default now()
);
insert into schedule_search default values;

alter table jobs add column is_off_schedule boolean not null default false;
