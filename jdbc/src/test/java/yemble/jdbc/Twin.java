package yemble.jdbc;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import yemble.core.crypto.SecretKey;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.LinkRule.Follow;

/**
 * The rules of the subset once more, as slow and plain as can be: rows in memory, every rule tried
 * on every row until nothing changes. Shares no code with the real thing but the PRF.
 */
final class Twin {
  /** A row: its table and its values by column. */
  record Row(String table, long number, Map<String, Object> values) {
    Object get(String column) {
      return values.get(column);
    }
  }

  /** A condition in SQL and the same in Java. */
  record Condition(String sql, Predicate<Row> test) {
    static final Condition NONE = new Condition("", row -> true);
  }

  record TableSpec(String name, List<String> key, boolean noCase, boolean withoutRowid) {}

  record LinkSpec(
      String child,
      List<String> childColumns,
      String parent,
      List<String> parentColumns,
      boolean declared,
      Follow follow,
      Condition where,
      Condition condition,
      int atMost,
      boolean cut,
      Broken broken,
      boolean clearable) {}

  /**
   * A pick.
   *
   * @param newest how many with the greatest {@code v}; 0 for none of this sort
   * @param keys of rows that are picked; empty for none of this sort
   */
  record PickSpec(
      String table, Condition where, String share, int rows, int newest, List<List<String>> keys) {}

  /** What comes out: the sets of rows, or the words for why not. */
  record Result(Set<Row> picked, Set<Row> chosen, Set<Row> in, Set<String> failures) {}

  private final Map<String, TableSpec> tables;
  private final List<Row> source;
  private final List<LinkSpec> links;
  private final Set<String> whole;
  private final Set<String> empty;
  private final SecretKey key;

  Twin(
      Map<String, TableSpec> tables,
      List<Row> source,
      List<LinkSpec> links,
      Set<String> whole,
      Set<String> empty,
      SecretKey key) {
    this.tables = tables;
    this.source = source;
    this.links = links;
    this.whole = whole;
    this.empty = empty;
    this.key = key;
  }

  Result subset(List<PickSpec> picks) {
    Set<Row> gone = leftOut();
    List<Row> rows = source.stream().filter(row -> !gone.contains(row)).toList();
    boolean any = picks.stream().anyMatch(pick -> pick(pick, rows).isEmpty());
    return any
        ? new Result(Set.of(), Set.of(), Set.of(), Set.of("nothing picked"))
        : subset(picks, rows);
  }

  /** The same where it is enough that one of the picks takes something. */
  Result union(List<PickSpec> picks) {
    Set<Row> gone = leftOut();
    List<Row> rows = source.stream().filter(row -> !gone.contains(row)).toList();
    boolean all = picks.stream().allMatch(pick -> pick(pick, rows).isEmpty());
    return all
        ? new Result(Set.of(), Set.of(), Set.of(), Set.of("nothing picked"))
        : subset(picks, rows);
  }

  private Result subset(List<PickSpec> picks, List<Row> rows) {
    Set<Row> picked = new HashSet<>();
    picks.forEach(pick -> picked.addAll(pick(pick, rows)));
    Set<Row> chosen = new HashSet<>(picked);
    Set<Row> in = new HashSet<>(picked);
    for (Row row : rows) {
      if (picks.isEmpty() && !empty.contains(row.table())) {
        chosen.add(row);
        in.add(row);
      }
      if (whole.contains(row.table())) {
        in.add(row);
      }
    }
    close(rows, chosen, in);
    return check(rows, picked, chosen, in);
  }

  private void close(List<Row> rows, Set<Row> chosen, Set<Row> in) {
    for (boolean changed = true; changed; ) {
      changed = false;
      for (LinkSpec link : links) {
        if (cut(link)) {
          continue;
        }
        for (Row row : rows) {
          if (in.contains(row) && row.table().equals(link.child())) {
            changed |= in.addAll(parents(link, row, rows));
          }
          if (row.table().equals(link.parent()) && !empty.contains(link.child())) {
            if (chosen.contains(row) && link.follow() != Follow.NEVER) {
              changed |= chosen.addAll(children(link, row, rows));
            } else if (in.contains(row) && link.follow() == Follow.ALWAYS) {
              changed |= in.addAll(children(link, row, rows));
            }
          }
        }
      }
      changed |= in.addAll(chosen);
    }
  }

  private Result check(List<Row> rows, Set<Row> picked, Set<Row> chosen, Set<Row> in) {
    Set<String> failures = new HashSet<>();
    for (LinkSpec link : links) {
      for (Row row : in) {
        if (!row.table().equals(link.child()) || !exists(link, row)) {
          continue;
        }
        if (cut(link)) {
          if (!link.clearable()) {
            failures.add("cannot be cut");
          }
        } else if (parents(link, row, rows).isEmpty()) {
          if (link.broken() == Broken.ERROR
              || (link.broken() == Broken.NULL && !link.clearable())) {
            failures.add("broken");
          }
        }
      }
    }
    return new Result(picked, chosen, in, failures);
  }

