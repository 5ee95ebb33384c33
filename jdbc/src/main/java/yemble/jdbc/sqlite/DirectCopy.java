package yemble.jdbc.sqlite;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;
import org.sqlite.Function;
import yemble.core.row.Blanks;
import yemble.core.row.CellChange;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.RowSource;
import yemble.jdbc.ways.AttachableFile;

/**
 * Copies from file to file inside SQLite: the source is attached, read-only, to the connection that
 * writes, and the masks are SQL functions. What is not masked never becomes a Java object, and
 * keeps every byte, text that is no UTF-8 included.
 *
 * <p>The attached file must show what the reader sees. In the rollback journal modes it does, since
 * the reader's shared lock keeps writers from committing, and in WAL mode as long as nobody writes;
 * where a program is at work on it in WAL mode it need not, and this way is not taken.
 */
final class DirectCopy {
  private static final String SOURCE = "yemble_source";

  private final Connection connection;
  private final RowSource source;
  private final AttachableFile file;
  private int functions;

  /** What a mask has thrown within a statement: SQLite passes on no more than that it failed. */
  private RuntimeException refused;

  private DirectCopy(Connection connection, RowSource source, AttachableFile file) {
    this.connection = connection;
    this.source = source;
    this.file = file;
  }

  /** Attaches a source; null if it cannot be copied from this way. */
  static DirectCopy from(RowSource source, AttachableFile file, Connection connection)
      throws SQLException {
    if (!file.isStill()) {
      return null;
    }
    try (Statement statement = connection.createStatement()) {
      file.attach(statement, SOURCE);
    }
    return new DirectCopy(connection, source, file);
  }

  RowSource source() {
    return source;
  }

  void detach() throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("DETACH " + SOURCE);
    }
  }

  /**
   * Copies rows.
   *
   * @param rowid the column by which the target's row numbers are set, or an empty string
   */
  void copy(Table table, String rowid, RowSet rows, List<CellChange> changes, LongConsumer progress)
      throws SQLException {
    AttachableFile.Keys key = file.keys(table.name());
    List<String> into = new ArrayList<>();
    List<String> values = new ArrayList<>();
    List<String> made = new ArrayList<>();
    if (!rowid.isEmpty()) {
      into.add(rowid);
      values.add("yemble_s." + key.order());
    }
    List<Column> columns = table.written();
    for (int i = 0; i < columns.size(); i++) {
      String column = Sql.quoted(columns.get(i).name());
      into.add(column);
      CellChange change = changes.get(i);
      if (change.keeps()) {
        values.add("yemble_s." + column);
      } else if (change.clears()) {
        values.add("NULL");
      } else {
        String name = "yemble_mask_" + functions++;
        Function.create(
            connection, name, new MaskFunction(change), -1, Function.FLAG_DETERMINISTIC);
        made.add(name);
        boolean numbered = change.needsRows();
        values.add(
            "CASE WHEN "
                + looked(change.blanks(), "yemble_s." + column)
                + " THEN "
                + name
                + "(yemble_s."
                + column
                + (numbered ? ", yemble_s." + key.order() : "")
                + ") ELSE yemble_s."
                + column
                + " END");
      }
    }
    String insert =
        "INSERT INTO main."
            + Sql.quoted(table.name())
            + " ("
            + String.join(", ", into)
            + ") SELECT "
            + String.join(", ", values)
            + " FROM ";
    String from = SOURCE + "." + Sql.quoted(table.name());
    List<CellChange> told = changes.stream().filter(CellChange::isTold).toList();
    try {
      if (told.isEmpty() && rows.size() == source.count(table)) {
        try (Statement statement = connection.createStatement()) {
          statement.executeUpdate(insert + from + " yemble_s ORDER BY " + key.order());
        }
        progress.accept(rows.size());
      } else {
        batches(key, rows, insert, from, told, progress);
      }
    } catch (SQLException e) {
      if (refused != null) {
        throw refused;
      }
      throw e;
    }
    for (String name : made) {
      Function.destroy(connection, name);
    }
  }

  /** Which cells of a column the function is asked of. */
  private static String looked(Blanks blanks, String column) {
    if (blanks.empties()) {
      return blanks.nulls() ? "1" : column + " IS NOT NULL";
    }
    String holding = "octet_length(" + column + ") > 0";
    return blanks.nulls() ? column + " IS NULL OR " + holding : holding;
  }

  private void batches(
      AttachableFile.Keys key,
      RowSet rows,
      String insert,
      String from,
      List<CellChange> told,
      LongConsumer progress)
      throws SQLException {
    try {
      rows.forEachBatch(
          key.batch(),
          (batch, length) -> {
            tell(told, batch, length);
            try (PreparedStatement statement =
                connection.prepareStatement(insert + key.from(from, "yemble_s", length))) {
              key.bind(statement, batch, length);
              statement.executeUpdate();
              progress.accept(length);
            } catch (SQLException e) {
              throw new Failed(e);
            }
          });
    } catch (Failed failed) {
      throw failed.failure;
    }
  }

  private static void tell(List<CellChange> told, long[] batch, int length) {
    if (!told.isEmpty()) {
      RowSet rows = new RowSet();
      for (int i = 0; i < length; i++) {
        rows.add(batch[i]);
      }
      told.forEach(change -> change.batch(rows));
    }
  }

  /** Carries an exception out of a lambda. */
  private static final class Failed extends RuntimeException {
    private final SQLException failure;

    Failed(SQLException failure) {
      super(failure);
      this.failure = failure;
    }
  }

  /** A mask as a function of SQL. */
  private final class MaskFunction extends Function {
    private static final int INTEGER = 1;
    private static final int FLOAT = 2;
    private static final int TEXT = 3;
    private static final int BLOB = 4;
    private final CellChange change;

    MaskFunction(CellChange change) {
      this.change = change;
    }

    @Override
    protected void xFunc() throws SQLException {
      Object value =
          switch (value_type(0)) {
            case INTEGER -> value_long(0);
            case FLOAT -> value_double(0);
            case TEXT -> value_text(0);
            case BLOB -> value_blob(0);
            default -> null;
          };
      Object changed;
      try {
        changed = change.apply(args() > 1 ? value_long(1) : 0, value);
      } catch (RuntimeException e) {
        refused = e;
        throw e;
      }
      if (changed == null) {
        result();
      } else if (changed instanceof Long number) {
        result(number);
      } else if (changed instanceof Double number) {
        result(number);
      } else if (changed instanceof byte[] blob) {
        result(blob);
      } else {
        result(changed.toString());
      }
    }
  }
}
