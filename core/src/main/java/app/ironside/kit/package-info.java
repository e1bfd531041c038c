/**
 * The kit room: one optical train with everything bolted to it, and the arithmetic that follows from it alone: image scale,
 * field, critical focus zone, the polar error that a sub tolerates, the flux of a star in electrons.
 *
 * <p>In and out: records with units in their names. Start at {@link app.ironside.kit.Kit}.
 */
package app.ironside.kit;
