/**
 * The command line: thin verbs over the core. Each verb turns options into records, asks the core, and prints one answer, for a
 * person or as JSON. Start at {@link app.ironside.cli.Main}.
 */
package app.ironside.cli;
