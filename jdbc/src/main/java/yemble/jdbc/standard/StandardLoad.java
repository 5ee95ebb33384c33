package yemble.jdbc.standard;

import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.schema.DataType;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Load;
import yemble.core.store.Reader;
import yemble.jdbc.expression.Conditions;
import yemble.jdbc.expression.Lexicon;

/**
 * A load into tables beside those that are there, by batches of INSERT. Once the proof holds the
 * old tables are dropped and the new ones renamed, one after the other: what is to be done is
 * written down first, so that {@code doctor --mend} goes on where a broken run stopped.
 */
final class StandardLoad implements Load {
  private static final int BATCH = 500;

  private final Login login;
  private final Connection connection;
  private final Schema schema;
  private final List<String> dropped;
  private final StandardDialect dialect = new StandardDialect();
  private final Map<String, String> shadows = new LinkedHashMap<>();
  private StandardCatalog catalog;
  private final List<String> steps = new ArrayList<>();
  private boolean committed;

  StandardLoad(Login login, Connection connection, Schema schema, List<String> dropped) {
    this.login = login;
    this.connection = connection;
    this.schema = schema;
    this.dropped = dropped;
    String doing = login.place();
    try {
      Steps.mend(connection);
      Steps.clear(connection);
      for (SchemaObject object : schema.objects()) {
        if (object.type() == Type.TABLE && object.carried()) {
          doing = object.name();
          String shadow = Steps.NEW + (shadows.size() + 1);
          String lead = "CREATE TABLE " + dialect.quoted(object.name());
          Steps.run(
              connection, "CREATE TABLE " + shadow + object.definition().substring(lead.length()));
          shadows.put(object.name(), shadow);
        }
      }
      catalog = new StandardCatalog(connection, shadows);
    } catch (SQLException e) {
      close();
      throw StandardErrors.of(e, login.name() + " cannot be made ready", doing);
    }
  }

  @Override
  public RowWriter rows(Table table) {
    try {
      connection.setAutoCommit(false);
      return new Writer(table);
    } catch (SQLException e) {
      throw StandardErrors.of(e, "rows cannot be written", table.name().toString());
    }
  }

  /** Inserts rows in batches. */
  private final class Writer implements RowWriter {
    private final Table table;
    private final DataType[] types;
    private final PreparedStatement insert;
    private int waiting;

    Writer(Table table) throws SQLException {
      this.table = table;
      StandardTable storage = catalog.storage(table.name());
      this.types =
          table.written().stream()
              .map(column -> storage.types().get(column.name()))
              .toArray(DataType[]::new);
      List<String> names =
          table.written().stream().map(column -> dialect.quoted(column.name())).toList();
      this.insert =
          connection.prepareStatement(
              "INSERT INTO "
                  + storage.relation()
                  + " ("
                  + String.join(", ", names)
                  + ") VALUES ("
                  + "?, ".repeat(names.size() - 1)
                  + "?)");
    }

    @Override
    public void write(long row, Object[] values) {
      try {
        for (int i = 0; i < values.length; i++) {
          set(i + 1, types[i], values[i]);
        }
        insert.addBatch();
        if (++waiting == BATCH) {
          insert.executeBatch();
          waiting = 0;
        }
      } catch (SQLException e) {
        throw StandardErrors.of(e, "a row cannot be written", table.name().toString());
      }
    }

    private void set(int at, DataType type, Object value) throws SQLException {
      if (value == null) {
        insert.setObject(at, null);
        return;
      }
      switch (type.base()) {
        case BOOLEAN -> insert.setBoolean(at, value.equals(1L));
        case DECIMAL -> insert.setBigDecimal(at, new BigDecimal(value.toString()));
        case DATE -> insert.setObject(at, java.time.LocalDate.parse(value.toString()));
        case TIME -> insert.setObject(at, java.time.LocalTime.parse(value.toString()));
        case MOMENT ->
            insert.setObject(at, java.time.LocalDateTime.parse(value.toString().replace(' ', 'T')));
        case INSTANT ->
            insert.setObject(
                at,
                java.time.LocalDateTime.parse(value.toString().replace(' ', 'T'))
                    .atOffset(java.time.ZoneOffset.UTC));
        default -> insert.setObject(at, value);
      }
    }

    @Override
    public void close() {
      try (insert) {
        if (waiting > 0) {
          insert.executeBatch();
        }
        connection.commit();
      } catch (SQLException e) {
        throw StandardErrors.of(e, "rows cannot be written", table.name().toString());
      }
    }
  }

  @Override
  public void finish(Schema made, Counting source) {
    try {
      connection.setAutoCommit(true);
      steps.clear();
      StandardCatalog present = new StandardCatalog(connection, Map.of());
      for (String name : dropped) {
        StandardTable old = present.storage(TableName.of(name));
        if (old != null) {
          for (String key : present.keysOf(TableName.of(name))) {
            steps.add("ALTER TABLE " + old.relation() + " DROP CONSTRAINT " + dialect.quoted(key));
          }
        }
      }
      for (String name : dropped) {
        boolean view = present.storage(TableName.of(name)) == null;
        steps.add("DROP " + (view ? "VIEW " : "TABLE ") + dialect.quoted(name));
      }
      String rename = Steps.rename(connection);
      shadows.forEach(
          (name, shadow) ->
              steps.add(String.format(Locale.ROOT, rename, shadow, dialect.quoted(name))));
      for (SchemaObject object : schema.objects()) {
        boolean later = object.type() == Type.INDEX || object.type() == Type.FOREIGN_KEY;
        if (later && object.carried()) {
          steps.add(object.definition());
        }
      }
      counters(source, steps);
    } catch (SQLException e) {
      throw StandardErrors.of(
          e, "the structure of " + login.name() + " cannot be completed", login.place());
    }
  }

  /** Counters go on behind those of the source, and behind the keys that are in use. */
  private void counters(Counting source, List<String> steps) {
    Map<TableName, Long> positions = source.counters();
    Map<TableName, Long> used = reader().counters();
    for (Table table : catalog.tables()) {
      StandardTable storage = catalog.storage(table.name());
      long position =
          Math.max(positions.getOrDefault(table.name(), 0L), used.getOrDefault(table.name(), 0L));
      if (!storage.counted().isEmpty() && position > 0) {
        steps.add(
            "ALTER TABLE "
                + dialect.quoted(table.name().name())
                + " ALTER COLUMN "
                + dialect.quoted(storage.counted().get(0))
                + " RESTART WITH "
                + (position + 1));
      }
    }
  }

  @Override
  public Reader reader() {
    return new StandardReader(
        connection,
        "the new " + login.name(),
        false,
        shadows,
        Conditions.ofTarget(Lexicon.STANDARD));
  }

  @Override
  public List<String> made() {
    return List.copyOf(shadows.keySet());
  }

  @Override
  public void commit(Mark mark) {
    try {
      connection.setAutoCommit(true);
      Steps.prepare(connection, steps, mark);
      Steps.begin(connection);
      committed = true;
      Steps.carryThrough(connection, false);
    } catch (SQLException e) {
      throw StandardErrors.of(e, "the load of " + login.name() + " stopped half way", login.place())
          .remedy("yemble doctor --mend goes on where this stopped");
    }
  }

  @Override
  public void close() {
    if (committed) {
      return;
    }
    try {
      if (!connection.getAutoCommit()) {
        connection.rollback();
        connection.setAutoCommit(true);
      }
      Steps.clear(connection);
    } catch (SQLException ignored) {
      // The connection is gone; the next load clears what is left.
    }
  }
}
