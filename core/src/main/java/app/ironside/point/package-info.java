/**
 * The point room: brings a target to the middle of the frame, and says how far it is from there.
 *
 * <p>Uses {@code solve} and the ports in {@code device}. Start at {@link app.ironside.point.Centering}.
 */
package app.ironside.point;
