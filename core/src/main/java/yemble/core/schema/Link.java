package yemble.core.schema;

import java.util.List;
import yemble.core.name.DottedName;
import yemble.core.name.TableName;

/**
 * A reference from a child table to a parent table. It exists for the child rows whose columns are
 * all non-null and that satisfy the condition.
 *
 * @param parentColumns of the same number as {@code childColumns}, each with its counterpart
 * @param declared whether the database declares it as a foreign key
 * @param condition SQL over the child's columns, or an empty string
 */
public record Link(
    TableName child,
    List<String> childColumns,
    TableName parent,
    List<String> parentColumns,
    boolean declared,
    String condition) {
  public Link {
    childColumns = List.copyOf(childColumns);
    parentColumns = List.copyOf(parentColumns);
  }

  /** {@code child.column}, or {@code child.(a, b)}: how a declared link is named. */
  public String childEnd() {
    return end(child, childColumns);
  }

  private static String end(TableName table, List<String> columns) {
    if (columns.size() == 1) {
      return table + "." + DottedName.quoted(columns.get(0));
    }
    return table
        + ".("
        + String.join(", ", columns.stream().map(DottedName::quoted).toList())
        + ")";
  }

  /** As a project file writes it. */
  @Override
  public String toString() {
    return childEnd() + " -> " + end(parent, parentColumns);
  }
}
