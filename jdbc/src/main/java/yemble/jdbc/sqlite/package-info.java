/** SQLite, through the Xerial driver: everything that knows this engine's SQL. */
package yemble.jdbc.sqlite;
