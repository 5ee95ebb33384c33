package yemble.jdbc.rows;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.jdbc.expression.BoundQuery;

/** One connection to a server, and what every server is asked alike. Belongs to one thread. */
public class ServerSession implements AutoCloseable {
  protected final Connection connection;
  private final String description;
  private final int fetchSize;

  /**
   * @param description of the place, for people
   * @param fetchSize how many rows of a result come at a time; 0 for all
   */
  protected ServerSession(Connection connection, String description, int fetchSize) {
    this.connection = connection;
    this.description = description;
    this.fetchSize = fetchSize;
  }

  public final String description() {
    return description;
  }

  /** Cuts the connection, whatever it waits for; may be called from another thread. */
  public final void abort() {
    try {
      connection.abort(Runnable::run);
    } catch (SQLException e) {
      // It is gone already.
    }
  }

  public final void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.setEscapeProcessing(false);
      statement.execute(sql);
    }
  }

  /** Sees the rows of a result. */
  public interface RowAction {
    void accept(ResultSet row) throws SQLException;
  }

  /** Runs a query without parameters; its question marks are operators. */
  public final void query(String sql, RowAction action) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.setEscapeProcessing(false);
      statement.setFetchSize(fetchSize);
      try (ResultSet rows = statement.executeQuery(sql)) {
        while (rows.next()) {
          action.accept(rows);
        }
      }
    }
  }

  /** Shows all rows of a query whose values are bound. */
  public final void bound(String sql, List<String> values, BoundQuery.RowAction action)
      throws SQLException {
    BoundQuery.run(connection, sql, values, this::bind, action);
  }

  /** Binds a value as the type that its place in a statement asks for. */
  protected void bind(PreparedStatement statement, int at, String value) throws SQLException {
    statement.setString(at, value);
  }

  /** The first value of the first row as text; null if it is NULL or there is no row. */
  public final String one(String sql) throws SQLException {
    String[] found = new String[1];
    boolean[] any = new boolean[1];
    query(
        sql,
        row -> {
          if (!any[0]) {
            found[0] = row.getString(1);
            any[0] = true;
          }
        });
    return found[0];
  }

  @Override
  public final void close() {
    try {
      connection.close();
    } catch (SQLException e) {
      throw Problem.of(Failure.DATABASE_FAILED, "closing the connection failed")
          .at(description)
          .causedBy(e);
    }
  }
}
