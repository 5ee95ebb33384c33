package yemble.core.store;

import java.util.List;
import java.util.Set;
import java.util.function.LongConsumer;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.wording.Sentence;

/**
 * A database whose rows are rewritten where they stand. What rows become waits beside them until it
 * has been proved; from {@link #keep} on it outlasts whoever brought it, and {@link #put} goes on
 * where it was cut off.
 */
public interface InPlace extends AutoCloseable {
  /** How rows take the place of others. */
  enum Way {
    /** Row by row, found by their keys, in batches. */
    BY_KEY,
    /** All rows of a table go and come back at once. */
    WHOLE,
    /** All rows of a table go. */
    EMPTIED;

    /** As a person reads it. */
    public String words() {
      return switch (this) {
        case BY_KEY -> "by key";
        case WHOLE -> "whole";
        default -> "emptied";
      };
    }
  }

  /**
   * A table.
   *
   * @param changed the columns that may get other values
   * @param unique columns of unique keys among them: only the rows themselves tell whether new
   *     values meet old ones on the way, and then the table goes whole
   */
  record Part(Table table, Way way, List<Column> changed, List<List<String>> unique) {
    public Part {
      changed = List.copyOf(changed);
      unique = List.copyOf(unique);
    }
  }

  /**
   * Rows that somebody has changed.
   *
   * @param keys of some of them, columns joined by commas
   * @param whole whether the table stays as it is for that: its rows can only go back at once
   */
  record Edited(long rows, List<String> keys, boolean whole) {
    public Edited {
      keys = List.copyOf(keys);
    }
  }

  /** What was done about a place where originals may be left, or what a person has to do. */
  record Trace(String place, boolean cleaned, String words) {}

  /** What rows become waits in what this loads; it is never committed, and closed with this. */
  Load stage(Schema schema);

  /**
   * Writes what waits as statements for the engine's own client, which do the same another day;
   * what waits is dropped afterwards.
   *
   * @param mark that the statements leave
   * @param batch how many rows each transaction changes, about
   */
  void script(Mark mark, List<Part> parts, int batch, Appendable out);

  /**
   * Lets what waits outlast this connection, and leaves a mark; both or neither.
   *
   * @param parts what is to be done about each table
   */
  void keep(Mark mark, List<Part> parts);

  /** Whether something waits here that was kept. */
  boolean isKept();

  /** The tables for which something waits that was kept. */
  Set<TableName> kept(List<Part> parts);

  /** Whether what was written is still here beside the rows, see {@link #complete}. */
  boolean hasWritten();

  /** How many rows of a table are what waits for them; all their columns. */
  long alike(Part part);

  /**
   * The rows of a table that are neither what was written nor what waits: somebody has changed
   * them, or they are gone; once something waits.
   *
   * @param most of how many the keys are told
   */
  Edited edited(Part part, int most);

  /** Drops what waits. */
  void discard();

  /**
   * Puts what waits in the place of the rows, from where it was cut off.
   *
   * @param back whether rows that are no longer what was written stay as they are
   * @param batch how many rows are written between two commits, about
   * @param progress is told how many rows have been written since it was told last
   */
  void put(List<Part> parts, boolean back, int batch, LongConsumer progress);

  /** What of the tables is not as it waited; a line for each fault. */
  List<Sentence> faults(List<Part> parts);

  /** Reads the tables as they are now. */
  Reader rewritten();

  /**
   * Puts back what was taken off, leaves a mark in place of the one that is there and drops what
   * waits, and what was written before.
   *
   * @param keepsWritten whether what waited stays beside the rows, so that any later day they can
   *     be told from what somebody else has made of them
   */
  void complete(Mark mark, boolean keepsWritten);

  /** Removes what originals may have been left in, as far as this account may. */
  List<Trace> clean(List<Part> parts);

  @Override
  void close();
}
