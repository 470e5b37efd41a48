drop table undone_inputs;
