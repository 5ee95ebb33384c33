package yemble.core.subset;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.SecretKey;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.store.RowSet;

/**
 * Works out the least set of rows that satisfies the rules.
 *
 * <p>A work list of tables: a table is taken up with the rows that came in or became chosen since
 * it was taken up last; all their parents, then all their children, are asked for in batches. Each
 * row is expanded at most twice, as needed and as chosen, so the work is linear in the result, and
 * the result does not depend on the order: every step only adds what the rules demand.
 */
public final class Reach {
  private final Reader source;
  private final Request request;
  private final SecretKey key;
  private final Selection selection;
  private final Map<TableName, RowSet> newlyIn = new LinkedHashMap<>();
  private final Map<TableName, RowSet> newlyChosen = new LinkedHashMap<>();
  private final Deque<TableName> pending = new ArrayDeque<>();
  private final Map<TableName, RowSet> leftOut;

  /** Children that came in through a link whose parents are known by that. */
  private final Map<Rule, RowSet> brought = new HashMap<>();

  private Reach(Reader source, Request request, SecretKey key) {
    this.source = source;
    this.request = request;
    this.key = key;
    this.selection = new Selection(request);
    this.leftOut = LeftOut.of(source, request);
  }

  /**
   * The selection that a request asks for.
   *
   * @throws Problem of type USAGE if a pick matches nothing, if rows of the subset refer to nothing
   *     where that is an error, or if a cut link's columns cannot be NULL
   */
  public static Selection of(Reader source, Request request, SecretKey key) {
    Reach reach = new Reach(source, request, key);
    if (request.everything()) {
      reach.takeEverything();
    } else {
      reach.start();
      reach.run();
    }
    reach.checkBroken();
    reach.checkCuts();
    return reach.selection;
  }

  private void start() {
    Picker picker = new Picker(source, key);
    for (Request.Start start : request.picks()) {
      RowSet rows = picker.pick(start, leftOut(start.table().name()));
      selection.matched(start, picker.matched());
      Selection.Part part = selection.part(start.table().name());
      part.picked.addAll(rows);
      rows.forEach(row -> choose(start.table().name(), row));
    }
    for (TableName whole : request.whole()) {
      RowSet rows = source.all(source.schema().table(whole));
      rows.removeAll(leftOut(whole));
      rows.forEach(row -> need(whole, row));
    }
  }

  /** Without picks every row is chosen, and only what refers to nothing must be looked for. */
  private void takeEverything() {
    for (Table table : source.schema().tables()) {
      if (!request.empty().contains(table.name())) {
        Selection.Part part = selection.part(table.name());
        part.in.addAll(source.all(table));
        part.in.removeAll(leftOut(table.name()));
        part.chosen.addAll(part.in);
      }
    }
    for (Rule rule : request.rules()) {
      RowSet in = selection.part(rule.link().child()).in;
      if (!rule.cut() && !in.isEmpty()) {
        RowSet broken = selection.traffic(rule.link()).broken;
        source.broken(
            rule.link(),
            row -> {
              if (in.contains(row)) {
                broken.add(row);
              }
            });
      }
    }
  }

  private RowSet leftOut(TableName table) {
    return leftOut.getOrDefault(table, new RowSet());
  }

  /** Makes a row chosen; whether that is news. */
  private boolean choose(TableName table, long row) {
    Selection.Part part = selection.part(table);
    if (!part.chosen.add(row)) {
      return false;
    }
    pend(newlyChosen, table).add(row);
    if (part.in.add(row)) {
      pend(newlyIn, table).add(row);
    }
    return true;
  }

  /** Makes a row needed unless it is in already; whether that is news. */
  private boolean need(TableName table, long row) {
    if (!selection.part(table).in.add(row)) {
      return false;
    }
    pend(newlyIn, table).add(row);
    return true;
  }

  private RowSet pend(Map<TableName, RowSet> news, TableName table) {
    return news.computeIfAbsent(
        table,
        t -> {
          if (!pending.contains(t)) {
            pending.add(t);
          }
          return new RowSet();
        });
  }

  private void run() {
    while (!pending.isEmpty()) {
      TableName table = pending.poll();
      RowSet in = newlyIn.remove(table);
      RowSet chosen = newlyChosen.remove(table);
      if (in != null) {
        bringParents(table, in);
      }
      bringChildren(table, in, chosen);
    }
  }

  private void bringParents(TableName table, RowSet rows) {
    for (Rule rule : request.rules()) {
      if (rule.cut() || !rule.link().child().equals(table)) {
        continue;
      }
      Selection.Traffic traffic = selection.traffic(rule.link());
      RowSet absent = leftOut(rule.link().parent());
      RowSet asking = rows;
      if (brought.containsKey(rule)) {
        asking = rows.copy();
        asking.removeAll(brought.get(rule));
      }
      source.parents(
          rule.link(),
          asking,
          new Reader.ParentVisitor() {
            @Override
            public void parent(long child, long parent) {
              if (!absent.contains(parent) && need(rule.link().parent(), parent)) {
                traffic.parents++;
              }
            }

            @Override
            public void nothing(long child) {
              traffic.broken.add(child);
            }
          });
    }
  }

