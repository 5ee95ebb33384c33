package yemble.cli;

import java.math.BigDecimal;
import java.math.MathContext;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.job.Preparation;
import yemble.core.problem.Problem;
import yemble.core.project.Amount;
import yemble.core.project.Pick;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.subset.PickFacts;
import yemble.core.subset.Request;
import yemble.core.subset.Selection;

/** Where a subset starts. */
final class PicksView {
  private static final int EXAMPLES = 3;

  private PicksView() {}

  /**
   * Says what is picked.
   *
   * @param facts whether it is looked at between which values they lie: that reads their rows again
   * @param showValues whether values may be shown that the register does not keep as they are
   */
  static void print(Output output, Preparation job, boolean facts, boolean showValues) {
    output.line();
    if (job.selection().request().everything()) {
      output.line("  No picks: every row of every table");
    } else if (job.selection().request().amount().isPresent()) {
      amount(output, job, job.selection().request().amount().get());
    } else {
      picks(output, job);
      if (facts) {
        facts(output, job, showValues);
      }
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

  /** Between which values each pick's columns lie, what sits on a border, and a few rows. */
  private static void facts(Output output, Preparation job, boolean showValues) {
    Set<String> kept = kept(job);
    TextTable spreads = new TextTable("pick", "column", "from", "to");
    List<String> borders = new ArrayList<>();
    for (Request.Start start : job.selection().request().picks()) {
      PickFacts facts = PickFacts.of(job.source(), start);
      for (PickFacts.Spread spread : facts.spreads()) {
        boolean shown = showValues || kept.contains(column(start, spread));
        spreads.row(
            start.table().name(),
            spread.column().name(),
            shown ? Visible.of(said(spread.least())) : "not shown: --show-values",
            shown ? Visible.of(said(spread.greatest())) : "");
      }
      facts.borders().forEach(border -> borders.add(border(start, border)));
    }
    if (!spreads.isEmpty()) {
      output.line();
      output.line("  The rows that the picks match lie between");
      output.table(spreads);
    }
    borders.forEach(output::line);
    if (showValues) {
      job.selection().request().picks().forEach(start -> examples(output, job, start));
    }
  }

  /** The picks as objects, with their facts. */
  static List<Object> json(Preparation job, boolean showValues) {
    Set<String> kept = kept(job);
    List<Object> picks = RunJson.picks(job);
    List<Object> all = new ArrayList<>();
    for (Request.Start start : job.selection().request().picks()) {
      PickFacts facts = PickFacts.of(job.source(), start);
      Map<String, Object> pick = Json.object();
      ((Map<?, ?>) picks.get(all.size())).forEach((word, value) -> pick.put((String) word, value));
      pick.put(
          "columns",
          Json.list(
              facts.spreads(),
              spread -> {
                boolean shown = showValues || kept.contains(column(start, spread));
                return Json.object(
                    "column", spread.column().name(),
                    "least", shown ? spread.least() : null,
                    "greatest", shown ? spread.greatest() : null);
              }));
      pick.put(
          "borders",
          Json.list(
              facts.borders(),
              border -> Json.object("comparison", border.comparison(), "equal", border.rows())));
      all.add(pick);
    }
    return all;
  }

  private static String said(String value) {
    return value == null ? "nothing" : value;
  }

  private static String column(Request.Start start, PickFacts.Spread spread) {
    return start.table().name(spread.column()).toString();
  }

  /** How many rows a comparison just takes, or just does not take. */
  private static String border(Request.Start start, PickFacts.Border border) {
    return "  "
        + start.table().name()
        + ": "
        + (border.rows() == 0
            ? "no row sits"
            : Output.counted(border.rows(), "row") + (border.rows() == 1 ? " sits" : " sit"))
        + " exactly on the border of "
        + Visible.of(border.comparison())
        + (border.rows() == 0
            ? ""
            : border.included() ? ", which takes them" : ", which leaves them out");
  }

  /** The columns that the register keeps as they are; none where it cannot be read. */
  private static Set<String> kept(Preparation job) {
    Set<String> kept = new HashSet<>();
    try {
      Path file = job.project().directory().resolve(job.from().register());
      for (RegisterLine line : Register.read(file, job.from().register()).lines()) {
        if (line.decision() == RegisterLine.Decision.KEEP) {
          kept.add(line.column());
        } else {
          kept.remove(line.bareColumn());
        }
      }
    } catch (Problem unreadable) {
      return Set.of(); // Then nothing is known of any column.
    }
    return kept;
  }

  /** The first rows of a pick: their names, and the columns that it speaks of. */
  private static void examples(Output output, Preparation job, Request.Start start) {
    RowSet first = new RowSet();
    job.source()
        .rows(
            start.table(),
            job.selection().part(start.table().name()).picked(),
            List.of(),
            (row, values) -> {
              if (first.size() < EXAMPLES) {
                first.add(row);
              }
            });
    List<Column> columns = new ArrayList<>(start.table().identity());
    PickFacts.named(start).stream().filter(c -> !columns.contains(c)).forEach(columns::add);
    output.line();
    output.line("  Rows of " + start.table().name() + " that are picked, for example");
    output.table(RowTable.of(job.source(), start.table(), first, columns));
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
