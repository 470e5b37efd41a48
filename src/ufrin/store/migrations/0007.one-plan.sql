-- One plan for a job: the workshop's room and scale, the advice that counts, the halves of a mould, printed sheets, steps that were done.
-- depends: 0006.checks

alter table workshop
    add column room_temp_c double precision not null default 23
        constraint workshop_room check (room_temp_c between 0 and 50),
    add column scale_id bigint constraint bench_scale references scales;

-- the kind of mould that was advised when somebody last looked at it
alter table jobs add column advised_style text;

-- sheets that were printed: a revision for each set of figures
create table sheets (
    job_id bigint not null references jobs on delete cascade,
    revision integer not null constraint sheet_revision check (revision > 0),
    figures text not null,
    printed_at timestamptz not null default now(),
    primary key (job_id, revision)
);

-- steps of the preparation that were ticked off; a step that is taken back is deleted
create table done_steps (
    job_id bigint not null references jobs on delete cascade,
    step text not null constraint done_step_key check (char_length(step) between 1 and 64),
    at timestamptz not null default now(),
    primary key (job_id, step)
);

-- how the rubber gets to the master follows from the kind of mould now: what was chosen there becomes that kind
update stations o set inputs = o.inputs || jsonb_build_object('style', case r.inputs ->> 'how' when 'brushed' then 'skin' else 'press' end)
from stations r
where r.job_id = o.job_id and r.station = 'rubber' and o.station = 'opening'
    and r.inputs ->> 'how' in ('brushed', 'putty') and not o.inputs ? 'style';
update stations o set inputs = o.inputs || '{"style": "tray"}'
from stations b
where b.job_id = o.job_id and b.station = 'box' and o.station = 'opening' and b.inputs ->> 'shape' = 'tray' and not o.inputs ? 'style';
update stations set inputs = inputs - 'shape' where station = 'box' and inputs ->> 'shape' = 'tray';
update stations set inputs = inputs - 'how' - 'half' where station = 'rubber';

-- the bed of two halves is filled in where the halves are planned
update stations o set inputs = o.inputs || jsonb_build_object('bed_material', b.inputs -> 'bed_material')
from stations b
where b.job_id = o.job_id and b.station = 'box' and o.station = 'opening' and b.inputs ? 'bed_material' and not b.inputs ? 'bed_mm';

-- the spare learnt until now is settled for every job that has its rubber
update stations s set inputs = s.inputs || jsonb_build_object(
    'learnt_spare_pct', round(least(100, greatest(0, (l.n * coalesce(l.learnt, 0) + 5 * 10) / (l.n + 5)))::numeric, 1),
    'learnt_spare_on', current_date::text
)
from (
    select count(*) as n, percentile_cont((select confidence_pct / 100 from workshop)) within group (order by over_pct) as learnt
    from (
        select 100 * (used_g / needed_g - 1) as over_pct from pours
        where needed_g > 0 and used_g > 0 and finished_at is not null
        order by finished_at desc limit 200
    ) as newest
) as l
where s.station = 'rubber' and s.rubber_id is not null and not s.inputs ? 'spare_pct';
