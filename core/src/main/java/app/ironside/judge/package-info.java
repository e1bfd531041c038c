/**
 * The judging room: one rule book for subs, at night and in the darkroom: what each adds to a stack, what lowers it, whether it is kept.
 *
 * <p>In: {@link app.ironside.judge.SubLook}, from files by {@link app.ironside.judge.Looks} or from a night's journal. Out: a
 * {@link app.ironside.judge.Grade} for each. Start at {@link app.ironside.judge.Grader}.
 */
package app.ironside.judge;
