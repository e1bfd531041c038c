/**
 * The watching room: from the verdicts on a night's subs to what is wrong, how surely, what to do, and whether somebody is to be woken for it.
 *
 * <p>In: {@link app.ironside.watch.Watched} subs as they come. Out: {@link app.ironside.watch.Finding} and
 * {@link app.ironside.watch.Alert}. Start at {@link app.ironside.watch.SubsWatch}.
 */
package app.ironside.watch;
