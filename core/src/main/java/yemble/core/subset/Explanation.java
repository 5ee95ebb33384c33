package yemble.core.subset;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.SecretKey;
import yemble.core.name.TableName;
import yemble.core.project.Condition;
import yemble.core.project.LinkRule;
import yemble.core.project.LinkRule.Follow;
import yemble.core.row.RowSet;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * Why a row is in a subset, as the shortest chain of links from a pick to it; or what keeps it out.
 * Walks backwards from the row, breadth first, over the reasons that the rules know.
 */
public final class Explanation {
  private final Reader source;
  private final RowwiseKin kin;
  private final Selection selection;
  private final SecretKey key;

  /** A row of a table. */
  public record Row(TableName table, long number) {}

  /** How a row stands in the subset. */
  public enum Standing {
    PICKED,
    CHOSEN,
    NEEDED,
    OUT
  }

  /**
   * A step of the chain.
   *
   * @param row the row that came in
   * @param rule the link through which it did; null for the first row of the chain
   * @param down whether it came as a child of the row before, and not as its parent
   */
  public record Step(Row row, Standing standing, Rule rule, boolean down) {}

  /** A link that could have brought a row that is out, and why it did not. */
  public record Obstacle(Rule rule, Sentence why) {}

  public Explanation(Reader source, Selection selection, SecretKey key) {
    this.source = source;
    this.kin = new RowwiseKin(source, key);
    this.selection = selection;
    this.key = key;
  }

  public Standing standing(Row row) {
    Reached.Part<RowSet> part = selection.part(row.table());
    if (part.picked().contains(row.number())) {
      return Standing.PICKED;
    }
    if (part.chosen().contains(row.number())) {
      return Standing.CHOSEN;
    }
    return part.in().contains(row.number()) ? Standing.NEEDED : Standing.OUT;
  }

  /** The picks that took a row, in their order; of several on its table each is asked again. */
  public List<Request.Start> pickedBy(Row row) {
    List<Request.Start> ofTable =
        selection.request().picks().stream()
            .filter(start -> start.table().name().equals(row.table()))
            .toList();
    if (ofTable.size() < 2) {
      return ofTable;
    }
    RowSet leftOut = LeftOut.of(kin, selection.request()).getOrDefault(row.table(), new RowSet());
    return ofTable.stream()
        .filter(start -> kin.pick(start, leftOut).rows().contains(row.number()))
        .toList();
  }

  /** The chain that brought a row in, its first step a row that needs no other reason. */
  public List<Step> chain(Row wanted) {
    Map<Row, Step> next = new HashMap<>();
    Deque<Row> pending = new ArrayDeque<>();
    pending.add(wanted);
    next.put(wanted, null);
    while (!pending.isEmpty()) {
      Row row = pending.poll();
      if (isStart(row)) {
        return unwound(row, next);
      }
      for (Step reason : reasons(row)) {
        Row from = reason.row();
        if (!next.containsKey(from)) {
          next.put(from, new Step(row, standing(row), reason.rule(), reason.down()));
          pending.add(from);
        }
      }
    }
    return List.of();
  }

  private boolean isStart(Row row) {
    Request request = selection.request();
    return standing(row) == Standing.PICKED
        || request.everything()
        || (request.whole().contains(row.table()) && standing(row) == Standing.NEEDED);
  }

  private List<Step> unwound(Row start, Map<Row, Step> next) {
    List<Step> chain = new ArrayList<>();
    chain.add(new Step(start, standing(start), null, false));
    for (Step step = next.get(start); step != null; step = next.get(step.row())) {
      chain.add(step);
    }
    return chain;
  }

