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
import yemble.core.mask.MaskRule;
import yemble.core.name.DottedName;
import yemble.core.name.TableName;
import yemble.core.yaml.Place;

/**
 * What a project, and the baselines that it uses, lay down beside databases and jobs: kinds of its
 * own, masks, what survey looks for and who decides.
 *
 * @param masks how kinds are masked, where that is not how they usually are, by name
 * @param columns how columns are masked, where that is not how their kinds are
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
    Review review,
    Map<String, MaskRule> masks,
    List<ColumnRule> columns) {
  /** Nothing laid down. */
  public static final Conventions NONE =
      new Conventions(Map.of(), Map.of(), List.of(), Set.of(), null, Map.of(), List.of());

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
    columns = List.copyOf(columns);
  }

  /**
   * How the columns of a name are masked.
   *
   * @param name of one column, or a pattern of names: {@code *} stands for any characters
   */
  public record ColumnRule(String name, MaskRule rule, Place place) {
    /** Whether it is a pattern rather than one name. */
    public boolean isPattern() {
      int path = DottedName.pathAt(name); // A path's own [*] is no pattern.
      return (path < 0 ? name : name.substring(0, path)).indexOf('*') >= 0;
    }
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
        winner.review == null ? review : winner.review,
        together(masks, winner.masks),
        columnsWith(winner.columns));
  }

  private static Map<String, MaskRule> together(
      Map<String, MaskRule> masks, Map<String, MaskRule> winning) {
    Map<String, MaskRule> all = new LinkedHashMap<>(masks);
    all.putAll(winning);
    return all;
  }

  /** These column rules, but for those of names that win otherwise, and then the winning ones. */
  private List<ColumnRule> columnsWith(List<ColumnRule> winning) {
    Set<String> names = new TreeSet<>();
    winning.forEach(column -> names.add(column.name()));
    List<ColumnRule> all = new ArrayList<>();
    columns.stream().filter(column -> !names.contains(column.name())).forEach(all::add);
    all.addAll(winning);
    return all;
  }
}
