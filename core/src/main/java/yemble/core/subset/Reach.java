package yemble.core.subset;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.LinkRule;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;
import yemble.core.row.Rows;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;

/**
 * Works out the least set of rows that satisfies the rules.
 *
 * <p>A work list of tables: a table is taken up with the rows that came in or became chosen since
 * it was taken up last; all their parents, then all their children, are asked for in sets. Each row
 * is expanded at most twice, as needed and as chosen, so the work is linear in the result, and the
 * result does not depend on the order: every step only adds what the rules demand.
 *
 * @param <S> what holds a set of rows
 */
public final class Reach<S extends Rows<S>> {
  private final Kin<S> kin;
  private final Schema schema;
  private final Request request;
  private final Reached<S> reached;
  private final Map<TableName, S> newlyIn = new LinkedHashMap<>();
  private final Map<TableName, S> newlyChosen = new LinkedHashMap<>();
  private final Deque<TableName> pending = new ArrayDeque<>();
  private final Map<TableName, S> leftOut;

  /**
   * By links without an index: each time they are followed their child table is read, so they come
   * last, when as many parents as possible have come together.
   */
  private final Map<Rule, Waiting<S>> waiting = new LinkedHashMap<>();

  /** Children that came in through a link whose parents are known by that. */
  private final Map<Rule, S> brought = new HashMap<>();

  private Reach(Reached<S> reached, Kin<S> kin, Schema schema, Map<TableName, S> leftOut) {
    this.kin = kin;
    this.schema = schema;
    this.request = reached.request();
    this.reached = reached;
    this.leftOut = leftOut;
  }

  /**
   * The rows that a request asks for.
   *
   * @throws Problem of type USAGE if a pick matches nothing, if rows of the subset refer to nothing
   *     where that is an error, or if a cut link's columns cannot be NULL
   */
  public static <S extends Rows<S>> Reached<S> of(Kin<S> kin, Schema schema, Request request) {
    Reached<S> reached = new Reached<>(kin, request);
    into(reached, kin, schema);
    return reached;
  }

  /** The same, put where nothing is yet. */
  static <S extends Rows<S>> void into(Reached<S> reached, Kin<S> kin, Schema schema) {
    Reach<S> reach = rowsInto(reached, kin, schema, LeftOut.of(kin, reached.request()));
    boolean nothing =
        reached.request().amount().isPresent()
            && reached.picks().values().stream().allMatch(pick -> pick.picked() == 0);
    if (nothing) {
      throw Problem.of(Failure.PICK_EMPTY, "this takes no row of any table")
          .at(reached.request().amount().get().place().toString())
          .remedy("raise it, or name tables under pick:");
    }
    reach.checkBroken();
    reach.checkCuts();
  }

  /** The rows alone, whatever they refer to. */
  static <S extends Rows<S>> Reach<S> rowsInto(
      Reached<S> reached, Kin<S> kin, Schema schema, Map<TableName, S> leftOut) {
    Reach<S> reach = new Reach<>(reached, kin, schema, leftOut);
    if (reach.request.everything()) {
      reach.takeEverything();
    } else {
      reach.start();
      reach.run();
    }
    return reach;
  }

  private void start() {
    for (Request.Start start : request.picks()) {
      TableName table = start.table().name();
      Kin.Picked<S> picked = pick(start);
      reached.picked(
          start, new Reached.PickResult(picked.matched(), picked.rows().size(), picked.missing()));
      reached.part(table).picked.addAll(picked.rows());
      choose(table, picked.rows());
    }
    for (TableName whole : request.whole()) {
      S rows = kin.all(schema.table(whole));
      rows.removeAll(leftOut(whole));
      need(whole, rows);
    }
  }

  private Kin.Picked<S> pick(Request.Start start) {
    Kin.Picked<S> picked;
    try {
      picked = kin.pick(start, leftOut(start.table().name()));
    } catch (Problem problem) {
      // A condition that the database cannot work out stands in the project.
      throw problem.type() == Failure.Type.USAGE
          ? problem.at(start.where().place().toString())
          : problem;
    }
    start.keys().ifPresent(keys -> checkThere(start, keys, picked.missing()));
    if (picked.rows().isEmpty() && request.amount().isEmpty()) {
      throw Problem.of(Failure.PICK_EMPTY, "this pick matches no row of " + start.table().name())
          .at(start.place())
          .remedy("look at its condition, or raise its share");
    }
    return picked;
  }

  private static void checkThere(
      Request.Start start, Request.Start.Keys keys, List<Integer> missing) {
    if (!keys.all() || missing.isEmpty()) {
      return;
    }
    throw Problem.of(
            Failure.PICK_EMPTY,
            counted(missing.size(), "key")
                + " of "
                + keys.file()
                + (missing.size() == 1 ? " is" : " are")
                + " not in "
                + start.table().name())
        .at(start.place())
        .because(missing.stream().map(at -> "line " + keys.lines().get(at)).toList())
        .remedy("correct them, or take all: true out, and they are only counted");
  }

  /** Without picks every row is chosen, and only what refers to nothing must be looked for. */
  private void takeEverything() {
    for (Table table : schema.tables()) {
      if (!request.empty().contains(table.name())) {
        Reached.Part<S> part = reached.part(table.name());
        part.in.addAll(kin.all(table));
        part.in.removeAll(leftOut(table.name()));
        part.chosen.addAll(part.in);
      }
    }
    for (Rule rule : request.rules()) {
      TableName child = rule.link().child();
      if (!rule.cut() && !reached.part(child).in.isEmpty()) {
        S broken = kin.broken(rule.link());
        broken.removeAll(leftOut(child));
        reached.traffic(rule.link()).broken.addAll(broken);
      }
    }
  }

