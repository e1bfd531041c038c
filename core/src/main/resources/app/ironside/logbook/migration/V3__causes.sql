-- What lowers a sub most, in the rule book's word; null where an older journal does not tell it.
alter table sub add column cause text;

-- What is counted again and again, in the order it is counted in: the wide rows need not be read.
drop index sub_of_target;
create index sub_counted on sub (night, filter, target, cause, keep, seconds);
