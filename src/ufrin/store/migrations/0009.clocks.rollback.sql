drop function mark_goes_up cascade;
drop sequence runs_mark, lists_mark;
drop table room_temps;
alter table jobs drop column wanted_at;
drop table cure_factors, thermometers, pour_photos;
drop index pours_to_take_out, pours_taken_out, pour_entries_that_teach;
alter table pours drop column demoulded_at, drop column half, drop column is_followed;
-- lines of kinds that the version before does not know stay as notes
alter table pour_entries disable trigger pour_entries_are_kept;
update pour_entries set text = concat_ws(': ', kind, nullif(what, ''), nullif(text, '')), kind = 'note', of_number = null
where kind in ('step', 'witness', 'short', 'mishap', 'demould', 'found', 'photo', 'retract');
alter table pour_entries enable trigger pour_entries_are_kept;
alter table pour_entries
    drop column what, drop column volume_ml, drop constraint pour_entry_kind,
    add constraint pour_entry_kind check (kind in (
        'start', 'tare', 'hold', 'down', 'weigh', 'wrong', 'discard', 'mixed', 'poured', 'leftover',
        'temperature', 'correction', 'note', 'finish'
    ));
alter table rubbers
    drop constraint rubber_times, drop column mix_least_min, drop column mix_most_min, drop column press_min,
    drop column cast_in_min;
