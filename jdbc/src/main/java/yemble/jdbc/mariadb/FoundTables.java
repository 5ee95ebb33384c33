package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;

/**
 * The tables of a target that migrations have made, for those of a schema: their own structure,
 * which the load keeps.
 */
final class FoundTables {
  private final Session session;
  private final Schema wanted;

  FoundTables(Session session, Schema wanted) {
    this.session = session;
    this.wanted = wanted;
  }

  /**
   * The structure of the tables that are there.
   *
   * @throws Problem of type REFUSED if a table or column is missing, or cannot take the rows
   */
  Schema schema() {
    try {
      MariadbCatalog catalog = new MariadbCatalog(session);
      Schema found = new MariadbStructure(session, catalog).schema();
      List<String> faults = new ArrayList<>();
      Set<String> names = new HashSet<>();
      List<Table> tables = new ArrayList<>();
      for (Table table : wanted.tables()) {
        Storage storage = catalog.storage(table.name());
        if (storage == null) {
          faults.add(table.name() + " is missing, or its rows lie elsewhere");
        } else {
          compare(table, storage, faults);
          names.add(table.name().name());
          tables.add(storage.table());
        }
      }
      if (!faults.isEmpty()) {
        throw Problem.of(Failure.TARGET_TABLES, "the target's tables cannot take the rows")
            .at(session.description())
            .because(faults)
            .remedy("bring the target's migrations to the state of the source");
      }
      List<SchemaObject> objects =
          found.objects().stream()
              .filter(
                  object ->
                      object.type() == Type.TABLE
                          ? names.contains(object.name())
                          : (object.type() == Type.FOREIGN_KEY || object.type() == Type.TRIGGER)
                              && names.contains(object.table()))
              .toList();
      return new Schema(tables, List.of(), objects, found.settings());
    } catch (SQLException e) {
      throw MariadbErrors.of(e, "the target's tables cannot be read", session.description());
    }
  }

  private void compare(Table table, Storage storage, List<String> faults) throws SQLException {
    Set<String> written = new HashSet<>();
    for (Column column : table.written()) {
      written.add(column.name());
      Column found = storage.table().column(column.name()).orElse(null);
      if (found == null) {
        faults.add(table.name(column) + " is missing");
      } else if (found.generated()) {
        faults.add(table.name(column) + " is computed by the target");
      } else if (!found.nullable() && column.nullable()) {
        faults.add(
            table.name(column) + " must not be NULL in the target, but may be in the source");
      }
    }
    Set<String> filling = new HashSet<>();
    session.query(
        "SELECT column_name FROM information_schema.columns WHERE table_schema = database()"
            + " AND table_name = "
            + Sql.literal(table.name().name())
            + " AND column_default IS NULL AND is_nullable = 'NO'"
            + " AND upper(extra) NOT LIKE '%AUTO_INCREMENT%'",
        row -> filling.add(row.getString(1).toLowerCase(Locale.ROOT)));
    for (Column column : storage.table().written()) {
      if (!written.contains(column.name())
          && filling.contains(column.name().toLowerCase(Locale.ROOT))) {
        faults.add(
            table.name(column) + " must not be NULL, has no default, and the source lacks it");
      }
    }
  }
}
