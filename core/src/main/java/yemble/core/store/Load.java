package yemble.core.store;

/** A sink that can be read back before it is committed, so that what lies in it can be proved. */
public interface Load extends Sink {
  /** Reads what has been loaded so far, as it will be after the commit. */
  Reader reader();
}