  private boolean cut(LinkSpec link) {
    return link.cut() || empty.contains(link.parent());
  }

  private Set<Row> leftOut() {
    Set<Row> gone = new HashSet<>();
    for (boolean changed = true; changed; ) {
      changed = false;
      for (LinkSpec link : links) {
        if (cut(link)) {
          continue;
        }
        for (Row row : source) {
          if (row.table().equals(link.child()) && exists(link, row) && !gone.contains(row)) {
            Set<Row> parents = parents(link, row, source);
            boolean leave = parents.isEmpty() && link.broken() == Broken.LEAVE_OUT;
            if (leave || parents.stream().anyMatch(gone::contains)) {
              gone.add(row);
              changed = true;
            }
          }
        }
      }
    }
    return gone;
  }

  private boolean exists(LinkSpec link, Row row) {
    return link.childColumns().stream().allMatch(c -> row.get(c) != null)
        && link.condition().test().test(row);
  }

  private Set<Row> parents(LinkSpec link, Row child, List<Row> rows) {
    Set<Row> parents = new HashSet<>();
    if (exists(link, child)) {
      for (Row row : rows) {
        if (row.table().equals(link.parent()) && matches(link, child, row)) {
          parents.add(row);
        }
      }
    }
    return parents;
  }

  private boolean matches(LinkSpec link, Row child, Row parent) {
    for (int i = 0; i < link.childColumns().size(); i++) {
      Object from = child.get(link.childColumns().get(i));
      Object to = parent.get(link.parentColumns().get(i));
      boolean noCase = tables.get(link.parent()).noCase();
      boolean equal =
          from instanceof String text && to instanceof String other && noCase
              ? text.equalsIgnoreCase(other)
              : from.equals(to);
      if (!equal) {
        return false;
      }
    }
    return true;
  }

  private Set<Row> children(LinkSpec link, Row parent, List<Row> rows) {
    List<Row> children = new ArrayList<>();
    for (Row row : rows) {
      if (row.table().equals(link.child())
          && exists(link, row)
          && matches(link, row, parent)
          && link.where().test().test(row)) {
        children.add(row);
      }
    }
    if (link.atMost() > 0) {
      String scope = "at-most/" + link.child() + "." + String.join(",", link.childColumns());
      children.sort(Comparator.comparing(row -> hash(scope, row), Long::compareUnsigned));
      children = children.subList(0, Math.min(link.atMost(), children.size()));
    }
    return new HashSet<>(children);
  }

  private Set<Row> pick(PickSpec pick, List<Row> rows) {
    List<Row> found = new ArrayList<>();
    for (Row row : rows) {
      if (row.table().equals(pick.table())
          && pick.where().test().test(row)
          && below(pick.share(), hash("pick/" + pick.table(), row))) {
        found.add(row);
      }
    }
    if (!pick.keys().isEmpty()) {
      List<String> key = tables.get(pick.table()).key();
      found.removeIf(
          row -> !pick.keys().contains(key.stream().map(c -> row.get(c).toString()).toList()));
    }
    if (pick.newest() > 0) {
      found.removeIf(row -> row.get("v") == null);
      found.sort(
          Comparator.comparing((Row row) -> -(Long) row.get("v"))
              .thenComparing(row -> hash("pick/" + pick.table(), row), Long::compareUnsigned));
      found = found.subList(0, Math.min(pick.newest(), found.size()));
    }
    if (pick.rows() > 0) {
      found.sort(
          Comparator.comparing(row -> hash("pick/" + pick.table(), row), Long::compareUnsigned));
      found = found.subList(0, Math.min(pick.rows(), found.size()));
    }
    return new HashSet<>(found);
  }

  private static boolean below(String share, long hash) {
    if (share.isEmpty()) {
      return true;
    }
    java.math.BigDecimal unsigned =
        new java.math.BigDecimal(new java.math.BigInteger(Long.toUnsignedString(hash)));
    java.math.BigDecimal limit =
        new java.math.BigDecimal(share)
            .multiply(new java.math.BigDecimal(java.math.BigInteger.TWO.pow(64)));
    return unsigned.compareTo(new java.math.BigDecimal(limit.toBigInteger())) < 0;
  }

  private long hash(String scope, Row row) {
    TableSpec table = tables.get(row.table());
    List<String> identity =
        table.key().isEmpty() ? new ArrayList<>(row.values().keySet()) : table.key();
    ByteBuffer message = ByteBuffer.allocate(1_000);
    for (String column : identity) {
      Object value = row.get(column);
      if (value == null) {
        message.putInt(-1);
      } else {
        byte[] text = value.toString().getBytes(StandardCharsets.UTF_8);
        message.putInt(text.length).put(text);
      }
    }
    byte[] bytes = new byte[message.position()];
    message.rewind().get(bytes);
    return ByteBuffer.wrap(key.prf(scope).of(bytes)).getLong();
  }
}
