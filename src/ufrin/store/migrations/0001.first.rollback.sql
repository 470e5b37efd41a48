drop table earlier_inputs;
drop table stations;
drop table jobs;
drop table rubbers;
drop table workshop;
