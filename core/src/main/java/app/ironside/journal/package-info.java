/**
 * What happened in a night, typed: one record for each kind of event, and {@link app.ironside.journal.NightState}, the one place that
 * folds events into how a night stands. How events are written and read is the logbook's affair.
 */
package app.ironside.journal;
