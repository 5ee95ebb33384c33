/**
 * The boundary to the databases: what the core asks of an engine, in sets of rows and never in SQL
 * of its own. Engines implement it; the core never learns which one it talks to.
 */
package yemble.core.store;
