package yemble.jdbc.sqlite;

import java.util.ArrayList;
import java.util.List;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/** Tables that are there, held against those whose rows come. */
final class FoundTables {
  private FoundTables() {}

  /**
   * Looks whether tables can take the rows.
   *
   * @throws Problem of type REFUSED if not
   */
  static void compare(Schema present, Schema incoming, String place) {
    List<String> faults = new ArrayList<>();
    for (Table table : incoming.tables()) {
      Table there = present.table(table.name());
      if (there == null) {
        faults.add("the table " + table.name() + " is missing");
        continue;
      }
      for (Column column : table.written()) {
        Column found = there.column(column.name()).orElse(null);
        if (found == null) {
          faults.add(table.name(column) + " is missing");
        } else if (found.generated()) {
          faults.add(table.name(column) + " is generated");
        } else if (column.nullable() && !found.nullable()) {
          faults.add(table.name(column) + " must not be NULL");
        }
      }
    }
    if (!faults.isEmpty()) {
      throw Problem.of(Failure.TARGET_TABLES, "the target's tables cannot take the source's rows")
          .at(place)
          .because(faults)
          .remedy("bring the migrations of source and target to the same version");
    }
  }
}
