/** MariaDB, through its own driver: everything that knows this engine's SQL. */
package yemble.jdbc.mariadb;
