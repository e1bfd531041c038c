/**
 * The star room: finds the stars in a frame and measures each: place, flux, half-flux radius, width, elongation.
 *
 * <p>In: a {@link app.ironside.image.Frame}. Out: a {@link app.ironside.star.StarField}. Everything that judges focus,
 * guiding, pointing or a sub starts from these measurements. Start at {@link app.ironside.star.StarFinder}.
 */
package app.ironside.star;
