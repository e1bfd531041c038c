/**
 * The night room: runs a program through its stages, each ended by a measured gate, and writes everything that happens to the
 * journal, from which a night can be watched, replayed and resumed.
 *
 * <p>Plain sequential code on {@link app.ironside.device.NightClock}; what must go on meanwhile (guiding) is pumped by
 * {@link app.ironside.night.NightLoop} while it waits. Start at {@link app.ironside.night.NightEngine}.
 */
package app.ironside.night;
