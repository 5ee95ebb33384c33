package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;

/**
 * Tables of the session alone in which rows wait for those of the target: their columns are of the
 * same types, and nothing else belongs to them. They end with the load's transaction.
 */
final class WaitingTables implements LoadedTables {
  private final Session session;
  private final Schema schema;
  private final FoundTables found;
  private final Map<TableName, String> relations = new TreeMap<>();
  private PostgresqlCatalog catalog;
  private String doing = "";

  WaitingTables(Session session, Schema schema, FoundTables found) {
    this.session = session;
    this.schema = schema;
    this.found = found;
  }

  /** Where rows wait. */
  PostgresqlCatalog catalog() {
    return catalog;
  }

  String relation(TableName table) {
    return relations.get(table);
  }

  @Override
  public void prepare() throws SQLException {
    Map<TableName, Storage> places = new TreeMap<>();
    for (Table table : schema.tables()) {
      doing = table.name().toString();
      String relation = "yemble_waiting_" + (relations.size() + 1);
      List<String> names = table.written().stream().map(Column::name).toList();
      session.execute(
          "CREATE TEMP TABLE "
              + relation
              + " ON COMMIT DROP AS SELECT "
              + Sql.quoted(names)
              + " FROM "
              + found.catalog().storage(table.name()).relation()
              + " WITH NO DATA");
      relations.put(table.name(), "pg_temp." + relation);
      places.put(table.name(), place(table, "pg_temp." + relation));
    }
    catalog = found.catalog().at(places);
  }

  private Storage place(Table table, String relation) throws SQLException {
    Storage there = found.catalog().storage(table.name());
    Table waiting =
        new Table(
            table.name(),
            table.written().stream()
                .map(column -> there.table().column(column.name()).orElseThrow())
                .toList(),
            table.primaryKey(),
            List.of(),
            "");
    return new Storage(
        Long.parseLong(session.one("SELECT '" + relation + "'::regclass::oid")),
        waiting,
        relation,
        List.of(),
        -1,
        there.types(),
        there.collations(),
        there.categories(),
        Set.of());
  }

  @Override
  public String copyInto(Table table) {
    return "COPY " + relation(table.name()) + Sql.list(table.written()) + " FROM STDIN";
  }

  @Override
  public void complete(Counting source) throws SQLException {
    for (String relation : relations.values()) {
      session.execute("ANALYZE " + relation);
    }
  }

  @Override
  public List<String> made() {
    return List.of();
  }

  @Override
  public String doing() {
    return doing;
  }
}
