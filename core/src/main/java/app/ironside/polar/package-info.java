/**
 * The polar room: where the mount's right-ascension axis points, how far from the pole that is, and which knob to turn.
 *
 * <p>In: places of the sky seen at known times while the mount turned about that axis only. Out: a
 * {@link app.ironside.polar.PolarResult}. Start at {@link app.ironside.polar.AxisFinder}.
 */
package app.ironside.polar;
