alter table jobs drop column is_off_schedule;
drop table schedule_search, schedule_plans, placed_steps, other_work, equipment_away, equipment, days_off, people, shop_hours;
