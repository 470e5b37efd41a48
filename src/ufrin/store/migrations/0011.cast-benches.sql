-- Casts all the way at the bench: moulds are weighed as they are rotated, trials are graded, and a mould that was made
-- before has a Casts station without the stations of making it.
-- depends: 0010.casting

alter table pour_entries
    drop constraint pour_entry_kind,
    add constraint pour_entry_kind check (kind in (
        'start', 'tare', 'hold', 'down', 'weigh', 'wrong', 'discard', 'mixed', 'poured', 'leftover', 'mould',
        'temperature', 'correction', 'note', 'finish', 'step', 'witness', 'short', 'mishap', 'demould', 'found',
        'photo', 'retract'
    ));

-- what a trial is about; by shots where a whole mould is cast one way, such as under pressure
alter table trials
    add column about text not null default 'other'
        constraint trial_about check (about in ('release', 'air', 'attitude', 'other')),
    add column by_shot boolean not null default false,
    add column is_graded boolean not null default false;
alter table shot_pieces
    add column grade smallint constraint piece_grade check (grade between 1 and 5);

alter table jobs add column is_mould_only boolean not null default false;
insert into input_keys (station, kind, key)
select 'casts', k.kind, unnest(k.keys) from (values
    ('number', array['mould_cavities']),
    ('string', array['mould_family', 'mould_parts'])
) as k (kind, keys);
create index shots_newest on shots (job_id, id desc) where taken_back_at is null;
