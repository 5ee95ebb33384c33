package yemble.core.store;

import yemble.core.mark.Comparison;

/**
 * A sink that writes a script for an engine's own client. It cannot be read back before somebody
 * loads it, so the script itself looks whether all rows are in before it makes them visible.
 */
public interface Script extends Sink {
  /** The file that begins everything. */
  String FILE = "load.sql";

  /** The form in which its rows are compared once a client has loaded them. */
  default Comparison comparison() {
    return Comparison.SAME;
  }

  /**
   * What a person runs to load it.
   *
   * @param folder where it lies, as the person writes it
   */
  String command(String folder);

  /**
   * What is said at the beginning.
   *
   * @param title what the rows are and who wrote them, in one line
   * @param from the source's name and environment
   * @param origin the database that must never be loaded
   */
  record Head(String title, String from, Origin origin) {}
}
