/**
 * PostgreSQL 13 to 18. Rows travel as the text of {@code COPY}: what has no mask is neither decoded
 * nor boxed. A row is known by where it lies, its {@code ctid}, which holds as long as the snapshot
 * does.
 */
package yemble.jdbc.postgresql;
