package yemble.core.store;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import yemble.core.mark.Mark;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
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

  /** What speaks against rewriting this database where it stands. */
  default List<Danger> dangers() {
    return List.of();
  }

  /** The tables that keep what their rows were: a rewrite deletes that of those that it changes. */
  default Set<TableName> histories() {
    return Set.of();
  }

  /** What rewrites its rows where they stand. */
  default InPlace inPlace() {
    throw Problem.of(Failure.TARGET_KIND, "this kind of database is not rewritten in place")
        .at(description())
        .remedy("let a job load a masked subset of it into a database of its own: yemble run");
  }

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

  /**
   * Drops a column of tables; where others keep something in it, too, only the values that begin
   * with a prefix. All or none, where the engine can.
   *
   * @param alone for each table, whether nobody else keeps anything in it
   */
  default void forget(String column, String prefix, Map<TableName, Boolean> alone) {
    throw new UnsupportedOperationException("no client is known, so no column either");
  }

  @Override
  void close();

  /**
   * What speaks against rewriting a database.
   *
   * @param session whether it is another session at work there, which a person may allow
   */
  record Danger(String what, boolean session) {}

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
