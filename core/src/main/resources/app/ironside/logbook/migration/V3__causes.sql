-- What lowers a sub most, in the rule book's word; null where an older journal does not tell it.
alter table sub add column cause text;
