package yemble.core.store;

/**
 * Where a sequence stands.
 *
 * @param name as a statement of its engine names it
 * @param tableSchema of the table whose column it feeds; empty for the connection's own schema
 * @param table whose column it feeds, or an empty string
 * @param column that it feeds, or an empty string
 * @param increment negative for one that counts down
 * @param position its last value, or, if it has not been called, its next one
 * @param called whether it has given out {@code position}
 */
public record SequencePosition(
    String name,
    String tableSchema,
    String table,
    String column,
    long increment,
    long position,
    boolean called) {}
