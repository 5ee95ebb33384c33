package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Future;
import org.postgresql.copy.CopyIn;
import yemble.core.problem.Problem;
import yemble.core.store.Conveyor;

/**
 * Writes rows into one table by COPY. Blocks of rows are handed to a thread that sends them, so
 * that reading and masking go on meanwhile; a table of less than a block needs no thread.
 */
final class CopyWriter implements AutoCloseable {
  private static final int BLOCK = 1 << 17;

  private final CopyIn copy;
  private final String table;
  private final Conveyor<CopyText.Block, SQLException> conveyor;
  private CopyText.Block block = new CopyText.Block(BLOCK + BLOCK / 4);
  private boolean completed;

  /**
   * @param sql a COPY … FROM STDIN
   */
  CopyWriter(Session session, String sql, String table) {
    this.table = table;
    this.conveyor = new Conveyor<>(table, this::send);
    try {
      this.copy = session.copyIn(sql);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  private Problem failed(SQLException e) {
    return PostgresqlErrors.of(e, "rows cannot be written", table);
  }

  private void send(Conveyor.Blocks<CopyText.Block> blocks) throws SQLException {
    for (CopyText.Block rows = blocks.next(); rows != null; rows = blocks.next()) {
      copy.writeToCopy(rows.bytes(), 0, rows.length());
    }
  }

  /** Where the next row goes. */
  CopyText.Block block() {
    return block;
  }

  /** A row is complete, but for its line feed. */
  void endRow() {
    block.raw('\n');
    rowWritten();
  }

  /** A row is complete. */
  void rowWritten() {
    if (block.length() >= BLOCK) {
      hand(CompletableFuture.completedFuture(block));
      block = new CopyText.Block(BLOCK + BLOCK / 4);
    }
  }

  /** Hands over rows that are still in the making; blocks are sent in the order of this call. */
  void hand(Future<CopyText.Block> rows) {
    try {
      conveyor.hand(rows);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  /** Sends what is left; the rows are in the table afterwards. */
  void complete() {
    try {
      conveyor.finish();
      copy.writeToCopy(block.bytes(), 0, block.length());
      copy.endCopy();
      completed = true;
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  /** Gives the rows up unless they are complete. */
  @Override
  public void close() {
    if (completed) {
      return;
    }
    conveyor.stop();
    try {
      if (copy.isActive()) {
        copy.cancelCopy();
      }
    } catch (SQLException ignored) {
      // The first failure is the one to report.
    }
  }
}
