/** The application put together. */
package app.ironside.app;
