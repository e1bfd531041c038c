/**
 * The desktop application. Core to presenter ({@link app.ironside.desk.night.NightModel}, {@link app.ironside.desk.night.Moment}) to
 * view-states (records in words and units, made without a toolkit) to views that only copy.
 *
 * <p>Start at {@link app.ironside.desk.DeskView}.
 */
package app.ironside.desk;
