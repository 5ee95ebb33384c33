package yemble.core.subset;

import java.util.LinkedHashMap;
import java.util.Map;
import yemble.core.name.TableName;
import yemble.core.schema.Link;
import yemble.core.store.RowSet;

/** The rows of a subset, by table, and how they came in. */
public final class Selection {
  private final Request request;
  private final Map<TableName, Part> parts = new LinkedHashMap<>();
  private final Map<Link, Traffic> traffic = new LinkedHashMap<>();

  private final Map<Request.Start, Long> matched = new LinkedHashMap<>();

  Selection(Request request) {
    this.request = request;
  }

  public Request request() {
    return request;
  }

  /** A selection of nothing, for those who look at rows one by one. */
  public static Selection none(Request request) {
    return new Selection(request);
  }

  void matched(Request.Start start, long rows) {
    matched.put(start, rows);
  }

  /** How many rows each pick's condition matches, before its share and its number. */
  public Map<Request.Start, Long> matched() {
    return Map.copyOf(matched);
  }

  /** The part of a table; without rows if none is in. */
  public Part part(TableName table) {
    return parts.computeIfAbsent(table, t -> new Part());
  }

  /** What came through a link. */
  public Traffic traffic(Link link) {
    return traffic.computeIfAbsent(link, l -> new Traffic());
  }

  /** How many rows are in, over all tables. */
  public long size() {
    return parts.values().stream().mapToLong(Part::size).sum();
  }

  /** The rows of one table. A row is picked and chosen, chosen, or needed. */
  public static final class Part {
    final RowSet picked = new RowSet();
    final RowSet chosen = new RowSet();
    final RowSet in = new RowSet();

    /** The rows that picks named; all of them are chosen. */
    public RowSet picked() {
      return picked;
    }

    public RowSet chosen() {
      return chosen;
    }

    /** All rows that are in, chosen or needed. */
    public RowSet in() {
      return in;
    }

    public long size() {
      return in.size();
    }

    /** How many rows are in but not chosen. */
    public long needed() {
      return in.size() - chosen.size();
    }
  }

  /** What came through one link, and what was found wrong with it. */
  public static final class Traffic {
    long parents;
    long children;
    final RowSet broken = new RowSet();

    /** How many parent rows came in through this link first. */
    public long parents() {
      return parents;
    }

    /** How many child rows came in, or became chosen, through this link first. */
    public long children() {
      return children;
    }

    /** The child rows in the subset that refer to nothing. */
    public RowSet broken() {
      return broken;
    }
  }
}
