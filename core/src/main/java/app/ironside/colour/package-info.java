/**
 * The colour room: stacks of several filters become one picture: brought onto one grid, levelled to one light and sky, blended, and stretched
 * by one curve. No sharpening and no painting.
 *
 * <p>In: stacks. Out: a {@link app.ironside.colour.ColourPicture}. Start at {@link app.ironside.colour.Combination}.
 */
package app.ironside.colour;
