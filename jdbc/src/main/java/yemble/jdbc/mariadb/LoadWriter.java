package yemble.jdbc.mariadb;

import java.io.InputStream;
import java.sql.SQLException;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Future;
import java.util.function.Predicate;
import yemble.core.problem.Problem;
import yemble.core.store.Conveyor;

/**
 * Writes rows into one table by LOAD DATA LOCAL. The statement runs in a thread of its own, which
 * is fed with blocks of rows, so that reading and masking go on meanwhile; a table of less than a
 * block needs no thread. The statement turns errors into warnings, rows that are left out included:
 * so any warning is a failure.
 */
final class LoadWriter implements RowSink {
  private static final int BLOCK = 1 << 17;

  /**
   * Into an empty table, and without checks, the server sorts all rows of a statement first; over a
   * row of more than about 80 MB it never comes to an end (seen with 11.4.5).
   */
  static final int LONG = 1 << 25;

  static final String CHECKED = "SET SESSION unique_checks = 1";
  static final String UNCHECKED = "SET SESSION unique_checks = 0";

  private final Session session;
  private final String sql;
  private final ColumnForm[] forms;
  private final String table;
  private final Predicate<Session.Warning> harmless;
  private final Conveyor<LoadText.Block, SQLException> conveyor;
  private LoadText.Block block = new LoadText.Block(BLOCK + BLOCK / 4);
  private boolean completed;
  private boolean checked;

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
    this.conveyor = new Conveyor<>(table, this::load);
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
    try {
      conveyor.hand(rows);
    } catch (SQLException e) {
      throw failed(e);
    }
  }

  private Problem failed(SQLException e) {
    return MariadbErrors.of(e, "rows cannot be written", table);
  }

  /** Loads blocks, by one statement up to the first long one. */
  private void load(Conveyor.Blocks<LoadText.Block> blocks) throws SQLException {
    LoadText.Block first = blocks.next();
    while (first != null) {
      if (first.length() > LONG) {
        session.execute(CHECKED);
        checked = true;
      }
      BlockStream rows = new BlockStream(first, blocks, checked);
      load(rows);
      first = rows.rest();
    }
    unchecked();
  }

  private void unchecked() throws SQLException {
    if (checked) {
      session.execute(UNCHECKED);
      checked = false;
    }
  }

  private void load(InputStream rows) throws SQLException {
    List<Session.Warning> warnings =
        session.load(sql, rows).stream().filter(harmless.negate()).toList();
    if (!warnings.isEmpty()) {
      throw MariadbErrors.of(warnings.get(0), "rows cannot be written", table);
    }
  }

  /** Blocks, as the driver reads them. */
  private static final class BlockStream extends InputStream {
    private final Conveyor.Blocks<LoadText.Block> blocks;
    private final boolean all;
    private LoadText.Block current;
    private LoadText.Block rest;
    private int at;

    /**
     * @param all whether long blocks are read, too
     */
    BlockStream(LoadText.Block first, Conveyor.Blocks<LoadText.Block> blocks, boolean all) {
      this.current = first;
      this.blocks = blocks;
      this.all = all;
    }

    /** The block that the next statement begins with; null if none is left. */
    LoadText.Block rest() {
      return rest;
    }

    private void forward() {
      current = blocks.next();
      at = 0;
      if (!all && current != null && current.length() > LONG) {
        rest = current;
        current = null;
      }
    }

    @Override
    public int read() {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    @Override
    public int read(byte[] into, int from, int most) {
      while (current != null && at == current.length()) {
        forward();
      }
      if (current == null) {
        return -1;
      }
      int size = Math.min(most, current.length() - at);
      System.arraycopy(current.bytes(), at, into, from, size);
      at += size;
      return size;
    }
  }

  @Override
  public void complete() {
    try {
      if (conveyor.isRunning()) {
        flush();
        conveyor.finish();
      } else if (block.length() > 0) {
        LoadText.Block[] only = {block};
        load(
            () -> {
              LoadText.Block next = only[0];
              only[0] = null;
              return next;
            });
      }
    } catch (SQLException e) {
      throw failed(e);
    }
    completed = true;
  }

  @Override
  public void close() {
    if (!completed) {
      conveyor.stop();
    }
  }
}
