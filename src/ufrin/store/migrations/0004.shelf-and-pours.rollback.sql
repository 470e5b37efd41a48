drop table lot_moves, pour_entries, pours, coupons, lots;
drop function record_is_not_changed;
alter table stations drop column cup_id, drop column pigment_id, drop column thickener_id, drop column thinner_id, drop column blend_id;
drop table scales, cups, additives;
alter table rubbers drop column form, drop column thinner_of;
alter table workshop drop column confidence_pct;
