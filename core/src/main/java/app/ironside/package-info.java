/**
 * What every room of Ironside shares and nothing more: checked arguments, the one exception for unusable input, and the
 * port through which long work reports and is cancelled. The rooms are the packages below, in the order of the work.
 */
package app.ironside;
