/**
 * The night as a document: the file that names site, kit, program and what is to be rehearsed; the draft of it with what can be taken back;
 * the steps to be proven; the pack for the field.
 */
package app.ironside.document;
