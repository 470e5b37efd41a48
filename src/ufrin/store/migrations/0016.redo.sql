-- Redo: what was undone is kept until something else is changed at its station.
-- depends: 0015.safekeeping

create table undone_inputs (
    job_id bigint not null,
    station text not null,
    version integer not null,
    inputs jsonb not null,
    shape smallint not null default 8 constraint undone_shape check (shape > 0),
    primary key (job_id, station, version),
    foreign key (job_id, station) references stations on delete cascade
);
create trigger undone_inputs_fit before insert on undone_inputs for each row execute function inputs_fit();
