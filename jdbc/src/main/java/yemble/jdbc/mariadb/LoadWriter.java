package yemble.jdbc.mariadb;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.sql.SQLException;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.Future;
import java.util.function.Predicate;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * Writes rows into one table by LOAD DATA LOCAL. The statement runs in a thread of its own, which
 * is fed with blocks of rows, so that reading and masking go on meanwhile; a table of less than a
 * block needs no thread. The statement turns errors into warnings, rows that are left out included:
 * so any warning is a failure.
 */
final class LoadWriter implements RowSink {
  private static final int BLOCK = 1 << 17;
  private static final int WAITING_BLOCKS = 8;
  private static final Future<LoadText.Block> END =
      CompletableFuture.completedFuture(new LoadText.Block(0));

  private final Session session;
  private final String sql;
  private final ColumnForm[] forms;
  private final String table;
  private final Predicate<Session.Warning> harmless;
  private final BlockingQueue<Future<LoadText.Block>> waiting =
      new ArrayBlockingQueue<>(WAITING_BLOCKS);
  private LoadText.Block block = new LoadText.Block(BLOCK + BLOCK / 4);
  private Thread sender;
  private volatile Throwable failure;
  private boolean completed;

  /**
   * @param sql a LOAD DATA LOCAL
   * @param forms of its fields
   * @param harmless which warnings are none
   */
  LoadWriter(
      Session session,
      String sql,
      ColumnForm[] forms,
      String table,
      Predicate<Session.Warning> harmless) {
    this.harmless = harmless;
    this.forms = forms;
    this.session = session;
    this.sql = sql;
    this.table = table;
  }

  @Override
  public void write(Object[] values) {
    block.row(values, forms);
    if (block.length() >= BLOCK) {
      flush();
    }
  }

  private void flush() {
    hand(CompletableFuture.completedFuture(block));
    block = new LoadText.Block(BLOCK + BLOCK / 4);
  }

  @Override
  public void hand(Future<LoadText.Block> rows) {
    if (sender == null) {
      sender = new Thread(this::send, "yemble-load");
      sender.setDaemon(true);
      sender.start();
    }
    put(rows);
    check();
  }

  private void put(Future<LoadText.Block> rows) {
    try {
      waiting.put(rows);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.of(Failure.INTERRUPTED, "writing was interrupted").at(table);
    }
  }

  private void send() {
    Blocks blocks = new Blocks();
    try {
      load(blocks);
    } catch (SQLException | RuntimeException | Error e) {
      failure = failure == null ? e : failure;
    }
    // After a failure blocks are taken and dropped, so that nobody waits for room forever.
    blocks.drain();
  }

  private void load(InputStream rows) throws SQLException {
    List<Session.Warning> warnings =
        session.load(sql, rows).stream().filter(harmless.negate()).toList();
    if (!warnings.isEmpty()) {
      throw MariadbErrors.of(warnings.get(0), "rows cannot be written", table);
    }
  }

  /** The blocks that wait, as the driver reads them. */
  private final class Blocks extends InputStream {
    private LoadText.Block current = new LoadText.Block(0);
    private int at;
    private boolean ended;

    @Override
    public int read() {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    @Override
    public int read(byte[] into, int from, int most) {
      while (at == current.length()) {
        if (ended || !next()) {
          return -1;
        }
      }
      int size = Math.min(most, current.length() - at);
      System.arraycopy(current.bytes(), at, into, from, size);
      at += size;
      return size;
    }

    private boolean next() {
      try {
        Future<LoadText.Block> next = waiting.take();
        if (next == END) {
          ended = true;
          return false;
        }
        current = next.get();
        at = 0;
        return true;
      } catch (ExecutionException e) {
        failure = e.getCause();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        ended = true;
      }
      return false;
    }

    private void drain() {
      while (!ended) {
        try {
          ended = waiting.take() == END;
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
          return;
        }
      }
    }
  }

  private void check() {
    if (failure instanceof SQLException refused) {
      throw MariadbErrors.of(refused, "rows cannot be written", table);
    }
    if (failure instanceof RuntimeException problem) {
      throw problem;
    }
    if (failure != null) {
      throw new IllegalStateException(failure);
    }
  }

  private void finishSender() {
    if (sender == null) {
      return;
    }
    put(END);
    try {
      sender.join();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    sender = null;
  }

  @Override
  public void complete() {
    if (sender != null) {
      flush();
      finishSender();
      check();
    } else if (block.length() > 0) {
      try {
        load(new ByteArrayInputStream(block.bytes(), 0, block.length()));
      } catch (SQLException e) {
        throw MariadbErrors.of(e, "rows cannot be written", table);
      }
    }
    completed = true;
  }

  @Override
  public void close() {
    if (!completed) {
      finishSender();
    }
  }
}
