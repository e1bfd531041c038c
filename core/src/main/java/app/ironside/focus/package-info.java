/**
 * The focus room: finds where the stars are smallest, and how sure that is.
 *
 * <p>In: focuser positions (steps) with star sizes (half-flux radius, px). Out: a {@link app.ironside.focus.FocusVerdict}. Uses
 * {@code star} and the ports in {@code device}; {@code night} decides when to come here. Start at
 * {@link app.ironside.focus.FocusCurve}.
 */
package app.ironside.focus;
