drop index shots_newest;
update stations set inputs = inputs - array['mould_cavities', 'mould_family', 'mould_parts'] where station = 'casts';
update earlier_inputs set inputs = inputs - array['mould_cavities', 'mould_family', 'mould_parts'] where station = 'casts';
delete from input_keys where station = 'casts' and key in ('mould_cavities', 'mould_family', 'mould_parts');
alter table jobs drop column is_mould_only;
alter table shot_pieces drop column grade;
alter table trials drop column about, drop column by_shot, drop column is_graded;
-- weights of a mould stay as notes
alter table pour_entries disable trigger pour_entries_are_kept;
update pour_entries
set text = concat_ws(': ', 'the mould weighed', coalesce(net_g::text || ' g', text)), kind = 'note', net_g = null
where kind = 'mould';
alter table pour_entries enable trigger pour_entries_are_kept;
alter table pour_entries
    drop constraint pour_entry_kind,
    add constraint pour_entry_kind check (kind in (
        'start', 'tare', 'hold', 'down', 'weigh', 'wrong', 'discard', 'mixed', 'poured', 'leftover',
        'temperature', 'correction', 'note', 'finish', 'step', 'witness', 'short', 'mishap', 'demould', 'found',
        'photo', 'retract'
    ));
