package yemble.core.row;

/**
 * A set of rows of one table, as the one who made it holds it: numbers here, perhaps a table of
 * keys at a server. Whoever asks for rows need not know which.
 *
 * @param <S> what holds it
 */
public interface Rows<S extends Rows<S>> {
  long size();

  default boolean isEmpty() {
    return size() == 0;
  }

  /** Adds the rows of another set of the same table. */
  void addAll(S other);

  void removeAll(S other);

  /** The same rows in a set of their own. */
  S copy();
}
