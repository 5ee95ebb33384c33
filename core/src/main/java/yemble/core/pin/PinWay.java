package yemble.core.pin;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Collectors;
import yemble.core.name.TableName;
import yemble.core.row.RowSet;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * The way from a table's rows to the rows that say whose they are: no step, one or two, each along
 * a link in the direction in which it leads to one row at the most; and, where a column refers to
 * one that takes stand-ins, the step to that before them.
 */
public record PinWay(List<Step> steps) {
  /** How many links may lie between. */
  public static final int FARTHEST = 2;

  public PinWay {
    steps = List.copyOf(steps);
  }

  /**
   * A step.
   *
   * @param up whether it leads from child to parent
   */
  public record Step(Link link, boolean up) {
    TableName to() {
      return up ? link.parent() : link.child();
    }
  }

  /** All ways from one table to another; the way of no step if they are the same. */
  static List<PinWay> between(Schema schema, List<Link> links, TableName from, TableName to) {
    List<PinWay> found = new ArrayList<>();
    if (from.equals(to)) {
      return List.of(new PinWay(List.of()));
    }
    search(schema, links, from, to, List.of(), found);
    return found;
  }

  private static void search(
      Schema schema,
      List<Link> links,
      TableName at,
      TableName to,
      List<Step> steps,
      List<PinWay> found) {
    if (at.equals(to) && !steps.isEmpty()) {
      found.add(new PinWay(steps));
      return;
    }
    if (steps.size() == FARTHEST) {
      return;
    }
    for (Link link : links) {
      for (boolean up : new boolean[] {true, false}) {
        TableName here = up ? link.child() : link.parent();
        Step step = new Step(link, up);
        if (here.equals(at) && !step.to().equals(at) && isUnique(schema, step)) {
          List<Step> further = new ArrayList<>(steps);
          further.add(step);
          search(schema, links, step.to(), to, further, found);
        }
      }
    }
  }

  /** Whether a step leads to one row at the most. */
  private static boolean isUnique(Schema schema, Step step) {
    Table table = schema.table(step.to());
    List<String> columns = step.up() ? step.link().parentColumns() : step.link().childColumns();
    TreeSet<String> all = new TreeSet<>(columns);
    return (!table.primaryKey().isEmpty() && all.containsAll(table.primaryKey()))
        || table.uniques().stream().anyMatch(all::containsAll);
  }

  /** This one with a step before it. */
  PinWay after(Step step) {
    List<Step> longer = new ArrayList<>(steps);
    longer.add(0, step);
    return new PinWay(longer);
  }

  /** Whether it goes along one of some links. */
  boolean isThrough(List<Link> links) {
    return steps.stream().anyMatch(step -> links.contains(step.link()));
  }

  /**
   * Where the rows of a set lead to.
   *
   * @return by row; without those that lead nowhere
   */
  Map<Long, Long> ends(Reader source, RowSet rows) {
    Map<Long, Long> ends = new HashMap<>();
    if (steps.isEmpty()) {
      rows.forEach(row -> ends.put(row, row));
      return ends;
    }
    Map<Long, Long> one = next(source, steps.get(0), rows);
    if (steps.size() == 1) {
      return one;
    }
    RowSet between = new RowSet();
    one.values().forEach(between::add);
    Map<Long, Long> rest = new PinWay(steps.subList(1, steps.size())).ends(source, between);
    one.forEach(
        (row, middle) -> {
          Long end = rest.get(middle);
          if (end != null) {
            ends.put(row, end);
          }
        });
    return ends;
  }

  private static Map<Long, Long> next(Reader source, Step step, RowSet rows) {
    Map<Long, Long> next = new HashMap<>();
    if (rows.isEmpty()) {
      return next;
    }
    if (step.up()) {
      source.parents(
          step.link(),
          rows,
          new Reader.ParentVisitor() {
            @Override
            public void parent(long child, long parent) {
              next.put(child, parent);
            }

            @Override
            public void nothing(long child) {}
          });
    } else {
      source.children(
          step.link(), rows, "", List.of(), (parent, child, values) -> next.put(parent, child));
    }
    return next;
  }

  /** The links of it, as the project file writes them. */
  @Override
  public String toString() {
    return steps.stream().map(step -> step.link().childEnd()).collect(Collectors.joining(", "));
  }
}
