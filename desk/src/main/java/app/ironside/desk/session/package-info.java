/** The night that is shown and the night that runs, which may be two; made ready beside the interface. */
package app.ironside.desk.session;
