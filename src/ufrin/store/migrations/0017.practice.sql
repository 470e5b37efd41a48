-- Practice: weigh-ups at a simulated scale and clock, line by line, and what came of them.
-- depends: 0016.redo

create table practices (
    id bigint generated always as identity primary key,
    -- of somebody with an account; elsewhere the name alone tells whose it is
    account_id bigint constraint practice_of_account references accounts on delete cascade,
    who text not null constraint practice_who check (char_length(who) between 1 and 80),
    level text not null constraint practice_level check (level in ('first', 'second', 'third')),
    plan jsonb not null,
    mishaps jsonb not null,
    began_at timestamptz not null,
    steady_s double precision not null,
    machine text not null,
    ended_at timestamptz,
    review jsonb,
    constraint practice_reviewed check ((ended_at is null) = (review is null))
);
create index practices_of_account on practices (account_id, id desc) where account_id is not null;
create index practices_of_name on practices (lower(who), id desc) where account_id is null;

create table practice_lines (
    practice_id bigint not null references practices on delete cascade,
    number integer not null constraint practice_line_number check (number > 0),
    -- done at the table beside the bench, or entered at the bench
    is_act boolean not null,
    line jsonb not null,
    primary key (practice_id, number)
);
