-- Facts of version 1 are as they were before events were typed; EventCodec reads both.
alter table event add column version integer not null default 1;

-- What a night's events say of it, so that it can be looked for. Empty until told, or until an older night is looked through.
alter table night add column date text;
alter table night add column site text;
alter table night add column kit text;
alter table night add column state text;   -- 'begun', 'ended'
alter table night add column origin text;  -- 'real', 'rehearsed', 'by-folder'

-- A view of the events, with the verdict that stands; it can be made anew from them.
create table sub (
    event              integer primary key references event (id),
    night              integer not null references night (id),
    time               text    not null,
    target             text    not null,
    filter             text    not null,
    seconds            real    not null,
    file               text    not null,
    keep               integer not null,
    reason             text    not null,
    stars              integer not null,
    hfr_px             real,
    fwhm_px            real,
    eccentricity       real,
    background_adu     real    not null,
    noise_adu          real    not null,
    altitude_deg       real,
    temperature_c      real,
    focus_steps        integer,
    pier_side          text,
    guide_rms_arcsec   real
);

create index sub_of_night on sub (night, file);
create index sub_of_target on sub (target, filter);

-- Guide exposures that showed the star. Pulses and signal to noise are null where an older journal does not tell them.
create table guide_sample (
    night         integer not null references night (id),
    time          text    not null,
    ra_arcsec     real    not null,
    dec_arcsec    real    not null,
    ra_pulse_ms   real,
    dec_pulse_ms  real,
    snr           real
);

create index guide_sample_of_night on guide_sample (night);
