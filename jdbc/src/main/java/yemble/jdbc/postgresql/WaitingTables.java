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
  private final boolean lasting;
  private final Map<TableName, String> relations = new TreeMap<>();
  private PostgresqlCatalog catalog;
  private String doing = "";

  WaitingTables(Session session, Schema schema, FoundTables found) {
    this(session, schema, found, false);
  }

  private WaitingTables(Session session, Schema schema, FoundTables found, boolean lasting) {
    this.session = session;
    this.schema = schema;
    this.found = found;
    this.lasting = lasting;
  }

  /** The same in the schema {@code yemble}, where they last. */
  static WaitingTables lasting(Session session, Schema schema, FoundTables found) {
    return new WaitingTables(session, schema, found, true);
  }

  /** The name of a table that lasts, by its number, from 1. */
  static String lasting(int number) {
    return PostgresqlCatalog.OWN_SCHEMA + ".rewrite_" + number;
  }

  /** Where rows wait. */
  PostgresqlCatalog catalog() {
    return catalog;
  }

  /** The number of a table that lasts, from 1. */
  int number(TableName table) {
    return Integer.parseInt(relation(table).replaceFirst(".*_", ""));
  }

  String relation(TableName table) {
    return relations.get(table);
  }

  @Override
  public void prepare() throws SQLException {
    Map<TableName, Storage> places = new TreeMap<>();
    if (lasting) {
      session.execute("CREATE SCHEMA IF NOT EXISTS " + PostgresqlCatalog.OWN_SCHEMA);
    }
    for (Table table : schema.tables()) {
      doing = table.name().toString();
      int number = relations.size() + 1;
      String relation = lasting ? lasting(number) : "pg_temp.yemble_waiting_" + number;
      if (lasting) {
        session.execute("DROP TABLE IF EXISTS " + relation);
      }
      List<String> names = table.written().stream().map(Column::name).toList();
      session.execute(
          (lasting ? "CREATE TABLE " + relation : "CREATE TEMP TABLE yemble_waiting_" + number)
              + (lasting ? "" : " ON COMMIT DROP")
              + " AS SELECT "
              + Sql.quoted(names)
              + " FROM "
              + found.catalog().storage(table.name()).relation()
              + " WITH NO DATA");
      relations.put(table.name(), relation);
      places.put(table.name(), place(table, relation));
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
    for (Table table : schema.tables()) {
      String relation = relation(table.name());
      if (lasting && !table.primaryKey().isEmpty()) {
        doing = table.name().toString();
        session.execute(
            "CREATE INDEX ON " + relation + " (" + Sql.quoted(table.primaryKey()) + ")");
      }
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
