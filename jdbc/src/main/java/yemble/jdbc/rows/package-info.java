/** What several engines need to number rows. */
package yemble.jdbc.rows;
