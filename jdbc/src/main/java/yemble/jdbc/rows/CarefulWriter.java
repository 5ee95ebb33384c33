package yemble.jdbc.rows;

import yemble.core.store.Sink;

/** A writer whose table is completed only if none of its rows has failed. */
public abstract class CarefulWriter implements Sink.RowWriter {
  private boolean failed;

  /** Writes a row. */
  protected abstract void put(Object[] values);

  /** Sends what is left. */
  protected abstract void complete();

  /** Ends writing; gives the rows up unless they are complete. */
  protected abstract void end();

  @Override
  public final void write(long row, Object[] values) {
    failed = true;
    put(values);
    failed = false;
  }

  @Override
  public final void close() {
    try {
      if (!failed) {
        complete();
      }
    } finally {
      end();
    }
  }
}
