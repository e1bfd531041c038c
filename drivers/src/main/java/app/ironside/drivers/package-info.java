/** Drivers that ship with Ironside. */
package app.ironside.drivers;
