package yemble.core.subset;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.crypto.SecretKey;
import yemble.core.name.TableName;
import yemble.core.project.LinkRule.Follow;
import yemble.core.row.RowSet;
import yemble.core.store.Reader;

/**
 * What it would save to limit the links that bring most: each limit is tried, and the subset worked
 * out anew, as long as there is time.
 *
 * @param tried the limits, the one that saves most first
 * @param left links that there was no time for
 * @param seconds how much time there was
 */
public record Savings(List<Saving> tried, List<Rule> left, long seconds) {
  private static final int LINKS = 5;

  /**
   * A limit.
   *
   * @param limit as it is written in a project file; empty if the link cannot be limited
   * @param rows how many fewer rows the subset would have
   * @param bytes the same in bytes, see {@link RowBytes}
   */
  public record Saving(Rule rule, String limit, long rows, long bytes) {}

  /** Tries the limits of a selection's links; {@code time} is what all of it may take. */
  public static Savings of(Reader source, Selection selection, SecretKey key, Duration time) {
    Request request = selection.request();
    if (request.everything()) {
      return new Savings(List.of(), List.of(), time.toSeconds());
    }
    List<Rule> dearest =
        request.rules().stream()
            .filter(rule -> brought(selection, rule) > 0)
            .sorted(Comparator.comparingLong(rule -> -brought(selection, rule)))
            .limit(LINKS)
            .toList();
    RowwiseKin kin = new RowwiseKin(source, key);
    RowBytes bytes = new RowBytes(source);
    Map<TableName, RowSet> leftOut = LeftOut.of(kin, request);
    long end = System.nanoTime() + time.toNanos();
    long longest = 0;
    List<Saving> tried = new ArrayList<>();
    List<Rule> left = new ArrayList<>();
    for (Rule rule : dearest) {
      List<Rule> limited = limits(selection, rule);
      if (System.nanoTime() + longest * limited.size() > end) {
        left.add(rule);
        continue;
      }
      if (limited.isEmpty()) {
        tried.add(new Saving(rule, "", 0, 0));
      }
      for (Rule other : limited) {
        long start = System.nanoTime();
        Selection probe =
            Selection.probe(kin, source.schema(), request.ruling(rule, other), leftOut);
        longest = Math.max(longest, System.nanoTime() - start);
        tried.add(
            new Saving(
                rule,
                limit(other),
                selection.size() - probe.size(),
                bytes.of(selection) - bytes.of(probe)));
      }
    }
    tried.sort(Comparator.comparingLong(saving -> -saving.rows()));
    return new Savings(tried, left, time.toSeconds());
  }

  private static long brought(Selection selection, Rule rule) {
    Reached.Traffic<RowSet> traffic = selection.traffic(rule.link());
    return traffic.parents() + traffic.children();
  }

  /** What would save most, if it saves anything. */
  public Optional<Saving> best() {
    return tried.stream().filter(saving -> saving.rows() > 0).findFirst();
  }

  /** A link that brings children can be limited, one that brings parents can be cut. */
  private static List<Rule> limits(Selection selection, Rule rule) {
    Reached.Traffic<RowSet> traffic = selection.traffic(rule.link());
    List<Rule> limits = new ArrayList<>();
    if (traffic.children() > 0) {
      long parents = Math.max(1, selection.part(rule.link().parent()).size());
      long some = Math.max(1, traffic.children() / parents / 2);
      if (some < rule.atMost()) {
        limits.add(rule.limited(rule.follow(), some, false));
      }
      limits.add(rule.limited(Follow.NEVER, rule.atMost(), false));
    }
    if (traffic.parents() > traffic.children() && !rule.cleared().isEmpty()) {
      limits.add(rule.limited(rule.follow(), rule.atMost(), true));
    }
    return limits;
  }

  private static String limit(Rule rule) {
    return rule.cut()
        ? "cut: true"
        : rule.follow() == Follow.NEVER ? "follow: never" : "at-most: " + rule.atMost();
  }
}
