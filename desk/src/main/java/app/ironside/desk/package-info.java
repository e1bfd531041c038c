/**
 * The desktop application. Core to presenter ({@link app.ironside.desk.NightModel}, {@link app.ironside.desk.Moment}) to
 * view-states (records in words and units, made without a toolkit) to views that only copy.
 *
 * <p>Start at {@link app.ironside.desk.DeskView}.
 */
package app.ironside.desk;
