package yemble.core.store;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import yemble.core.mark.Mark;
import yemble.core.project.Structure;
import yemble.core.schema.Schema;

/** A database that may be written to, as it stands before anything is written. */
public interface Target extends AutoCloseable {
  /** What is written to, for people: engine and place, without user or password. */
  String description();

  /**
   * What tells this database from any other: what a person writes after {@code confirmed:} when the
   * guard asks for it.
   */
  String identity();

  /**
   * How this database stands to the one that rows come from; found out at the servers, not by URLs.
   */
  Relation relation(Origin source);

  /** The names of what it holds, in the engine's own spelling, Yemble's mark left out. */
  List<String> content();

  /** Yemble's mark, if the target has one. */
  Optional<Mark> mark();

  /** What of {@link #content()} has a name that a load of a schema needs. */
  List<String> inTheWay(Schema schema);

  /** The tables of a schema that are here and hold rows, in the engine's own spelling. */
  List<String> filled(Schema schema);

  /** What a person should know before this target is written to. */
  List<String> warnings();

  /**
   * Runs statements of the user's when the next {@link #load} begins: before anything is replaced,
   * and in its transaction where the engine allows.
   */
  default void before(Consumer<Statements> steps) {
    throw new UnsupportedOperationException("no client is known, so no statement either");
  }

  /** Whether what steps do is part of a load, and undone if that fails. */
  default boolean stepsAreWithin() {
    return false;
  }

  /** Runs statements by themselves, in a transaction of their own. */
  default void alone(Consumer<Statements> steps) {
    throw new UnsupportedOperationException("no client is known, so no statement either");
  }

  /**
   * Begins a load that nobody sees before its {@link Load#commit}.
   *
   * @param schema what the loaded tables are to look like
   * @param structure whether the load makes the tables, or finds them
   * @param grants whether those who may do something in the source may do it here, too
   * @param dropped what of {@link #content()} the load replaces: removed if it makes the tables,
   *     emptied if it finds them
   * @throws yemble.core.problem.Problem of type REFUSED if tables that must be there are not, or
   *     cannot take the rows
   */
  Load load(Schema schema, Structure structure, boolean grants, List<String> dropped);

  /**
   * Begins a load whose rows are merged into tables that are there.
   *
   * @param schema what the rows look like that come
   * @throws yemble.core.problem.Problem of type REFUSED if tables that must be there are not, or
   *     cannot take the rows
   */
  Merge merge(Schema schema);

  /** The names of what loads keep old and new keys in, with how many each holds. */
  default Map<String, Long> memories() {
    return Map.of();
  }

  /** Drops some of {@link #memories()}, all or none. */
  default void forget(Collection<String> memories) {
    if (!memories.isEmpty()) {
      throw new UnsupportedOperationException();
    }
  }

  @Override
  void close();

  /** How a target stands to a source. */
  enum Relation {
    /** Another database. */
    APART,
    /** The very same one. */
    SAME,
    /** One that began as the same: a replica, a restored backup, a clone of the disk. */
    TWIN
  }
}
