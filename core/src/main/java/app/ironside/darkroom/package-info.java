/**
 * The darkroom: the whole way from a folder of raw frames to pictures: sort, masters, calibrate, grade, register, reject, stack, colour. Run
 * again it takes up what is still true.
 *
 * <p>In: folders. Out: files below one folder, and a {@link app.ironside.darkroom.Development} that tells of them. Start at
 * {@link app.ironside.darkroom.Darkroom}.
 */
package app.ironside.darkroom;
