-- name: load
-- What every job of the shop is checked by, in one go: own tests that count, releases in use, and the sign-offs of some jobs.
select
    (select coalesce(json_agg(json_build_object(
        'id', r.id, 'pour', r.pour, 'touches', r.touches, 'between', r.between_kind, 'verdict', r.verdict, 'why',
            r.why, 'tried_on', r.tried_on,
        'rubber', coalesce(b.name, ''))), '[]')
     from own_rules r left join rubbers b on b.id = r.rubber_id where r.withdrawn_at is null) as rules,
    (select coalesce(json_agg(p order by lower(p.name)), '[]') from products p where p.retired_at is null) as products,
    (select coalesce(json_agg(json_build_object(
        'job_id', s.job_id, 'about', s.about, 'text', s.says, 'reason', s.reason, 'who', s.who, 'at_s', extract(epoch
            from s.at)) order by s.id), '[]')
     from sign_offs s where s.job_id = any(%(jobs)s) and s.withdrawn_at is null) as signed
