/**
 * Where the parts are put together: which clock, which devices, which journal, which engine. All choices, no logic.
 *
 * <p>Start at {@link app.ironside.wiring.Wiring}.
 */
package app.ironside.wiring;
