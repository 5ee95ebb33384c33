/** Rows that come beside rows that are there: what is asked for, and what comes of it. */
package yemble.core.merge;
