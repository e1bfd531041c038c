create table night (
    id       integer primary key autoincrement,
    title    text not null,
    folder   text not null,
    document text not null
);

-- Append-only: the program inserts and reads, never updates or deletes.
create table event (
    id    integer primary key autoincrement,
    night integer not null references night (id),
    time  text    not null,
    kind  text    not null,
    text  text    not null,
    facts text    not null
);

create index event_of_night on event (night, id);
