package yemble.core.subset;

import java.math.BigDecimal;
import java.util.Comparator;
import java.util.Map;
import java.util.Optional;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Amount;
import yemble.core.row.RowSet;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * Finds the share of the tables that a subset starts at with which the whole of it has the size
 * that is asked for.
 *
 * <p>A row is picked if its keyed hash lies below the share, so a greater share picks all that a
 * smaller one does, and the subset only grows with it. So the share is enclosed between one that
 * gives too little and one that gives too much, and drawn together by the straight line between the
 * two (regula falsi), never by less than a tenth of what lies between them.
 */
final class SizeSearch {
  /** How far from what is asked a size may lie. */
  private static final double TOLERANCE = 0.1;

  /** Nearer than this is not searched for. */
  private static final double NEAR = 0.02;

  /** So many steps look for the near, the rest for what is tolerable. */
  private static final int NEAR_STEPS = 5;

  private static final int STEPS = 60;

  private final Schema schema;
  private final Request request;
  private final RowwiseKin kin;
  private final RowBytes bytes;
  private final Map<TableName, RowSet> leftOut;
  private final long wanted;
  private Probe below;
  private Probe above;

  private SizeSearch(Reader source, Request request, RowwiseKin kin, long wanted, RowBytes bytes) {
    this.schema = source.schema();
    this.request = request;
    this.kin = kin;
    this.bytes = bytes;
    this.wanted = wanted;
    this.leftOut = LeftOut.of(kin, request);
  }

  /** A subset that was tried. */
  private record Probe(double share, Selection selection, long picked, long bytes) {}

  /** The request with the share that gives the size, and what came of it. */
  record Result(Request request, Selection.Sized sized) {}

  static Result of(Reader source, Request request, RowwiseKin kin) {
    Amount amount = request.amount().orElseThrow();
    RowBytes bytes = new RowBytes(source);
    long all = bytes.ofSource();
    long wanted =
        amount instanceof Amount.Bytes size
            ? size.bytes()
            : ((Amount.BytesShare) amount).share().multiply(BigDecimal.valueOf(all)).longValue();
    return new SizeSearch(source, request, kin, wanted, bytes).result(all);
  }

  private Result result(long all) {
    Probe best = search(all == 0 ? 1 : Math.min(1, (double) wanted / all));
    boolean within = isWithin(best, TOLERANCE);
    return new Result(
        request.sharing(BigDecimal.valueOf(best.share())),
        new Selection.Sized(
            wanted,
            best.bytes(),
            BigDecimal.valueOf(best.share()),
            within,
            within ? Optional.empty() : reason(best)));
  }

  private boolean isWithin(Probe probe, double tolerance) {
    return Math.abs(probe.bytes() - wanted) <= tolerance * wanted;
  }

  private Probe search(double first) {
    Probe best = null;
    double share = first;
    for (int step = 0; step < STEPS; step++) {
      Probe probe = probe(share);
      boolean some = probe.picked() > 0;
      if (some && (best == null || distance(probe) < distance(best))) {
        best = probe;
      }
      if (some && isWithin(probe, step < NEAR_STEPS ? NEAR : TOLERANCE)) {
        return probe;
      }
      if (!some || probe.bytes() < wanted) {
        below = probe;
      } else {
        above = probe;
      }
      if (isEnclosed()) {
        break;
      }
      share = next();
    }
    if (best == null) {
      throw Problem.of(Failure.PICK_EMPTY, "no row is there to pick")
          .at(request.amount().orElseThrow().place().toString())
          .remedy("name a table under pick:, or put fewer tables into empty: and whole:");
    }
    return best;
  }

  private double distance(Probe probe) {
    return Math.abs((double) probe.bytes() - wanted);
  }

  /** Whether nothing lies between what is too little and what is too much. */
  private boolean isEnclosed() {
    boolean allIsTooLittle = above == null && below.share() >= 1;
    boolean noneIsBelow = above != null && above.picked() <= 1;
    boolean oneRow = above != null && below != null && above.picked() - below.picked() <= 1;
    return allIsTooLittle || noneIsBelow || oneRow;
  }

  private double next() {
    if (above == null) {
      double ratio = below.bytes() == 0 ? 10 : 1.05 * wanted / below.bytes();
      return Math.min(1, below.share() * Math.max(1.2, ratio));
    }
    double low = below == null ? 0 : below.share();
    double lowBytes = below == null ? 0 : below.bytes();
    double width = above.share() - low;
    double part = (wanted - lowBytes) / Math.max(1, above.bytes() - lowBytes);
    return low + width * Math.max(0.1, Math.min(0.9, part));
  }

  private Probe probe(double share) {
    Request asked = request.sharing(BigDecimal.valueOf(share));
    Selection selection = Selection.probe(kin, schema, asked, leftOut);
    long picked = selection.picks().values().stream().mapToLong(Reached.PickResult::picked).sum();
    return new Probe(share, selection, picked, bytes.of(selection));
  }

  /** The table that makes the nearest size what it is. */
  private Optional<Selection.Reason> reason(Probe best) {
    boolean large = best.bytes() > wanted;
    return schema.tables().stream()
        .max(Comparator.comparingLong(table -> weight(table, best, large)))
        .filter(table -> weight(table, best, large) > 0)
        .map(table -> new Selection.Reason(table.name(), weight(table, best, large)));
  }

  /** Bytes that are in, where that is too much; else those that are not. */
  private long weight(Table table, Probe probe, boolean in) {
    RowSet rows = probe.selection().part(table.name()).in();
    return bytes.of(table, in ? rows.size() : kin.all(table).size() - rows.size());
  }
}
