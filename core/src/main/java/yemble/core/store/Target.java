package yemble.core.store;

import java.util.List;
import java.util.Optional;
import yemble.core.schema.Schema;

/** A database that may be written to, as it stands before anything is written. */
public interface Target extends AutoCloseable {
  /** What is written to, for people: engine and place, without user or password. */
  String description();

  /** The names of the tables it holds, Yemble's mark left out. */
  List<String> tables();

  /** Yemble's mark, if the target has one. */
  Optional<Mark> mark();

  /**
   * Begins a load that nobody sees before its {@link Load#commit()}.
   *
   * @param schema what the loaded tables are to look like
   * @param dropped the tables, out of {@link #tables()}, that the load replaces
   */
  Load load(Schema schema, List<String> dropped);

  @Override
  void close();
}
