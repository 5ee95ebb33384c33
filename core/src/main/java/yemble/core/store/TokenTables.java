package yemble.core.store;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * The tables of a token store in a database, in one session. They hold tokens, and what leads back
 * from them as bytes that say nothing without the store's key. Belongs to one thread; every method
 * is one transaction, and throws {@link yemble.core.problem.Problem} of type DATABASE if it fails.
 */
public interface TokenTables extends AutoCloseable {
  /** Where they are, for people. */
  String description();

  /** What the store begins with; empty if there is no store of this name. */
  Optional<byte[]> head();

  /** Whether the database holds something that belongs to no token store. */
  boolean holdsOthers();

  /**
   * Makes the tables.
   *
   * @param head what the store begins with, if nobody has begun it meanwhile
   */
  void begin(byte[] head);

  /** A token with what leads back. */
  record Entry(String token, byte[] original) {}

  /** Begins to keep tokens: they wait in tables of this session until all of them are there. */
  Keeping keeping();

  /** Tokens that wait. */
  interface Keeping extends AutoCloseable {
    void add(List<Entry> entries);

    /**
     * Keeps those that are not there yet, and remembers of all of them that they were seen; all of
     * it or nothing.
     *
     * @param head what the store must begin with still
     * @param column that they stand in
     * @return whether it does; if not, nothing is kept
     */
    boolean finish(byte[] head, String column, LocalDate day);

    @Override
    void close();
  }

  /** The entries of those of some tokens that are there. */
  List<Entry> find(List<String> tokens);

  /** Remembers who asked for originals, when, why and how many. */
  void asked(String who, String when, String why, int tokens);

  /** Who asked for originals, the newest first: when, who, why, how many. */
  List<String[]> questions(int most);

  /**
   * Replaces the head and what leads back from every token.
   *
   * @param before what the store must begin with still
   * @param change makes the new bytes of an entry
   * @return how many tokens there are; -1 if it does not begin with that
   */
  long rewrite(byte[] before, byte[] head, UnaryOperator<Entry> change);

  /** Removes tokens that were seen last before a day; how many. */
  long expire(LocalDate before);

  /**
   * What a store holds.
   *
   * @param oldest when the token that has not been seen for the longest time was seen; null without
   *     any
   */
  record Content(long tokens, LocalDate oldest, LocalDate newest, List<Used> columns) {}

  /** A column whose values were kept: since when, and last. */
  record Used(String column, LocalDate since, LocalDate last) {}

  Content content();

  @Override
  void close();
}
