/** The darkroom on the desk: folders of frames of any origin, judged and developed. Begin at {@link app.ironside.desk.darkroom.DarkroomPane}. */
package app.ironside.desk.darkroom;
