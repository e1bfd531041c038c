/** What lies over the desk: one file looked at closely, and the stars to go by. */
package app.ironside.desk.inspect;
