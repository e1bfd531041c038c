/**
 * The stack room: puts calibrated subs on top of each other: registration by stars, resampling, levelling of backgrounds,
 * rejection of outliers, mean; streamed in bands of rows so that hundreds of large frames fit in little memory.
 *
 * <p>In: files and masters. Out: a {@link app.ironside.stack.StackResult}. Start at {@link app.ironside.stack.Stacker}.
 */
package app.ironside.stack;
