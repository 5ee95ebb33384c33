package yemble.core.row;

/**
 * What becomes of one column's cells, decided here for all ways that rows take: blocks, rows one by
 * one, the proof, the preview. Belongs to one thread.
 *
 * <p>Most are pure functions of the value. One that depends on more says so by {@link
 * #needsRows()}: then the engine gives it the row's number. One that looks something up says so by
 * {@link #isTold()}: then the engine copies in batches, and tells it of each before its first
 * value.
 */
public final class CellChange {
  /** The value passes through; engines need not look at it. */
  public static final CellChange KEEP = new CellChange(null, Blanks.STAY, false, new RowSet());

  private final Function function;
  private final Blanks blanks;
  private final boolean clears;
  private final RowSet clearedIn;

  /** Whether {@link #clearedIn} holds any: asked for every cell, so it is not counted each time. */
  private final boolean clearsSome;

  private CellChange(Function function, Blanks blanks, boolean clears, RowSet clearedIn) {
    this.function = function;
    this.blanks = blanks;
    this.clears = clears;
    this.clearedIn = clearedIn;
    this.clearsSome = !clearedIn.isEmpty();
  }

  /** Makes the new value. */
  @FunctionalInterface
  public interface Function {
    /**
     * The new value of one that does not stay.
     *
     * @param row the row's number in the source; 0 unless {@link #needsRows()}
     */
    Object apply(long row, Object value);

    /** Whether it depends on the row, and must know its number. */
    default boolean needsRows() {
      return false;
    }

    /** Whether it must be told of batches, too, before their rows come. */
    default boolean isTold() {
      return false;
    }

    /** The rows whose values come next. */
    default void batch(RowSet rows) {}
  }

  /**
   * What a function makes of each cell.
   *
   * @param blanks which cells without a value it makes something of, too
   */
  public static CellChange by(Function function, Blanks blanks) {
    return new CellChange(function, blanks, false, new RowSet());
  }

  /** The same with another function; cells without a value stay. */
  public CellChange with(Function other) {
    return new CellChange(other, Blanks.STAY, clears, clearedIn);
  }

  /** The same, but every cell becomes NULL. */
  public CellChange cleared() {
    return new CellChange(function, blanks, true, clearedIn);
  }

  /** The same, but in some rows more the cell becomes NULL. */
  public CellChange clearedIn(RowSet rows) {
    RowSet all = clearedIn.copy();
    all.addAll(rows);
    return new CellChange(function, blanks, clears, all);
  }

  /** Whether every cell stays what it is. */
  public boolean keeps() {
    return function == null && !clears && !clearsSome;
  }

  /** Whether every cell becomes NULL. */
  public boolean clears() {
    return clears;
  }

  /** Whether a row's cell becomes NULL, whatever it holds. */
  public boolean clears(long row) {
    return clears || (clearsSome && clearedIn.contains(row));
  }

  /** Which cells without a value need not be looked at; of no meaning if all are cleared. */
  public Blanks blanks() {
    return blanks;
  }

  /** Whether it must be told of batches before their rows come. */
  public boolean isTold() {
    return !clears && function != null && function.isTold();
  }

  /** Whether it depends on the row, and must know its number. */
  public boolean needsRows() {
    return !clears && (clearsSome || (function != null && function.needsRows()));
  }

  /** The rows whose values come next. */
  public void batch(RowSet rows) {
    if (function != null) {
      function.batch(rows);
    }
  }

  /** What the function makes of a value, whether or not the row's cell is cleared. */
  public Object changed(long row, Object value) {
    return function == null || blanks.stays(value) ? value : function.apply(row, value);
  }

  /**
   * What becomes of a cell.
   *
   * @param row the row's number in the source; of no meaning unless {@link #needsRows()}
   */
  public Object apply(long row, Object value) {
    return clears(row) ? null : changed(row, value);
  }
}
