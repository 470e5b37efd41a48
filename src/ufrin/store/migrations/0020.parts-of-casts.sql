-- What a shot is mixed of by itself, such as the foam behind a shell, is logged by itself.
-- depends: 0019.begun-moulds

create table shot_parts (
    shot_id bigint not null constraint part_of_shot references shots on delete cascade,
    number integer not null constraint shot_part_number check (number between 1 and 10),
    part text not null constraint shot_part_kind check (char_length(part) between 1 and 40),
    resin text not null constraint shot_part_resin check (char_length(resin) <= 120),
    mixed_g double precision not null,
    left_over_g double precision not null,
    was_short boolean not null,
    missing_g double precision not null,
    primary key (shot_id, part),
    constraint shot_part_figures check (
        mixed_g > 0 and mixed_g < 1e7 and left_over_g >= 0 and left_over_g < mixed_g and missing_g >= 0 and missing_g < 1e7
    )
);

-- the maker's own amount was that of shell and foam together, or of face coat and backing: neither can take it for its own
insert into retired_inputs (job_id, station, key, value)
select job_id, station, 'each_g', inputs -> 'each_g' from stations
where station = 'casts' and inputs ? 'each_g'
    and (inputs ->> 'cast_kind' = 'foam-back' or (inputs ->> 'cast_kind' = 'cold-cast' and (inputs ->> 'face_mm')::float8 > 0))
on conflict do nothing;
do $$
declare kept text;
begin
    foreach kept in array array['stations', 'earlier_inputs', 'undone_inputs'] loop
        execute format(
            'update %I set inputs = inputs - ''each_g'' where station = ''casts'' and inputs ? ''each_g'' and ('
            'inputs ->> ''cast_kind'' = ''foam-back'' or (inputs ->> ''cast_kind'' = ''cold-cast'' '
            'and (inputs ->> ''face_mm'')::float8 > 0))', kept
        );
    end loop;
end $$;

insert into input_keys (station, kind, key) values
    ('casts', 'number', 'foam_each_g'), ('casts', 'number', 'face_each_g');
