package yemble.core.store;

/** A sink that can be read back before it is committed, so that what lies in it can be proved. */
public interface Load extends Sink {
  /** Reads what has been loaded so far, as it will be after the commit. */
  Reader reader();

  /**
   * Runs statements of the user's: as part of the load where {@link Statements#isWithin} says so,
   * else once it has been committed.
   */
  default Statements statements() {
    throw new UnsupportedOperationException("no client is known, so no statement either");
  }
}
