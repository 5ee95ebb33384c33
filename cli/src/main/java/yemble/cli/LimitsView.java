package yemble.cli;

import java.util.List;
import yemble.core.job.Preparation;
import yemble.core.plan.Limits;
import yemble.core.wording.Sentence;

/** Shows whether masked values meet the limits of their columns. */
final class LimitsView {
  private final CommonOptions common;

  LimitsView(CommonOptions common) {
    this.common = common;
  }

  /** Prints a report; returns the exit code. */
  int print(Preparation job, Limits.Report report) {
    if (common.json) {
      json(job, report);
    } else {
      text(job, report);
    }
    return isGood(report) ? 0 : 1;
  }

  private static boolean isGood(Limits.Report report) {
    return report.own().isEmpty() && report.broken().isEmpty() && report.unmasked().isEmpty();
  }

  private void text(Preparation job, Limits.Report report) {
    Output output = common.output;
    output.line(
        "Masks of "
            + output.paint(Output.Tone.STRONG, job.from().title())
            + " against the limits of their columns");
    output.line();
    output.line(
        "  "
            + Output.counted(report.values(), "masked value")
            + " of a sample looked at, "
            + Output.counted(report.conditions(), "condition")
            + " put to the database, "
            + Output.counted(report.keys(), "key")
            + " looked at row by row.");
    list("breaks its promise", Output.Tone.BAD, report.own());
    list("does not fit", Output.Tone.BAD, report.broken());
    list("is not masked", Output.Tone.BAD, report.unmasked());
    list("cannot be said", Output.Tone.WARNING, report.unsure());
    list("stays, by your rules", Output.Tone.WARNING, report.left());
    list("does not go together in a row", Output.Tone.WARNING, report.disagreeing());
    if (!report.disagreeing().isEmpty()) {
      output.line(
          output.paint(
              Output.Tone.FAINT,
              "    addresses: names: learned, or follow-names; towns and ages: keyed-by"));
    }
    list("worth knowing", Output.Tone.WARNING, report.weak());
    list("names that stay in texts", Output.Tone.STRONG, report.texts());
    output.line();
    output.line(
        isGood(report)
            ? "Everything fits. Nothing was written."
            : "A run would refuse this before it loads anything. Give the columns masks that fit, under"
                + " columns: in the project file.");
    output.flush();
  }

  private void list(String title, Output.Tone tone, List<Sentence> lines) {
    if (!lines.isEmpty()) {
      Output output = common.output;
      output.line();
      output.line("  " + output.paint(tone, title));
      for (Sentence line : lines) {
        List<String> wrapped = output.wrapped(line.toString(), 6);
        output.line("    " + wrapped.get(0));
        wrapped.stream().skip(1).forEach(further -> output.line("      " + further));
      }
    }
  }

  private void json(Preparation job, Limits.Report report) {
    common.output.json(
        Json.object(
            "from", Json.database(job.from()),
            "values", report.values(),
            "conditions", report.conditions(),
            "keys", report.keys(),
            "breaks_promise", columns(report.own()),
            "does_not_fit", columns(report.broken()),
            "is_not_masked", columns(report.unmasked()),
            "not_checked", columns(report.unsure()),
            "left_by_rules", columns(report.left()),
            "disagree_in_rows", columns(report.disagreeing()),
            "worth_knowing", columns(report.weak()),
            "names_in_texts", columns(report.texts())));
  }

  private static List<Object> columns(List<Sentence> found) {
    return Json.list(found, one -> Json.object("column", one.about(), "says", one.says()));
  }
}
