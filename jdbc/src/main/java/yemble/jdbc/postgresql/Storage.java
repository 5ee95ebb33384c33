package yemble.jdbc.postgresql;

import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.schema.Column;
import yemble.core.schema.Table;

/**
 * How a table lies in the database.
 *
 * @param relation its name with its schema, quoted
 * @param leaves the partitions that hold its rows, in the order of their object identifiers; empty
 *     for a table that is not partitioned
 * @param estimate about how many rows it has; negative if the server does not know
 * @param types of its columns, by name
 * @param collations of those columns that have one, by name
 * @param categories the letter of each column's type category, by name
 * @param indexed the columns that an index begins with
 */
record Storage(
    long oid,
    Table table,
    String relation,
    List<Leaf> leaves,
    double estimate,
    Map<String, ColumnType> types,
    Map<String, String> collations,
    Map<String, String> categories,
    Set<String> indexed) {

  /** A partition that holds rows. */
  record Leaf(long oid, String relation) {}

  boolean partitioned() {
    return !leaves.isEmpty();
  }

  ColumnType[] types(List<Column> columns) {
    return columns.stream().map(c -> types.get(c.name())).toArray(ColumnType[]::new);
  }
}
