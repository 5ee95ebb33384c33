package yemble.core.subset;

import java.math.BigDecimal;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.crypto.SecretKey;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.project.Pick;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** The answers of any reader, row by row. */
public final class RowwiseKin implements Kin<RowSet> {
  /** Of a child table without an index so many rows are kept with their parents: 16 bytes each. */
  private static final long KEPT = 1_000_000;

  private final Reader source;
  private final SecretKey key;
  private final Map<List<Object>, Pairs> pairs = new HashMap<>();
  private final Map<Link, Scans> scans = new LinkedHashMap<>();

  /** The rows that satisfy conditions with parameters. */
  private final Map<List<Object>, RowSet> bound = new HashMap<>();

  /**
   * @param key by which rows are chosen among others
   */
  public RowwiseKin(Reader source, SecretKey key) {
    this.source = source;
    this.key = key;
  }

  @Override
  public RowSet none() {
    return new RowSet();
  }

  @Override
  public RowSet all(Table table) {
    RowSet all = new RowSet();
    all.addAll(source.all(table));
    return all;
  }

  @Override
  public Picked<RowSet> pick(Request.Start start, RowSet leftOut) {
    if (start.keys().isPresent()) {
      return keyed(start, start.keys().get(), leftOut);
    }
    if (start.newest().isPresent()) {
      return newest(start, start.newest().get(), leftOut);
    }
    boolean hashed = start.hashed();
    RowHash hash = new RowHash(key, start.scope());
    List<Column> identity = hashed ? start.table().identity() : List.of();
    long threshold = RowHash.threshold(start.share());
    boolean everyShare = start.share().compareTo(BigDecimal.ONE) == 0;
    SmallestHashes smallest = new SmallestHashes(start.rows());
    RowSet rows = new RowSet();
    long[] matched = new long[1];
    rows(
        start.table(),
        start.where(),
        identity,
        (row, values) -> {
          if (leftOut.contains(row)) {
            return;
          }
          matched[0]++;
          long h = hashed ? hash.of(values) : 0;
          if (everyShare || Long.compareUnsigned(h, threshold) < 0) {
            if (start.rows() == Pick.ALL) {
              rows.add(row);
            } else {
              smallest.offer(h, row);
            }
          }
        });
    smallest.drain(rows);
    return new Picked<>(rows, matched[0], List.of());
  }

  private Picked<RowSet> newest(Request.Start start, Request.Start.Newest newest, RowSet leftOut) {
    RowHash hash = new RowHash(key, start.scope());
    List<Column> columns = new ArrayList<>(start.table().identity());
    int last = columns.size();
    columns.add(newest.column());
    NewestRows greatest = new NewestRows(newest.rows());
    long[] matched = new long[1];
    rows(
        start.table(),
        start.where(),
        columns,
        (row, values) -> {
          if (!leftOut.contains(row)) {
            matched[0]++;
            if (values[last] != null) {
              greatest.offer(values[last], hash.of(Arrays.copyOf(values, last)), row);
            }
          }
        });
    return new Picked<>(greatest.rows(), matched[0], List.of());
  }

  private Picked<RowSet> keyed(Request.Start start, Request.Start.Keys keys, RowSet leftOut) {
    Map<List<String>, Integer> wanted = new HashMap<>();
    for (int i = 0; i < keys.rows().size(); i++) {
      wanted.putIfAbsent(keys.rows().get(i), i);
    }
    RowSet rows = new RowSet();
    Set<Integer> found = new HashSet<>();
    source.rows(
        start.table(),
        "",
        keys.columns(),
        (row, values) -> {
          Integer at = leftOut.contains(row) ? null : wanted.get(texts(values));
          if (at != null) {
            found.add(at);
            rows.add(row);
          }
        });
    List<Integer> missing =
        wanted.values().stream().filter(at -> !found.contains(at)).sorted().toList();
    return new Picked<>(rows, rows.size(), missing);
  }

  private static List<String> texts(Object[] values) {
    return java.util.Arrays.stream(values)
        .map(value -> value == null ? null : Values.text(value))
        .toList();
  }

  @Override
  public Parents<RowSet> parents(Link link, RowSet children) {
    RowSet found = new RowSet();
    RowSet broken = new RowSet();
    source.parents(
        link,
        children,
        new Reader.ParentVisitor() {
          @Override
          public void parent(long child, long parent) {
            found.add(parent);
          }

          @Override
          public void nothing(long child) {
            broken.add(child);
          }
        });
    return new Parents<>(found, broken);
  }

  @Override
  public boolean leadsToChildren(Link link) {
    return source.leadsToChildren(link);
  }

