/** Rows by their numbers, and what becomes of their cells: what all that follows has in common. */
package yemble.core.row;
