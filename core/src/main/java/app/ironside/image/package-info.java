/**
 * The image room: frames and what every other room does with their pixels: reading and writing FITS, TIFF and PNG,
 * robust statistics, stretching for the eye.
 *
 * <p>In and out: {@link app.ironside.image.Frame}. The FITS and TIFF libraries are walled in here. Start at {@code Frame} and
 * {@link app.ironside.image.FitsFiles}.
 */
package app.ironside.image;