  private S leftOut(TableName table) {
    return leftOut.computeIfAbsent(table, t -> kin.none());
  }

  /** Makes rows chosen; how many of them were not. */
  private long choose(TableName table, S rows) {
    Reached.Part<S> part = reached.part(table);
    S chosen = rows.copy();
    chosen.removeAll(part.chosen);
    part.chosen.addAll(chosen);
    pend(newlyChosen, table, chosen);
    need(table, chosen);
    return chosen.size();
  }

  /** Makes rows needed that are not in already; how many of them were not. */
  private long need(TableName table, S rows) {
    Reached.Part<S> part = reached.part(table);
    S needed = rows.copy();
    needed.removeAll(part.in);
    part.in.addAll(needed);
    pend(newlyIn, table, needed);
    return needed.size();
  }

  private void pend(Map<TableName, S> news, TableName table, S rows) {
    if (!rows.isEmpty()) {
      news.computeIfAbsent(table, t -> kin.none()).addAll(rows);
      if (!pending.contains(table)) {
        pending.add(table);
      }
    }
  }

  private void run() {
    while (!pending.isEmpty() || !waiting.isEmpty()) {
      if (pending.isEmpty()) {
        bringWaiting();
        continue;
      }
      TableName table = pending.poll();
      S in = newlyIn.remove(table);
      S chosen = newlyChosen.remove(table);
      if (in != null) {
        bringParents(table, in);
      }
      bringChildren(table, in, chosen);
    }
  }

  /** Parents whose children are asked for when nothing else is to be done. */
  private record Waiting<S>(S chosen, S needed) {}

  /** Asks for the children of one link, of all parents that have come together. */
  private void bringWaiting() {
    Rule rule = waiting.keySet().iterator().next();
    Waiting<S> parents = waiting.remove(rule);
    bringChildren(rule, parents.chosen(), true);
    parents.needed().removeAll(reached.part(rule.link().parent()).chosen);
    bringChildren(rule, parents.needed(), false);
  }

  private void bringParents(TableName table, S rows) {
    for (Rule rule : request.rules()) {
      if (rule.cut() || !rule.link().child().equals(table)) {
        continue;
      }
      S asking = rows;
      if (brought.containsKey(rule)) {
        asking = rows.copy();
        asking.removeAll(brought.get(rule));
      }
      Kin.Parents<S> parents = kin.parents(rule.link(), asking);
      parents.rows().removeAll(leftOut(rule.link().parent()));
      Reached.Traffic<S> traffic = reached.traffic(rule.link());
      traffic.parents += need(rule.link().parent(), parents.rows());
      traffic.broken.addAll(parents.broken());
    }
  }

  private void bringChildren(TableName table, S in, S chosen) {
    for (Rule rule : request.rules()) {
      if (rule.cut()
          || rule.follow() == Follow.NEVER
          || !rule.link().parent().equals(table)
          || request.empty().contains(rule.link().child())) {
        continue;
      }
      S needed = kin.none();
      if (in != null && rule.follow() == Follow.ALWAYS) {
        needed.addAll(in);
        needed.removeAll(reached.part(table).chosen);
      }
      if (!kin.leadsToChildren(rule.link())) {
        Waiting<S> parents =
            waiting.computeIfAbsent(rule, r -> new Waiting<>(kin.none(), kin.none()));
        if (chosen != null) {
          parents.chosen().addAll(chosen);
        }
        parents.needed().addAll(needed);
        continue;
      }
      if (chosen != null) {
        bringChildren(rule, chosen, true);
      }
      bringChildren(rule, needed, false);
    }
  }

  private void bringChildren(Rule rule, S parents, boolean asChosen) {
    if (parents.isEmpty()) {
      return;
    }
    TableName child = rule.link().child();
    S bringing;
    if (rule.atMost() == LinkRule.ALL) {
      bringing = kin.children(rule.link(), parents, rule.where());
      bringing.removeAll(leftOut(child));
    } else {
      bringing = kin.fewest(rule, parents, leftOut(child));
    }
    reached.traffic(rule.link()).children +=
        asChosen ? choose(child, bringing) : need(child, bringing);
    if (oneParent(rule.link())) {
      brought.computeIfAbsent(rule, r -> kin.none()).addAll(bringing);
    }
  }

  /** Whether no child has more than one parent: the one that has brought it. */
  private boolean oneParent(Link link) {
    Table parent = schema.table(link.parent());
    return parent.primaryKey().equals(link.parentColumns())
        || parent.uniques().contains(link.parentColumns());
  }

  private void checkBroken() {
    for (Rule rule : request.rules()) {
      S broken = reached.traffic(rule.link()).broken;
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
      S children = reached.part(rule.link().child()).in;
      if (!rule.cut() || !rule.cleared().isEmpty() || children.isEmpty()) {
        continue;
      }
      long referring = kin.referring(rule.link(), children);
      if (referring > 0) {
        throw Problem.of(
                Failure.CUT_NOT_NULLABLE,
                "the link is cut, but its columns cannot be NULL in " + counted(referring, "row"))
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
