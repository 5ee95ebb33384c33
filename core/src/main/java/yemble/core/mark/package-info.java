/** What is remembered of a load: digests of its rows, and the mark in its target. */
package yemble.core.mark;
