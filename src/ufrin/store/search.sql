-- name: found
-- Jobs, moulds and things of the Shelf whose name, or whose place, holds a text: those that begin with it come first,
-- then the newest.
with hits as (
    select 'job' as kind, j.id, j.name,
           case when j.put_away_at is not null then 'archived' else '' end as note
    from jobs j where not j.is_mould_only and j.name ilike %(pattern)s
    union all
    select 'mould', m.id, j.name, m.place from moulds m join jobs j on j.id = m.job_id
    where j.name ilike %(pattern)s or m.place ilike %(pattern)s
    union all
    select t.kind, t.id, t.name, case when t.retired_at is not null then 'retired' else '' end
    from (
        select 'rubbers' as kind, id, name, retired_at from rubbers
        union all select 'additives', id, name, retired_at from additives
        union all select 'resins', id, name, retired_at from resins
        union all select 'additions', id, name, retired_at from additions
        union all select 'products', id, name, retired_at from products
        union all select 'cups', id, name, retired_at from cups
        union all select 'containers', id, name, retired_at from containers
        union all select 'scales', id, name, retired_at from scales
        union all select 'thermometers', id, name, retired_at from thermometers
    ) t where t.name ilike %(pattern)s
)
select kind, id, name, note from hits
order by name ilike %(start)s desc, kind in ('job', 'mould') desc, id desc limit %(limit)s
