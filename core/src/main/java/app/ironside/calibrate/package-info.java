/**
 * The calibrate room: master frames from sets of darks, bias and flats, and the removal from lights of what the camera and the
 * optics put there.
 *
 * <p>In: files and {@link app.ironside.image.Frame}s. Out: frames. Start at {@link app.ironside.calibrate.MasterBuilder} and
 * {@link app.ironside.calibrate.Calibrator}.
 */
package app.ironside.calibrate;
