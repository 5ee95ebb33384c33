package yemble.cli;

import java.math.BigDecimal;
import java.math.MathContext;
import java.util.Comparator;
import yemble.core.job.Preparation;
import yemble.core.project.Amount;
import yemble.core.project.Pick;
import yemble.core.subset.Request;
import yemble.core.subset.Selection;

/** Where a subset starts. */
final class PicksView {
  private PicksView() {}

  static void print(Output output, Preparation job) {
    output.line();
    if (job.selection().request().everything()) {
      output.line("  No picks: every row of every table");
    } else if (job.selection().request().amount().isPresent()) {
      amount(output, job, job.selection().request().amount().get());
    } else {
      picks(output, job);
    }
  }

  private static void picks(Output output, Preparation job) {
    TextTable table =
        new TextTable("pick", "what", ">matches", "share", ">rows at most", ">picked");
    for (Request.Start start : job.selection().request().picks()) {
      long rows = start.rows() == Pick.ALL ? 0 : start.rows();
      boolean all = start.share().compareTo(BigDecimal.ONE) == 0;
      table.row(
          start.table().name(),
          asked(job, start),
          Output.number(job.selection().picks().get(start).matched()),
          all ? "" : percent(start.share()),
          rows == 0 ? "" : Output.number(rows),
          Output.number(job.selection().picks().get(start).picked()));
    }
    output.table(table);
  }

  /** What a pick asks for, beside its share and its number. */
  private static String asked(Preparation job, Request.Start start) {
    long missing = job.selection().picks().get(start).missing().size();
    return start
        .keys()
        .map(
            keys ->
                Output.counted(keys.rows().size(), "key")
                    + " of "
                    + keys.file()
                    + (missing == 0 ? "" : ", " + missing + " not there"))
        .orElse(
            start.where().sql()
                + start
                    .newest()
                    .map(
                        newest ->
                            (start.where().isEmpty() ? "" : ", ")
                                + "newest "
                                + Output.number(newest.rows())
                                + " by "
                                + newest.column().name())
                    .orElse(""));
  }

  /** A share as people write it. */
  static String percent(BigDecimal share) {
    return share.movePointRight(2).round(new MathContext(3)).stripTrailingZeros().toPlainString()
        + "%";
  }

  /** Says at which tables a job starts that names none, and how near a size was met. */
  private static void amount(Output output, Preparation job, Amount amount) {
    String starts = " of the rows of each table that no row needs as a parent, with all they need:";
    if (amount instanceof Amount.Share share) {
      output.line("  " + percent(share.share()) + starts);
    } else {
      Selection.Sized sized = job.selection().sized().orElseThrow();
      output.line(
          "  "
              + Output.bytes(sized.wanted())
              + (amount instanceof Amount.BytesShare share
                  ? " (" + percent(share.share()) + " of the source)"
                  : "")
              + " asked for, "
              + Output.bytes(sized.reached())
              + " found: "
              + percent(sized.share())
              + starts);
      sized.reason().ifPresent(reason -> nearest(output, sized, reason));
    }
    TextTable table = new TextTable("starts at", ">rows", ">picked");
    job.selection().picks().entrySet().stream()
        .sorted(Comparator.comparingLong(pick -> -pick.getValue().matched()))
        .filter(pick -> pick.getValue().matched() > 0)
        .forEach(
            pick ->
                table.row(
                    pick.getKey().table().name(),
                    Output.number(pick.getValue().matched()),
                    Output.number(pick.getValue().picked())));
    output.table(table);
  }

  private static void nearest(Output output, Selection.Sized sized, Selection.Reason reason) {
    boolean large = sized.reached() > sized.wanted();
    output.line(
        output.paint(Output.Tone.WARNING, "  warning: ")
            + "this is the nearest that is possible: "
            + Output.bytes(reason.bytes())
            + " of "
            + reason.table()
            + (large
                ? " come even with the fewest rows; see which link brings them, below"
                : " are needed by no row, so that nothing brings them; whole: would"));
  }

  /** How near a size was met; null where none was asked for. */
  static Object size(Preparation job) {
    return job.selection()
        .sized()
        .map(
            sized ->
                Json.object(
                    "asked",
                    sized.wanted(),
                    "found",
                    sized.reached(),
                    "share",
                    sized.share(),
                    "within",
                    sized.within(),
                    "table",
                    sized.reason().map(reason -> reason.table().toString()).orElse(null)))
        .orElse(null);
  }
}
