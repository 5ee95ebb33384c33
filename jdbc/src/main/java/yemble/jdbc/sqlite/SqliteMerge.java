package yemble.jdbc.sqlite;

import java.math.BigInteger;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import java.util.function.Supplier;
import org.sqlite.SQLiteConfig;
import yemble.core.mark.Mark;
import yemble.core.merge.MergePlan;
import yemble.core.merge.Tally;
import yemble.core.problem.Problem;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Merge;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.store.Statements;
import yemble.core.wording.Sentence;
import yemble.jdbc.rows.KeptKeys;
import yemble.jdbc.rows.Merger;

/**
 * Rows that wait in a file beside the target, and are merged into it in one transaction of its own:
 * what ends it before the commit is rolled back by whoever opens the file next, as SQLite does.
 */
final class SqliteMerge implements Merge {
  private static final String WAITING = "yemble_waiting";

  private final Path file;
  private final String name;
  private final SqliteLoad part;
  private final Connection connection;
  private final Schema present;
  private final List<String> triggers = new ArrayList<>();
  private Connection waiting;
  private boolean attached;
  private boolean merging;
  private Merger merger;

  /**
   * @param schema what the rows look like that come
   * @throws Problem of type REFUSED if tables that must be there are not, or cannot take the rows
   */
  SqliteMerge(Path file, String name, Schema schema) {
    this.file = file;
    this.name = name;
    Connection opened = null;
    try {
      if (!Files.exists(file)) {
        FoundTables.compare(
            new Schema(List.of(), List.of(), List.of(), Map.of()), schema, file.toString());
      }
      SQLiteConfig config = new SQLiteConfig();
      config.setBusyTimeout(SqliteEngine.BUSY_MILLISECONDS);
      opened = config.createConnection("jdbc:sqlite:" + file);
      this.connection = opened;
      execute("PRAGMA foreign_keys = OFF");
      execute("PRAGMA cache_size = -65536");
      this.present = new SqliteCatalog(connection).schema();
      FoundTables.compare(present, schema, file.toString());
    } catch (SQLException e) {
      SqliteEngine.close(opened);
      throw SqliteErrors.of(e, name + " cannot be read", file.toString());
    } catch (RuntimeException e) {
      SqliteEngine.close(opened);
      throw e;
    }
    Schema tables = new Schema(schema.tables(), List.of(), List.of(), schema.settings());
    try {
      this.part = new SqliteLoad(file, name, tables, List.of(), false, null);
    } catch (RuntimeException e) {
      SqliteEngine.close(connection);
      throw e;
    }
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public RowWriter rows(Table table) {
    return part.rows(table);
  }

  @Override
  public boolean copy(
      RowSource source,
      Table table,
      RowSet rows,
      Supplier<List<CellChange>> changes,
      LongConsumer progress) {
    return part.copy(source, table, rows, changes, progress);
  }

  @Override
  public void finish(Schema schema, Counting source) {
    part.finish(new Schema(schema.tables(), List.of(), List.of(), schema.settings()), source);
    part.release();
    try {
      execute("ATTACH " + Sql.quoted(SqliteLoad.part(file).toString()) + " AS " + WAITING);
      attached = true;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "what waits cannot be read", file.toString());
    }
  }

  @Override
  public Reader reader() {
    try {
      if (waiting == null) {
        waiting = new SQLiteConfig().createConnection("jdbc:sqlite:" + SqliteLoad.part(file));
      }
      return new SqliteReader(waiting, "what waits for " + name, false);
    } catch (SQLException e) {
      throw SqliteErrors.of(e, "what waits cannot be read", file.toString());
    }
  }

  @Override
  public Statements statements() {
    return SqliteLoad.statements(connection, true);
  }

  @Override
  public Reader merged() {
    return new SqliteReader(connection, name, false);
  }

  @Override
  public List<String> made() {
    return List.of();
  }

  @Override
  public Schema present() {
    return present;
  }

  @Override
  public Optional<BigInteger> greatest(Column column) {
    return Sql.affinity(column.type()).equals("INTEGER")
        ? Optional.of(BigInteger.valueOf(Long.MAX_VALUE))
        : Optional.empty();
  }

  private Merger merger(MergePlan plan) {
    if (merger == null) {
      merger = new Merger(new MergeWords(connection, WAITING), plan, this::greatest);
    }
    return merger;
  }

  @Override
  public List<Tally> decide(MergePlan plan) {
    return merger(plan).decide();
  }

  @Override
  public void hold(MergePlan plan) {
    String doing = file.toString();
    try {
      execute("BEGIN IMMEDIATE");
      merging = true;
      Set<String> names = new HashSet<>();
      plan.parts().forEach(p -> names.add(p.name().name().toLowerCase(Locale.ROOT)));
      for (SchemaObject object : present.objects()) {
        if (object.type() == SchemaObject.Type.TRIGGER
            && names.contains(object.table().toLowerCase(Locale.ROOT))) {
          doing = object.name();
          execute("DROP TRIGGER " + Sql.quoted(object.name()));
          triggers.add(object.definition());
        }
      }
      for (MergePlan.Part each : plan.parts()) {
        doing = each.name().toString();
        Optional<KeptKeys.Making> making = merger(plan).keeping(each);
        if (making.isPresent()) {
          for (String statement : making.get().statements()) {
            execute(statement);
          }
        }
      }
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be made ready", doing);
    }
  }

  @Override
  public void put(MergePlan plan) {
    merger(plan).put();
  }

  @Override
  public void complete(Counting source) {
    try {
      for (String trigger : triggers) {
        execute(trigger);
      }
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be completed", file.toString());
    }
  }

  @Override
  public List<Sentence> faults(MergePlan plan) {
    return merger(plan).faults();
  }

  @Override
  public void own(MergePlan.Part each, List<Column> columns, RowSource.RowVisitor visitor) {
    merged().rows(each.table(), merger.own(each), columns, visitor);
  }

  @Override
  public void commit(Mark mark) {
    try {
      execute("DROP TABLE IF EXISTS main." + SqliteCatalog.MARK_TABLE);
      MarkTable.write(connection, mark);
      execute("COMMIT");
      merging = false;
    } catch (SQLException e) {
      throw SqliteErrors.of(e, name + " cannot be completed", file.toString());
    }
  }

  @Override
  public void close() {
    try {
      if (merging) {
        execute("ROLLBACK");
      }
      if (attached) {
        execute("DETACH " + WAITING);
      }
    } catch (SQLException ignored) {
      // Closing rolls back, too.
    }
    SqliteEngine.close(connection);
    SqliteEngine.close(waiting);
    part.close();
  }
}
