drop table orders, mould_cares, mould_signs, moulds;
alter table retired_cavities drop column cause;
