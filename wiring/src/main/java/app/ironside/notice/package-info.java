/**
 * The room of being told: how an alert of the night reaches somebody who is not at the desk.
 *
 * <p>In: {@link app.ironside.journal.AlertRaised} events and the person's {@link app.ironside.notice.Notices}. Out: a command of their own, a
 * notification of the system, a tone, and a page for a telephone that shows and never commands. Start at {@link app.ironside.notice.Herald}.
 */
package app.ironside.notice;
