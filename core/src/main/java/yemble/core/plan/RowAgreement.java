package yemble.core.plan;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.kind.TypeSort;
import yemble.core.mask.MaskRule;
import yemble.core.name.ColumnName;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * The rules by which the masked columns of a row agree: addresses and logins follow the names
 * beside them, towns and regions the postal code, an age the day of birth, the end of something its
 * beginning. Proposed for masked columns of no link that no rule of the project speaks of; without
 * them a value is a function of itself.
 *
 * <p>An address that follows the names of its row may become another one elsewhere. So that is
 * proposed only where all columns and paths of its kind can follow the names of their rows.
 */
public final class RowAgreement {
  private RowAgreement() {}

  /** A rule that is proposed. */
  public sealed interface Proposed {
    ColumnName column();
  }

  /** An address or a login is made of the names beside it. */
  public record Follows(ColumnName column) implements Proposed {}

  /**
   * A place belongs to the postal code beside it, an age to the day of birth.
   *
   * @param by the name of that column
   */
  public record KeyedBy(ColumnName column, String by) implements Proposed {}

  /**
   * Two days, of which one begins what the other one ends, move by one amount.
   *
   * @param other the name of the one that ends it
   */
  public record Together(ColumnName column, String other) implements Proposed {}

  /** How columns are called of which one begins what the other one ends. */
  private static final Set<String> BEGIN_AND_END =
      Set.of(
          "start end",
          "started ended",
          "begin end",
          "began ended",
          "from to",
          "from until",
          "hired left",
          "hire leave",
          "hired terminated",
          "hire termination",
          "joined left",
          "entry exit",
          "entered left",
          "admitted discharged",
          "admission discharge",
          "opened closed",
          "open close",
          "departure arrival",
          "departed arrived",
          "checkin checkout",
          "issued expires",
          "issue expiry",
          "since until",
          "first last",
          "von bis",
          "beginn ende",
          "eintritt austritt",
          "debut fin",
          "inicio fin",
          "inizio fine");

  private static final Pattern NAME_PARTS = Pattern.compile("[^\\p{L}]+|(?<=\\p{Ll})(?=\\p{Lu})");

  /**
   * What is proposed for a database.
   *
   * @param links declared ones and the project's
   */
  public static List<Proposed> of(
      Schema schema, List<Link> links, Decisions decisions, ColumnRules rules) {
    Set<ColumnName> linked = new HashSet<>();
    for (Link link : links) {
      link.childColumns().forEach(column -> linked.add(new ColumnName(link.child(), column)));
      link.parentColumns().forEach(column -> linked.add(new ColumnName(link.parent(), column)));
    }
    List<TablePlan> plans =
        schema.tables().stream().map(table -> Plan.loose(table, decisions, rules)).toList();
    Set<String> elsewhere = alone(plans, linked);
    List<Proposed> proposed = new ArrayList<>();
    for (TablePlan plan : plans) {
      Table table = plan.table();
      for (int position : plan.masked()) {
        TablePlan.ColumnPlan column = plan.columns().get(position);
        ColumnName name = table.name(column.column());
        if (linked.contains(name) || rules.speakOf(name) || isSaid(column.rule())) {
          continue;
        }
        // The kind that it is, not the one it is masked as: a place of birth is no place to live.
        String said = decisions.column(name).kind();
        Traits traits =
            Kinds.BUILT_IN.traits(Kinds.BUILT_IN.of(said).isPresent() ? said : column.kind());
        if (traits.ofNames() && hasNames(plan) && !elsewhere.contains(column.kind())) {
          proposed.add(new Follows(name));
        } else if (traits.area() == Traits.Area.WITHIN) {
          keyed(plan, column, other -> other.area() == Traits.Area.CODE)
              .ifPresent(code -> proposed.add(new KeyedBy(name, code)));
        } else if (traits.born() == Traits.Born.YEARS) {
          keyed(plan, column, other -> other.born() == Traits.Born.DAY)
              .ifPresent(day -> proposed.add(new KeyedBy(name, day)));
        } else if (isDay(column)) {
          IntStream.of(plan.masked())
              .mapToObj(i -> plan.columns().get(i))
              .filter(other -> isDay(other) && !rules.speakOf(table.name(other.column())))
              .map(other -> other.column().name())
              .filter(other -> isEndOf(other, column.column().name()))
              .findFirst()
              .ifPresent(end -> proposed.add(new Together(name, end)));
        }
      }
    }
    return proposed;
  }

  /** The kinds of which a column or a path is masked that has no names beside it to follow. */
  private static Set<String> alone(List<TablePlan> plans, Set<ColumnName> linked) {
    Set<String> kinds = new HashSet<>();
    for (TablePlan plan : plans) {
      for (TablePlan.ColumnPlan column : plan.columns()) {
        column.paths().values().forEach(path -> kinds.add(path.kind()));
        column.rule().cases().forEach(one -> kinds.add(one.kind()));
        if (column.kind().equals(Kinds.VARIOUS) && column.rule().cases().isEmpty()) {
          Kinds.BUILT_IN.all().stream() // It may hold any of them.
              .filter(kind -> kind.traits().ofNames())
              .forEach(kind -> kinds.add(kind.name()));
        }
        boolean follows = hasNames(plan) && !linked.contains(plan.table().name(column.column()));
        if (column.masked() && !follows) {
          kinds.add(column.kind());
        }
      }
    }
    return kinds;
  }

  /** A masked day that is nobody's birthday. */
  private static boolean isDay(TablePlan.ColumnPlan column) {
    return TypeSort.of(column.column().type()) == TypeSort.DATE
        && Kinds.BUILT_IN.traits(column.kind()).born() == Traits.Born.NONE
        && !isSaid(column.rule());
  }

  /** Whether one name says the end of what another one says the beginning of. */
  static boolean isEndOf(String end, String begin) {
    List<String> ends = List.of(NAME_PARTS.split(end));
    List<String> begins = List.of(NAME_PARTS.split(begin));
    if (ends.size() != begins.size()) {
      return false;
    }
    int apart = 0;
    for (int i = 0; i < ends.size(); i++) {
      if (!ends.get(i).equalsIgnoreCase(begins.get(i))) {
        String both = (begins.get(i) + " " + ends.get(i)).toLowerCase(Locale.ROOT);
        apart += BEGIN_AND_END.contains(both) ? 1 : 2;
      }
    }
    return apart == 1;
  }

  /** Whether the rule of a column's kind leaves nothing to propose. */
  private static boolean isSaid(MaskRule rule) {
    return !rule.steps().isEmpty()
        || rule.settings().followNames() != null
        || !rule.cases().isEmpty()
        || !rule.keyedBy().isEmpty();
  }

  private static boolean hasNames(TablePlan plan) {
    return plan.columns().stream()
        .anyMatch(column -> column.masked() && Kinds.BUILT_IN.isName(column.kind()));
  }

  /** The masked column of a sort that is called most like a column. */
  private static Optional<String> keyed(
      TablePlan plan, TablePlan.ColumnPlan column, Predicate<Traits> sort) {
    return plan.columns().stream()
        .filter(other -> other.masked() && sort.test(Kinds.BUILT_IN.traits(other.kind())))
        .map(other -> other.column().name())
        .max(Comparator.comparingInt(other -> alike(column.column().name(), other)));
  }

  /** How many letters two names begin alike with. */
  private static int alike(String one, String other) {
    int at = 0;
    while (at < Math.min(one.length(), other.length()) && one.charAt(at) == other.charAt(at)) {
      at++;
    }
    return at;
  }
}
