package yemble.core.project;

import java.util.List;
import java.util.Locale;
import yemble.core.yaml.Place;

/**
 * How a job's rows come into a target.
 *
 * @param leavesConflicts whether rows that conflict with the target's are left out; else they stop
 *     the load
 * @param match by which columns rows of a table find those that are there, where not by the key
 * @param leave columns that an update never touches, as written
 * @param same tables whose rows are those of the target with the same values in some columns
 * @param keys what fresh keys of tables whose keys are texts look like: {@code {number}} stands for
 *     a number
 * @param broken what becomes of references to nothing that would come to refer to something
 * @param helper the column of the target's tables that old keys are kept in; empty for tables
 *     beside
 * @param place where it is said, or where the job is
 */
public record Loading(
    Way way,
    boolean leavesConflicts,
    List<Columns> match,
    List<Job.Named> leave,
    List<Columns> same,
    List<Pattern> keys,
    Broken broken,
    String helper,
    Place place) {
  public Loading {
    match = List.copyOf(match);
    leave = List.copyOf(leave);
    same = List.copyOf(same);
    keys = List.copyOf(keys);
  }

  /** A way without terms. */
  public static Loading of(Way way, Place place) {
    return new Loading(
        way, false, List.of(), List.of(), List.of(), List.of(), Broken.REFUSE, "", place);
  }

  /** How a target is loaded. */
  public enum Way {
    /** Refused unless the target holds nothing. */
    EMPTY,
    /** What Yemble made there before is replaced. */
    REPLACE,
    /** Rows that are not there yet come in; those that are there stay as they are. */
    ADD,
    /** Rows come in, or take the place of those that are there. */
    UPDATE,
    /** Rows come in under keys of their own, and their links follow. */
    ALONGSIDE;

    /** As a person writes it. */
    @Override
    public String toString() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** Whether rows come into tables that are there, beside rows that are there. */
    public boolean merges() {
      return this != EMPTY && this != REPLACE;
    }
  }

  /** What becomes of a reference to nothing under which the target would have a row. */
  public enum Broken {
    /** The load is refused. */
    REFUSE,
    /** It becomes NULL. */
    NULL,
    /** It gets a fresh value, under which there is nothing. */
    FRESH
  }

  /** Columns of a table, as written. */
  public record Columns(Job.Named table, List<String> names) {
    public Columns {
      names = List.copyOf(names);
    }
  }

  /** What fresh keys of a table look like. */
  public record Pattern(Job.Named table, String text) {}
}
