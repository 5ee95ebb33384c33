package yemble.core.subset;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.name.TableName;
import yemble.core.row.Rows;
import yemble.core.schema.Link;

/**
 * The rows of a subset, by table, and how they came in.
 *
 * @param <S> what holds a set of rows
 */
public class Reached<S extends Rows<S>> {
  private final Kin<S> kin;
  private final Request request;
  private final Map<TableName, Part<S>> parts = new LinkedHashMap<>();
  private final Map<Link, Traffic<S>> traffic = new LinkedHashMap<>();

  private final Map<Request.Start, PickResult> picks = new LinkedHashMap<>();

  Reached(Kin<S> kin, Request request) {
    this.kin = kin;
    this.request = request;
  }

  public Request request() {
    return request;
  }

  void picked(Request.Start start, PickResult result) {
    picks.put(start, result);
  }

  /**
   * What came of a pick.
   *
   * @param matched how many rows its condition or its keys match, before its share and its number
   * @param picked how many it took of them
   * @param missing which of its keys no row has, by their positions
   */
  public record PickResult(long matched, long picked, List<Integer> missing) {}

  /** What came of each pick, in their order. */
  public Map<Request.Start, PickResult> picks() {
    return Collections.unmodifiableMap(picks);
  }

  /** The part of a table; without rows if none is in. */
  public Part<S> part(TableName table) {
    return parts.computeIfAbsent(table, t -> new Part<>(kin));
  }

  /** What came through a link. */
  public Traffic<S> traffic(Link link) {
    return traffic.computeIfAbsent(link, l -> new Traffic<>(kin.none()));
  }

  /** How many rows are in, over all tables. */
  public long size() {
    return parts.values().stream().mapToLong(Part::size).sum();
  }

  /** The rows of one table. A row is picked and chosen, chosen, or needed. */
  public static final class Part<S extends Rows<S>> {
    final S picked;
    final S chosen;
    final S in;

    private Part(Kin<S> kin) {
      this.picked = kin.none();
      this.chosen = kin.none();
      this.in = kin.none();
    }

    /** The rows that picks named; all of them are chosen. */
    public S picked() {
      return picked;
    }

    public S chosen() {
      return chosen;
    }

    /** All rows that are in, chosen or needed. */
    public S in() {
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
  public static final class Traffic<S extends Rows<S>> {
    long parents;
    long children;
    final S broken;

    private Traffic(S broken) {
      this.broken = broken;
    }

    /** How many parent rows came in through this link first. */
    public long parents() {
      return parents;
    }

    /** How many child rows came in, or became chosen, through this link first. */
    public long children() {
      return children;
    }

    /** The child rows in the subset that refer to nothing. */
    public S broken() {
      return broken;
    }
  }
}
