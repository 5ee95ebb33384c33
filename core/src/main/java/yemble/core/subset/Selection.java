package yemble.core.subset;

import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import yemble.core.crypto.SecretKey;
import yemble.core.name.TableName;
import yemble.core.project.Amount;
import yemble.core.row.RowSet;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.store.Reader;

/** The rows of a subset by the numbers that a reader gives them. */
public final class Selection extends Reached<RowSet> {
  private final Optional<Sized> sized;
  private final Map<Link, RowwiseKin.Scans> scans;

  private Selection(RowwiseKin kin, Request request, Optional<Sized> sized) {
    super(kin, request);
    this.scans = kin.scans();
    this.sized = sized;
  }

  /**
   * What a request asks of a reader, see {@link Reach}.
   *
   * @param key by which rows are chosen among others
   */
  public static Selection of(Reader source, Request request, SecretKey key) {
    RowwiseKin kin = new RowwiseKin(source, key);
    Request asked = request;
    Optional<Sized> sized = Optional.empty();
    if (request.amount().isPresent() && !(request.amount().get() instanceof Amount.Share)) {
      SizeSearch.Result found = SizeSearch.of(source, request, kin);
      asked = found.request();
      sized = Optional.of(found.sized());
    }
    Selection selection = new Selection(kin, asked, sized);
    Reach.into(selection, kin, source.schema());
    return selection;
  }

  /** The same as far as its rows go: whether all references resolve is not looked at. */
  static Selection probe(
      RowwiseKin kin, Schema schema, Request request, Map<TableName, RowSet> leftOut) {
    Selection selection = new Selection(kin, request, Optional.empty());
    Reach.rowsInto(selection, kin, schema, leftOut);
    return selection;
  }

  /** A selection of nothing, for those who look at rows one by one. */
  public static Selection none(Request request) {
    return new Selection(new RowwiseKin(null, null), request, Optional.empty());
  }

  /** Leaves those rows of a table out that are not in a set. */
  public void retain(TableName table, RowSet rows) {
    Part<RowSet> part = part(table);
    for (RowSet each : List.of(part.in, part.chosen, part.picked)) {
      RowSet gone = each.copy();
      gone.removeAll(rows);
      each.removeAll(gone);
    }
  }

  /** The links whose whole child table was read, as no index leads from parents to children. */
  public Map<Link, RowwiseKin.Scans> scans() {
    return scans;
  }

  /** How a size was met, if one was asked for. */
  public Optional<Sized> sized() {
    return sized;
  }

  /**
   * How a size was met.
   *
   * @param wanted in bytes
   * @param reached in bytes, as {@link RowBytes} counts
   * @param share of the tables that the subset starts at
   * @param within whether it lies within a tenth of what is wanted
   * @param reason if it does not
   */
  public record Sized(
      long wanted, long reached, BigDecimal share, boolean within, Optional<Reason> reason) {}

  /**
   * The table that keeps a size from being met.
   *
   * @param bytes of it that are in, if the subset is too large; that are not, if it is too small
   */
  public record Reason(TableName table, long bytes) {}
}
