-- What nights have told in words and people look for again: few of all events, so that they need not be searched for among the others.
create index event_told on event (night, kind)
    where kind in ('NOTED', 'TROUBLE', 'REACTED', 'FAULT', 'AXIS_DOUBTED', 'GUIDING_COMPARED', 'OFFSETS', 'FOCUSER', 'LENGTHS');
