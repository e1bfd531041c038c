-- What stood when a sub was taken is the last that was measured before it: found in its night without a walk through all events.
create index event_focus on event (night, time) where kind = 'FOCUS';
create index event_polar on event (night, time) where kind = 'POLAR';
