/**
 * The guide room: holds a star still. Star choice, calibration of both axes, the closed loop, and what its record says.
 *
 * <p>Uses {@code star} and the ports in {@code device}; {@code night} pumps {@link app.ironside.guide.Guider#cycle} while it
 * waits. Start at {@link app.ironside.guide.Guider}.
 */
package app.ironside.guide;