  /** The rows that brought a row in, each with the link and direction. */
  private List<Step> reasons(Row row) {
    List<Step> reasons = new ArrayList<>();
    boolean chosen = standing(row) != Standing.NEEDED;
    for (Rule rule : selection.request().rules()) {
      if (rule.cut()) {
        continue;
      }
      if (rule.link().child().equals(row.table()) && brings(rule, chosen)) {
        for (long parent : parents(rule, row)) {
          Row from = new Row(rule.link().parent(), parent);
          boolean able =
              chosen
                  ? standing(from).compareTo(Standing.CHOSEN) <= 0
                  : standing(from) != Standing.OUT;
          if (able && !from.equals(row) && isBrought(rule, parent, row.number())) {
            reasons.add(new Step(from, standing(from), rule, true));
          }
        }
      }
      if (!chosen && rule.link().parent().equals(row.table())) {
        RowSet in = selection.part(rule.link().child()).in();
        source.children(
            rule.link(),
            one(row.number()),
            "",
            List.of(),
            (parent, child, values) -> {
              Row from = new Row(rule.link().child(), child);
              if (in.contains(child) && !from.equals(row)) {
                reasons.add(new Step(from, standing(from), rule, false));
              }
            });
      }
    }
    return reasons;
  }

  private static boolean brings(Rule rule, boolean chosen) {
    return chosen ? rule.follow() != Follow.NEVER : rule.follow() == Follow.ALWAYS;
  }

  private static RowSet one(long row) {
    RowSet set = new RowSet();
    set.add(row);
    return set;
  }

  private List<Long> parents(Rule rule, Row child) {
    List<Long> parents = new ArrayList<>();
    source.parents(
        rule.link(),
        one(child.number()),
        new Reader.ParentVisitor() {
          @Override
          public void parent(long row, long parent) {
            parents.add(parent);
          }

          @Override
          public void nothing(long row) {}
        });
    return parents;
  }

  /** Whether a parent's children, narrowed by {@code where} and {@code at-most}, hold a row. */
  private boolean isBrought(Rule rule, long parent, long child) {
    return narrowed(rule, parent, rule.where(), rule.atMost()).contains(child);
  }

  private RowSet narrowed(Rule rule, long parent, Condition where, long atMost) {
    RowSet rows = new RowSet();
    RowHash hash = new RowHash(key, rule.scope());
    SmallestHashes smallest = new SmallestHashes(atMost);
    boolean all = atMost == LinkRule.ALL;
    kin.children(
        rule.link(),
        one(parent),
        where,
        all ? List.of() : source.schema().table(rule.link().child()).identity(),
        (p, row, values) -> {
          if (all) {
            rows.add(row);
          } else {
            smallest.offer(hash.of(values), row);
          }
        });
    smallest.drain(rows);
    return rows;
  }

  /** For a row that is out: each link that could have brought it as a child, and why it did not. */
  public List<Obstacle> obstacles(Row row) {
    List<Obstacle> obstacles = new ArrayList<>();
    for (Rule rule : selection.request().rules()) {
      if (rule.link().child().equals(row.table())) {
        obstacles.add(new Obstacle(rule, obstacle(rule, row)));
      }
    }
    return obstacles;
  }

  private Sentence obstacle(Rule rule, Row row) {
    if (rule.cut()) {
      return ObstacleWording.CUT.of();
    }
    List<Long> parents = parents(rule, row);
    if (parents.isEmpty()) {
      return ObstacleWording.NO_PARENT.of(rule.link().parent());
    }
    Row parent = new Row(rule.link().parent(), parents.get(0));
    Standing standing = standing(parent);
    if (standing == Standing.OUT) {
      return ObstacleWording.PARENT_OUT.of(rule.link().parent());
    }
    if (rule.follow() == Follow.NEVER) {
      return ObstacleWording.FOLLOW_NEVER.of();
    }
    if (standing == Standing.NEEDED && rule.follow() == Follow.CHOSEN) {
      return ObstacleWording.PARENT_NEEDED.of();
    }
    if (!narrowed(rule, parent.number(), rule.where(), LinkRule.ALL).contains(row.number())) {
      return ObstacleWording.WHERE.of();
    }
    return ObstacleWording.AT_MOST.of();
  }
}
