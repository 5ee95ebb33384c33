package yemble.cli;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.function.ToLongFunction;
import yemble.core.job.Merging;
import yemble.core.merge.Tally;

/** What becomes of rows that come beside those of a target. */
final class MergeView {
  private final Merging merging;

  MergeView(Merging merging) {
    this.merging = merging;
  }

  /** Shows it, table by table. */
  void print(Output output, String into) {
    TextTable table =
        new TextTable("into " + into, ">inserted", ">updated", ">left", ">conflicting");
    List<Tally> tallies = new ArrayList<>(merging.tallies());
    tallies.sort(Comparator.comparingLong(Tally::rows).reversed().thenComparing(Tally::table));
    for (Tally tally : tallies) {
      table.row(
          tally.table(),
          shown(tally.inserted()),
          shown(tally.updated()),
          shown(tally.left()),
          shown(tally.conflicting()));
    }
    output.table(table);
    List<String> others = merging.notFollowed();
    if (!others.isEmpty()) {
      output.line();
      output.line("Not followed, as nobody declared what they refer to:");
      output.wrapped(String.join(", ", others), 2).forEach(line -> output.line("  " + line));
    }
    List<String> warnings = new ArrayList<>();
    merging
        .sameToo()
        .forEach(
            (name, columns) ->
                warnings.add(
                    name
                        + " comes whole, beside the target's own rows; if they are the same, say"
                        + " same: { "
                        + name
                        + ": ["
                        + String.join(", ", columns)
                        + "] }"));
    merging.warnings().forEach(warning -> warnings.add(into + ": " + warning));
    for (String warning : warnings) {
      output.line();
      output.line(output.paint(Output.Tone.WARNING, "warning: ") + warning);
    }
  }

  /** So that what happens stands out, nothing stands where nothing does. */
  private static String shown(long rows) {
    return rows == 0 ? "" : Output.number(rows);
  }

  /** What of it stands in the question. */
  String words() {
    List<String> parts = new ArrayList<>();
    add(parts, Tally::inserted, "inserted");
    add(parts, Tally::updated, "updated");
    add(parts, Tally::left, "left as they are");
    add(parts, Tally::conflicting, "conflicting and left out");
    return parts.isEmpty() ? "no rows" : String.join(", ", parts);
  }

  private void add(List<String> parts, ToLongFunction<Tally> of, String what) {
    long rows = merging.tallies().stream().mapToLong(of).sum();
    if (rows > 0) {
      parts.add(Output.number(rows) + " " + what);
    }
  }

  /** For machines. */
  Map<String, Object> json() {
    return Json.object(
        "tables",
        Json.list(
            merging.tallies(),
            (Tally tally) ->
                Json.object(
                    "table", tally.table().toString(),
                    "inserted", tally.inserted(),
                    "updated", tally.updated(),
                    "left", tally.left(),
                    "conflicting", tally.conflicting())),
        "not_followed",
        merging.notFollowed());
  }
}
