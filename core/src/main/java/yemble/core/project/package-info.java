/**
 * What the user wrote: the project file, the register, the key file. Nothing here asks a database.
 */
package yemble.core.project;
