/** The databases: one package an engine, each behind {@link yemble.core.store.Engine}. */
package yemble.jdbc;
