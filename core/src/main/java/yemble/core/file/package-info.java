/**
 * The one place through which files are written: beside, then renamed; never through a link, over a
 * database, or so that their owner cannot open them.
 */
package yemble.core.file;
