/**
 * The logbook room: the store. One SQLite file for all nights, whose journal is the truth.
 *
 * <p>SQL is walled in here. Start at {@link app.ironside.logbook.Logbook}.
 */
package app.ironside.logbook;
