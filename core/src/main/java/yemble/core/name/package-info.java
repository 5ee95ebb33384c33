/** Names of tables, columns and links as people write them. */
package yemble.core.name;
