/** The command line: one class a command, and everything a person sees. */
package yemble.cli;
