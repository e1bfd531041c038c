/**
 * The simulated observatory: a sky, optics, a sensor, a mount and the rest behind the ports of {@code app.ironside.device}, on a
 * virtual clock, deterministic for a seed, with the truth kept for tests.
 *
 * <p>Start at {@link app.ironside.sim.SimulatedObservatory}.
 */
package app.ironside.sim;
