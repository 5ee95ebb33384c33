package yemble.core.project;

import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.name.TableName;
import yemble.core.yaml.Place;

/**
 * What a project, and the baselines that it uses, lay down beside databases and jobs: kinds of its
 * own, masks, what survey looks for and who decides.
 *
 * @param own kinds that are the user's own, or masked otherwise than usual, by name
 * @param rules what survey looks for beside what it knows, by name
 * @param off what survey does not look for
 * @param countries whose forms of ids and addresses survey looks for, in capitals; empty for all
 * @param review whose decisions count; null if nothing is said
 */
public record Conventions(
    Map<String, Kind> own,
    Map<String, Rule> rules,
    List<Off> off,
    Set<String> countries,
    Review review) {
  /** Nothing laid down. */
  public static final Conventions NONE =
      new Conventions(Map.of(), Map.of(), List.of(), Set.of(), null);

  /** Whose decisions count. */
  public enum Review {
    /** Those of people alone. */
    PEOPLE,
    /** Those of survey, too. */
    ALL
  }

  public Conventions {
    off = List.copyOf(off);
    countries = Set.copyOf(countries);
  }

  /**
   * A rule for survey.
   *
   * @param names phrases in the name of a column that speak for the kind
   * @param pattern what the whole of a value looks like; null if nothing is said
   * @param values the values themselves, in lower case; empty if nothing is said
   * @param atLeast the share of a column's values that must fit, from 0 to 1
   */
  public record Rule(
      String name,
      String kind,
      List<List<String>> names,
      Pattern pattern,
      Set<String> values,
      double atLeast,
      Place place) {
    /** Whether the rule says anything of values. */
    public boolean seesValues() {
      return pattern != null || !values.isEmpty();
    }

    /** Whether a value is what the rule looks for. */
    public boolean accepts(String value) {
      return values.contains(value.toLowerCase(Locale.ROOT))
          || (pattern != null && pattern.matches(value));
    }
  }

  /**
   * A pack of kinds, or one kind, that survey does not look for.
   *
   * @param what the name of a category or of a kind
   * @param where names of databases, schemas or tables; empty for everywhere
   */
  public record Off(String what, List<String> where, Place place) {
    public Off {
      where = List.copyOf(where);
    }

    /** Whether it holds for a kind in a table. */
    public boolean covers(Kind kind, String database, TableName table) {
      return (what.equals(kind.name()) || what.equals(kind.category().toString()))
          && (where.isEmpty()
              || where.stream()
                  .anyMatch(
                      w ->
                          w.equals(database)
                              || w.equalsIgnoreCase(table.schema())
                              || w.equalsIgnoreCase(table.toString())));
    }
  }

  /** All kinds that are known here. */
  public Kinds kinds() {
    return Kinds.BUILT_IN.with(own.values());
  }

  /** Whether every decision must be a person's. */
  public boolean people() {
    return review == Review.PEOPLE;
  }

  /** Everything that makes a survey's results differ, in words that are the same each time. */
  public String print() {
    StringBuilder print = new StringBuilder();
    own.keySet().forEach(kind -> print.append("kind ").append(kind).append('\n'));
    rules
        .values()
        .forEach(
            rule ->
                print
                    .append("rule ")
                    .append(rule.kind())
                    .append(rule.names())
                    .append(rule.pattern())
                    .append(new TreeSet<>(rule.values()))
                    .append(rule.atLeast())
                    .append('\n'));
    off.forEach(o -> print.append("off ").append(o.what()).append(o.where()).append('\n'));
    return print.append("countries ").append(new TreeSet<>(countries)).toString();
  }

  /** Both together; where they differ, the other one wins. */
  Conventions and(Conventions winner) {
    Map<String, Kind> kinds = new LinkedHashMap<>(own);
    kinds.putAll(winner.own);
    Map<String, Rule> allRules = new LinkedHashMap<>(rules);
    allRules.putAll(winner.rules);
    List<Off> allOff = new ArrayList<>(off);
    allOff.addAll(winner.off);
    return new Conventions(
        kinds,
        allRules,
        allOff,
        winner.countries.isEmpty() ? countries : winner.countries,
        winner.review == null ? review : winner.review);
  }
}
