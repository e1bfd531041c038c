/**
 * The sky room: where things are and how bright the night is. Time scales, coordinates, refraction, Sun, Moon, twilight,
 * and the catalogues.
 *
 * <p>In: a {@link app.ironside.sky.Site} and an {@code Instant} (UTC). Out: directions in degrees, times, magnitudes. JSOFA
 * is walled in here; no other room sees its types. Start at {@link app.ironside.sky.Observer}.
 */
package app.ironside.sky;