  @Override
  public RowSet children(Link link, RowSet parents, Condition condition) {
    RowSet found = new RowSet();
    if (leadsToChildren(link)) {
      children(link, parents, condition, List.of(), (parent, row, values) -> found.add(row));
      return found;
    }
    if (source.rowsAbout(source.schema().table(link.child())) > KEPT) {
      scan(
          link,
          () -> children(link, parents, condition, List.of(), (p, row, values) -> found.add(row)));
      return found;
    }
    pairs
        .computeIfAbsent(List.of(link, condition), asked -> pairs(link, condition))
        .children(parents, found);
    return found;
  }

  /** All rows of a link's two tables that belong together, read once. */
  private Pairs pairs(Link link, Condition condition) {
    Pairs all = new Pairs();
    RowSet parents = all(source.schema().table(link.parent()));
    scan(
        link,
        () -> children(link, parents, condition, List.of(), (p, row, values) -> all.add(p, row)));
    return all;
  }

  private void scan(Link link, Runnable reading) {
    long start = System.nanoTime();
    reading.run();
    Scans before = scans.getOrDefault(link, new Scans(0, Duration.ZERO));
    Duration took = Duration.ofNanos(System.nanoTime() - start);
    scans.put(link, new Scans(before.times() + 1, before.time().plus(took)));
  }

  /**
   * How often a link's whole child table was read, as no index leads from parents to children.
   *
   * @param time how long that took
   */
  public record Scans(int times, Duration time) {}

  /** The links whose child tables were read. */
  Map<Link, Scans> scans() {
    return scans;
  }

  /** Parents with their children, by the numbers of both. */
  private static final class Pairs {
    private long[] numbers = new long[1024];
    private int used;

    void add(long parent, long child) {
      if (used == numbers.length) {
        numbers = Arrays.copyOf(numbers, used * 2);
      }
      numbers[used++] = parent;
      numbers[used++] = child;
    }

    void children(RowSet parents, RowSet into) {
      for (int i = 0; i < used; i += 2) {
        if (parents.contains(numbers[i])) {
          into.add(numbers[i + 1]);
        }
      }
    }
  }

  /** The same, row by row. */
  void children(
      Link link,
      RowSet parents,
      Condition condition,
      List<Column> columns,
      Reader.ChildVisitor visitor) {
    if (!condition.isBound()) {
      source.children(link, parents, condition.sql(), columns, visitor);
      return;
    }
    RowSet matching = matching(source.schema().table(link.child()), condition);
    source.children(
        link,
        parents,
        "",
        columns,
        (parent, row, values) -> {
          if (matching.contains(row)) {
            visitor.child(parent, row, values);
          }
        });
  }

  /** The rows that satisfy a condition, whether it has parameters or not. */
  void rows(Table table, Condition condition, List<Column> columns, Reader.RowVisitor visitor) {
    if (condition.isBound()) {
      source.rows(table, matching(table, condition), columns, visitor);
    } else {
      source.rows(table, condition.sql(), columns, visitor);
    }
  }

  private RowSet matching(Table table, Condition condition) {
    try {
      return bound.computeIfAbsent(
          List.of(table.name(), condition), asked -> source.matching(table, condition));
    } catch (Problem refused) {
      throw refused.at(condition.place().toString());
    }
  }

  @Override
  public RowSet fewest(Rule rule, RowSet parents, RowSet leftOut) {
    List<Column> identity = source.schema().table(rule.link().child()).identity();
    RowHash hash = new RowHash(key, rule.scope());
    Map<Long, SmallestHashes> smallest = new HashMap<>();
    Reader.ChildVisitor offer =
        (parent, row, values) -> {
          if (!leftOut.contains(row)) {
            smallest
                .computeIfAbsent(parent, p -> new SmallestHashes(rule.atMost()))
                .offer(hash.of(values), row);
          }
        };
    Runnable asking = () -> children(rule.link(), parents, rule.where(), identity, offer);
    if (leadsToChildren(rule.link())) {
      asking.run();
    } else {
      scan(rule.link(), asking);
    }
    RowSet found = new RowSet();
    smallest.values().forEach(rows -> rows.drain(found));
    return found;
  }

  @Override
  public RowSet broken(Link link) {
    RowSet broken = new RowSet();
    source.broken(link, broken::add);
    return broken;
  }

  @Override
  public long referring(Link link, RowSet children) {
    RowSet referring = new RowSet();
    source.parents(link, children, Reader.ParentVisitor.ofChildren(referring::add, referring::add));
    return referring.size();
  }
}
