/**
 * Tables, columns, keys and links, as an engine's catalog declares them or the project adds them.
 */
package yemble.core.schema;
