/**
 * The point room: brings a target to the middle of the frame and says how far it is from there, by motor or by hand; holds a framing
 * against the plan's; learns where a permanent mount really points; and keeps a mount from going where it must not.
 *
 * <p>Uses {@code solve} and the ports in {@code device}. Start at {@link app.ironside.point.Centering}; by hand, at
 * {@link app.ironside.point.Nudge}; for a model of the mount, at {@link app.ironside.point.PointingModel}.
 */
package app.ironside.point;
