/** A driver to copy and change; docs/DRIVERS.md walks through it. */
package app.ironside.sample;
