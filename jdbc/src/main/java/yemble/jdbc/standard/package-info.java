/**
 * Any database that has a JDBC driver: by the metadata that the standard asks of drivers, and SQL
 * that most of them know.
 */
package yemble.jdbc.standard;
