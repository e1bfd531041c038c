/**
 * The plan room: when a target is up in the dark, how much that time is worth, and what the night's program makes of it.
 *
 * <p>In: a site, a kit, a {@link app.ironside.plan.Program}. Out: a {@link app.ironside.plan.NightPlan}. Start at
 * {@link app.ironside.plan.NightPlanner}.
 */
package app.ironside.plan;
