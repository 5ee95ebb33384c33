package yemble.core.project;

import java.util.List;
import java.util.Map;
import yemble.core.pattern.FinitePattern;
import yemble.core.yaml.Place;

/**
 * A list of agreed stand-ins, as the project file has it: who is on it is known by one column,
 * {@code by}; several columns of several tables take their values from it.
 *
 * @param name the user's name for it
 * @param file its file, from the project's folder
 * @param by the column whose value says who it is
 * @param gives which columns take which values, in the order of the project file
 * @param through links that are gone where several ways lead to the table of {@code by}
 * @param remember whether a run writes down what whoever is not on the list becomes
 * @param patterns what new values of a field look like, where it is not what the mask makes
 * @param where a condition on the table of {@code by}: who may be on it; empty for all
 */
public record PinList(
    String name,
    String file,
    Job.Named by,
    List<Give> gives,
    List<Job.Named> through,
    boolean remember,
    Map<String, FinitePattern> patterns,
    String where,
    Place place) {
  /** The heading of the column that says whose line it is. */
  public static final String KEY = "key";

  public PinList {
    gives = List.copyOf(gives);
    through = List.copyOf(through);
    patterns = Map.copyOf(patterns);
  }

  /**
   * A column that takes its values from the list.
   *
   * @param field the heading of the file under which they stand
   * @param password whether it is a password there, and its hash in the column
   */
  public record Give(Job.Named column, String field, boolean password) {}

  /** The headings of its file but the key's, in the order of the project file. */
  public List<String> fields() {
    return gives.stream().map(Give::field).distinct().toList();
  }

  /** Whether a field holds passwords. */
  public boolean isPassword(String field) {
    return gives.stream().anyMatch(give -> give.field().equals(field) && give.password());
  }
}
