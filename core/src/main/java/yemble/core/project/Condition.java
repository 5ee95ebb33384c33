package yemble.core.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.yaml.Place;

/**
 * What the rows of a table must satisfy.
 *
 * @param sql of the database's own, over the columns of the table; or an empty string. Where there
 *     are values, {@code :name} stands for one of them
 * @param values of its parameters, by name; they are bound and never become a part of the text
 * @param place where it is written
 */
public record Condition(String sql, Map<String, String> values, Place place) {
  public static final Condition NONE = new Condition("", Map.of(), Place.of(""));

  /** What is quoted, and parameters outside of it; not the colons of a cast. */
  private static final Pattern PARAMETER =
      Pattern.compile("'(?:[^']|'')*'|\"(?:[^\"]|\"\")*\"|`[^`]*`|::|:([A-Za-z_][A-Za-z0-9_]*)");

  public Condition {
    values = Map.copyOf(values);
  }

  public Condition(String sql, Place place) {
    this(sql, Map.of(), place);
  }

  public boolean isEmpty() {
    return sql.isEmpty();
  }

  /** Whether it has parameters: then its text alone means nothing to a database. */
  public boolean isBound() {
    return !values.isEmpty();
  }

  /** The same with the values of those parameters that it has. */
  public Condition with(Map<String, String> given) {
    Map<String, String> own = new LinkedHashMap<>(given);
    own.keySet().retainAll(parameters(sql));
    return new Condition(sql, own, place);
  }

  /** The parameters in a text. */
  public static Set<String> parameters(String sql) {
    Set<String> names = new LinkedHashSet<>();
    Matcher found = PARAMETER.matcher(sql);
    while (found.find()) {
      if (found.group(1) != null) {
        names.add(found.group(1));
      }
    }
    return names;
  }

  /** The values that {@link #marked} asks for, in its order. */
  public List<String> bound() {
    List<String> bound = new ArrayList<>();
    marked(
        name -> {
          bound.add(values.get(name));
          return "";
        });
    return bound;
  }

  /** The text with a mark in the place of each parameter. */
  public String marked(UnaryOperator<String> mark) {
    Matcher found = PARAMETER.matcher(sql);
    StringBuilder text = new StringBuilder();
    while (found.find()) {
      boolean parameter = found.group(1) != null && values.containsKey(found.group(1));
      String with = parameter ? mark.apply(found.group(1)) : found.group();
      found.appendReplacement(text, Matcher.quoteReplacement(with));
    }
    return found.appendTail(text).toString();
  }

  @Override
  public String toString() {
    return sql;
  }
}
