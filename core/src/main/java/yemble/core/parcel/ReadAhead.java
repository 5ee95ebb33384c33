package yemble.core.parcel;

import java.io.IOException;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.store.RowSource.RowVisitor;

/**
 * Rows that another thread unpacks and reads while somebody looks at those before them. They are
 * seen by the thread that asks; less than a batch needs no other one.
 */
final class ReadAhead implements AutoCloseable {
  private static final int BATCH = 500;
  private static final int WAITING = 6;

  private final RowText.Reader lines;
  private final int columns;
  private final BlockingQueue<Batch> waiting = new ArrayBlockingQueue<>(WAITING);
  private Thread thread;

  /** Some rows; the last batch has fewer than it could have, or a failure. */
  private static final class Batch {
    private final long[] numbers = new long[BATCH];
    private final Object[][] rows = new Object[BATCH][];
    private int size;
    private Exception failure;
  }

  /**
   * @param columns how many values a row has
   */
  ReadAhead(RowText.Reader lines, int columns) {
    this.lines = lines;
    this.columns = columns;
  }

  /**
   * Shows all rows to a visitor.
   *
   * @param at the positions of the values that it asks for
   * @throws IllegalArgumentException if what is there are no rows of so many values
   */
  void visit(int[] at, RowVisitor visitor) throws IOException {
    Batch batch = read();
    if (batch.size == BATCH) {
      thread = new Thread(this::run, "yemble-unpack");
      thread.setDaemon(true);
      thread.start();
    }
    Object[] values = new Object[at.length];
    while (true) {
      for (int row = 0; row < batch.size; row++) {
        for (int i = 0; i < at.length; i++) {
          values[i] = batch.rows[row][at[i]];
        }
        batch.rows[row] = null;
        visitor.row(batch.numbers[row], values);
      }
      if (batch.failure instanceof IOException failure) {
        throw failure;
      }
      if (batch.failure instanceof RuntimeException failure) {
        throw failure;
      }
      if (batch.size < BATCH) {
        return;
      }
      try {
        batch = waiting.take();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw Problem.of(Failure.INTERRUPTED, "reading was interrupted").causedBy(e);
      }
    }
  }

  private Batch read() {
    Batch batch = new Batch();
    try {
      while (batch.size < BATCH) {
        Object[] values = new Object[columns];
        if (!lines.next(values)) {
          break;
        }
        batch.numbers[batch.size] = lines.number();
        batch.rows[batch.size++] = values;
      }
    } catch (IOException | RuntimeException e) {
      batch.failure = e;
    }
    return batch;
  }

  private void run() {
    try {
      Batch batch;
      do {
        batch = read();
        waiting.put(batch);
      } while (batch.size == BATCH && batch.failure == null);
    } catch (InterruptedException given) {
      // Nobody wants the rest.
    }
  }

  @Override
  public void close() {
    if (thread != null) {
      thread.interrupt();
      try {
        thread.join();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
