drop table practice_lines;
drop table practices;
