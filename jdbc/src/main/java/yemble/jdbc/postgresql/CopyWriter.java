package yemble.jdbc.postgresql;

import java.sql.SQLException;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import org.postgresql.copy.CopyIn;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * Writes rows into one table by COPY. Blocks of rows are handed to a thread that sends them, so
 * that reading and masking go on meanwhile; a table of less than a block needs no thread.
 */
final class CopyWriter implements AutoCloseable {
  private static final int BLOCK = 1 << 17;
  private static final int WAITING_BLOCKS = 8;
  private static final Future<CopyText.Block> END =
      CompletableFuture.completedFuture(new CopyText.Block(0));

  private final CopyIn copy;
  private final String table;
  private final BlockingQueue<Future<CopyText.Block>> waiting =
      new ArrayBlockingQueue<>(WAITING_BLOCKS);
  private CopyText.Block block = new CopyText.Block(BLOCK + BLOCK / 4);
  private Thread sender;
  private volatile Throwable failure;
  private boolean completed;

  /**
   * @param sql a COPY … FROM STDIN
   */
  CopyWriter(Session session, String sql, String table) {
    this.table = table;
    try {
      this.copy = session.copyIn(sql);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  private Problem failed(SQLException e) {
    return PostgresqlErrors.of(e, "rows cannot be written", table);
  }

  /** Where the next row goes. */
  CopyText.Block block() {
    return block;
  }

  /** A row is complete. */
  void endRow() {
    block.raw('\n');
    if (block.length() >= BLOCK) {
      hand(CompletableFuture.completedFuture(block));
      block = new CopyText.Block(BLOCK + BLOCK / 4);
    }
  }

  /** Hands over rows that are still in the making; blocks are sent in the order of this call. */
  void hand(Future<CopyText.Block> rows) {
    if (sender == null) {
      sender = new Thread(this::send, "yemble-copy");
      sender.setDaemon(true);
      sender.start();
    }
    try {
      waiting.put(rows);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.of(Failure.INTERRUPTED, "writing was interrupted").at(table);
    }
    check();
  }

  private void check() {
    if (failure instanceof SQLException refused) {
      throw failed(refused);
    }
    if (failure instanceof RuntimeException bug) {
      throw bug;
    }
    if (failure != null) {
      throw new IllegalStateException(failure);
    }
  }

  private void send() {
    try {
      for (Future<CopyText.Block> next = waiting.take(); next != END; next = waiting.take()) {
        // After a failure blocks are taken and dropped, so that nobody waits for room forever.
        if (failure == null) {
          send(next);
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private void send(Future<CopyText.Block> next) throws InterruptedException {
    try {
      CopyText.Block rows = next.get();
      copy.writeToCopy(rows.bytes(), 0, rows.length());
    } catch (SQLException | RuntimeException | Error e) {
      failure = e;
    } catch (ExecutionException e) {
      failure = e.getCause();
    }
  }

  private void finishSender() {
    if (sender == null) {
      return;
    }
    try {
      waiting.put(END);
      sender.join();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    sender = null;
  }

  /** Sends what is left; the rows are in the table afterwards. */
  void complete() {
    finishSender();
    check();
    try {
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
    finishSender();
    try {
      if (copy.isActive()) {
        copy.cancelCopy();
      }
    } catch (SQLException ignored) {
      // The first failure is the one to report.
    }
  }
}
