/**
 * The library room: what lies in folders of frames, whoever wrote them: read by their headers, gathered in sets, each set of lights with
 * the calibration frames that fit and the reasons, and what is missing.
 *
 * <p>In: folders. Out: a {@link app.ironside.library.Library}. Start there.
 */
package app.ironside.library;
