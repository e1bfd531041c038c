/**
 * The solve room: recognises the sky in a frame. Patterns of four stars are looked up in an index of the catalogue, each
 * candidate is verified by the odds of its matches being chance, and a tangent-plane WCS is fitted.
 *
 * <p>In: a {@link app.ironside.star.StarField}, hints. Out: a {@link app.ironside.solve.SolveResult}. Start at
 * {@link app.ironside.solve.PlateSolver}.
 */
package app.ironside.solve;
