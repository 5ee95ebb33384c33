package yemble.core.schema;

/**
 * A column of a table.
 *
 * @param type the declared type, as the catalog writes it; may be empty
 * @param nullable whether it may hold NULL
 * @param generated whether the database computes it: then it is never written
 */
public record Column(String name, String type, boolean nullable, boolean generated) {}
