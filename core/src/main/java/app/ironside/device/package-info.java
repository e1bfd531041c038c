/**
 * The device room: what the night needs of hardware, as ports with a handful of verbs, and the clock. Positions are J2000
 * degrees, times are durations, temperatures are °C. Simulated devices and drivers of real ones are equal behind them.
 *
 * <p>A driver is a jar beside the application that offers a {@link app.ironside.device.DeviceDriver} through
 * {@code ServiceLoader}. Start at {@link app.ironside.device.Devices}.
 */
package app.ironside.device;