  private void bringChildren(TableName table, RowSet in, RowSet chosen) {
    for (Rule rule : request.rules()) {
      if (rule.cut()
          || rule.follow() == Follow.NEVER
          || !rule.link().parent().equals(table)
          || request.empty().contains(rule.link().child())) {
        continue;
      }
      if (chosen != null) {
        bringChildren(rule, chosen, true);
      }
      if (in != null && rule.follow() == Follow.ALWAYS) {
        RowSet needed = in.copy();
        needed.removeAll(selection.part(table).chosen);
        bringChildren(rule, needed, false);
      }
    }
  }

  private void bringChildren(Rule rule, RowSet parents, boolean asChosen) {
    if (parents.isEmpty()) {
      return;
    }
    TableName child = rule.link().child();
    Selection.Traffic traffic = selection.traffic(rule.link());
    RowSet bringing = new RowSet();
    RowSet absent = leftOut(child);
    if (rule.atMost() == yemble.core.project.LinkRule.ALL) {
      source.children(
          rule.link(),
          parents,
          rule.where(),
          List.of(),
          (parent, row, values) -> {
            if (!absent.contains(row)) {
              bringing.add(row);
            }
          });
    } else {
      atMost(rule, parents, absent, bringing);
    }
    bringing.forEach(
        row -> {
          if (asChosen ? choose(child, row) : need(child, row)) {
            traffic.children++;
          }
        });
    if (oneParent(rule.link())) {
      brought.computeIfAbsent(rule, r -> new RowSet()).addAll(bringing);
    }
  }

  /** Whether no child has more than one parent: the one that has brought it. */
  private boolean oneParent(Link link) {
    Table parent = source.schema().table(link.parent());
    return parent.primaryKey().equals(link.parentColumns())
        || parent.uniques().contains(link.parentColumns());
  }

  private void atMost(Rule rule, RowSet parents, RowSet absent, RowSet brought) {
    List<Column> identity = source.schema().table(rule.link().child()).identity();
    RowHash hash = new RowHash(key, rule.scope());
    Map<Long, Picker.Smallest> smallest = new HashMap<>();
    source.children(
        rule.link(),
        parents,
        rule.where(),
        identity,
        (parent, row, values) -> {
          if (!absent.contains(row)) {
            smallest
                .computeIfAbsent(parent, p -> new Picker.Smallest(rule.atMost()))
                .offer(hash.of(values), row);
          }
        });
    smallest.values().forEach(rows -> rows.drain(brought));
  }

  private void checkBroken() {
    for (Rule rule : request.rules()) {
      RowSet broken = selection.traffic(rule.link()).broken;
      if (broken.isEmpty()) {
        continue;
      }
      if (rule.broken() == Broken.ERROR) {
        throw Problem.of(
                Failure.REFERENCES_BROKEN,
                counted(broken.size(), "row") + " of the subset would refer to nothing")
            .at(rule.link().toString())
            .because("the source holds no row that they refer to")
            .remedy(
                "say what becomes of them under links: in the project file, \""
                    + rule.link().childEnd()
                    + ": { broken: leave-out }\", or null, or keep");
      }
      if (rule.broken() == Broken.NULL && rule.cleared().isEmpty()) {
        throw Problem.of(
                Failure.REFERENCES_BROKEN,
                counted(broken.size(), "reference") + " to nothing cannot become NULL")
            .at(rule.link().toString())
            .because("its columns are not nullable, or part of a key or another link")
            .remedy("use broken: leave-out or keep instead");
      }
    }
  }

  /** Every cut link whose columns cannot be NULL and that a row of the subset holds. */
  private void checkCuts() {
    for (Rule rule : request.rules()) {
      RowSet children = selection.part(rule.link().child()).in;
      if (!rule.cut() || !rule.cleared().isEmpty() || children.isEmpty()) {
        continue;
      }
      RowSet holding = new RowSet();
      source.parents(
          rule.link(),
          children,
          new Reader.ParentVisitor() {
            @Override
            public void parent(long child, long parent) {
              holding.add(child);
            }

            @Override
            public void nothing(long child) {
              holding.add(child);
            }
          });
      if (!holding.isEmpty()) {
        throw Problem.of(
                Failure.CUT_NOT_NULLABLE,
                "the link is cut, but its columns cannot be NULL in "
                    + counted(holding.size(), "row"))
            .at(rule.link().toString())
            .because("they are not nullable, or part of a key or another link")
            .remedy(
                request.empty().contains(rule.link().parent())
                    ? "take "
                        + rule.link().parent()
                        + " out of empty:, or put "
                        + rule.link().child()
                        + " there too"
                    : "do not cut it, or leave the rows of "
                        + rule.link().child()
                        + " out (empty:)");
      }
    }
  }

  private static String counted(long number, String noun) {
    return number + " " + noun + (number == 1 ? "" : "s");
  }
}
