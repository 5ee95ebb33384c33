package yemble.core.subset;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.problem.Problem;
import yemble.core.project.Amount;
import yemble.core.project.Condition;
import yemble.core.project.Pick;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.yaml.Place;

/**
 * What a job asks for, its words resolved against the schema.
 *
 * @param picks where the subset starts; without any, and without an amount, every row of every
 *     table is asked for
 * @param amount what the picks are made of, if the job names no tables; those of a size take
 *     everything until their share is known
 * @param whole tables that are in with all their rows
 * @param empty tables that stay without rows
 * @param rules every link, declared or of the project
 */
public record Request(
    List<Start> picks,
    Optional<Amount> amount,
    Set<TableName> whole,
    Set<TableName> empty,
    List<Rule> rules) {
  public Request {
    picks = List.copyOf(picks);
    whole = Set.copyOf(whole);
    empty = Set.copyOf(empty);
    rules = List.copyOf(rules);
  }

  /** Whether a column is part of a link that is not cut. */
  public boolean isLinked(TableName table, String column) {
    return rules.stream()
        .filter(rule -> !rule.cut())
        .map(Rule::link)
        .anyMatch(
            link ->
                (link.child().equals(table) && link.childColumns().contains(column))
                    || (link.parent().equals(table) && link.parentColumns().contains(column)));
  }

  /** Whether the job takes everything. */
  public boolean everything() {
    return picks.isEmpty() && amount.isEmpty();
  }

  /** The same where rows that refer to nothing stay as they are: for who can leave no row out. */
  public Request keepingAll() {
    return new Request(
        picks, amount, whole, empty, rules.stream().map(Rule::keepingBroken).toList());
  }

  /** The same with one rule in the place of another. */
  Request ruling(Rule rule, Rule other) {
    return new Request(
        picks, amount, whole, empty, rules.stream().map(r -> r.equals(rule) ? other : r).toList());
  }

  /** The same with a share for every pick. */
  Request sharing(BigDecimal share) {
    return new Request(
        picks.stream().map(pick -> pick.sharing(share)).toList(), amount, whole, empty, rules);
  }

  /**
   * Asks a source whether it understands the conditions.
   *
   * @throws Problem of type USAGE, with the place where it is written, if it does not
   */
  public void check(Reader source) {
    for (Start pick : picks) {
      check(source, pick.table(), pick.where(), pick.where().place().toString());
    }
    for (Rule rule : rules) {
      Table child = source.schema().table(rule.link().child());
      check(source, child, rule.where(), rule.place());
      check(source, child, new Condition(rule.link().condition(), Place.of("")), rule.place());
    }
  }

  private static void check(Reader source, Table table, Condition condition, String place) {
    if (condition.isEmpty() || condition.isBound()) {
      return; // One with values is looked at where it is used.
    }
    try {
      source.check(table, condition.sql());
    } catch (Problem refused) {
      throw refused.atIfUnknown(place);
    }
  }

  /**
   * A pick.
   *
   * @param where what its rows must satisfy
   * @param share 1 for all
   * @param rows {@link Pick#ALL} for all
   * @param newest if those with the greatest values of a column are taken
   * @param keys if the rows of some keys are taken
   * @param place where it is written
   */
  public record Start(
      Table table,
      Condition where,
      BigDecimal share,
      long rows,
      Optional<Newest> newest,
      Optional<Keys> keys,
      String place) {
    /** The rows with the greatest values of a column; equal values by the keyed hash. */
    public record Newest(Column column, long rows) {}

    /**
     * The rows of some keys.
     *
     * @param columns of a unique key
     * @param rows the keys' values as text
     * @param all whether each of them must be there
     */
    public record Keys(
        String file,
        List<Column> columns,
        List<List<String>> rows,
        List<Integer> lines,
        boolean all) {}

    /** All rows of a table, or a share of them. */
    static Start of(Table table, BigDecimal share, String place) {
      return new Start(
          table, Condition.NONE, share, Pick.ALL, Optional.empty(), Optional.empty(), place);
    }

    private Start sharing(BigDecimal other) {
      return new Start(table, where, other, rows, newest, keys, place);
    }

    /** The scope of the keyed hash that chooses among the rows. */
    public String scope() {
      return "pick/" + table.name().scope();
    }

    /** Whether a row's keyed hash decides if it is picked. */
    public boolean hashed() {
      return share.compareTo(BigDecimal.ONE) < 0 || rows != Pick.ALL || newest.isPresent();
    }
  }
}
