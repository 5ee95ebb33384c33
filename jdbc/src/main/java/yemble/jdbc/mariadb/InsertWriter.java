package yemble.jdbc.mariadb;

import java.sql.SQLException;
import java.util.List;
import java.util.concurrent.Future;
import yemble.core.schema.Column;

/** Writes rows by INSERT, many in a statement: for servers that forbid LOAD DATA LOCAL. */
final class InsertWriter implements RowSink {
  private static final int STATEMENT = 1 << 19;

  private final Session session;
  private final String table;
  private final String lead;
  private final ColumnForm[] forms;
  private final StringBuilder sql = new StringBuilder();

  InsertWriter(Session session, Storage storage, List<Column> columns) {
    this.session = session;
    this.table = storage.table().name().toString();
    this.forms = storage.forms(columns);
    this.lead = Sql.insert(storage.relation(), columns);
  }

  @Override
  public void write(Object[] values) {
    sql.append(sql.length() == 0 ? lead : ",");
    Sql.row(sql, forms, values);
    if (sql.length() > STATEMENT) {
      complete();
    }
  }

  @Override
  public void hand(Future<LoadText.Block> rows) {
    throw new UnsupportedOperationException("rows for LOAD DATA");
  }

  @Override
  public void complete() {
    if (sql.length() > 0) {
      try {
        session.execute(sql.toString());
        if (!"0".equals(session.one("SELECT @@warning_count"))) {
          session.query(
              "SHOW WARNINGS LIMIT 1",
              row -> {
                throw MariadbErrors.of(
                    new Session.Warning(row.getInt(2), row.getString(3)),
                    "rows cannot be written",
                    table);
              });
        }
      } catch (SQLException e) {
        throw MariadbErrors.of(e, "rows cannot be written", table);
      }
      sql.setLength(0);
    }
  }

  @Override
  public void close() {
    sql.setLength(0);
  }
}
