/** A frame as a picture: stretched beside the interface, zoomed, with rings about its stars and the sky laid over it. */
package app.ironside.desk.picture;
