package yemble.cli;

import java.util.Comparator;
import java.util.List;
import picocli.CommandLine.Option;
import yemble.core.job.Preparation;
import yemble.core.schema.Table;
import yemble.core.subset.Reached;
import yemble.core.subset.Rule;

/**
 * Which tables and links of a subset are shown, and in what order: what holds or brings most first.
 */
final class Shown {
  @Option(names = "--all", description = "show tables and links without rows, too")
  boolean all;

  List<Table> tables(Preparation job) {
    return job.plan().schema().tables().stream()
        .filter(table -> all || rows(job, table) > 0)
        .sorted(
            Comparator.comparingLong((Table table) -> -rows(job, table))
                .thenComparing(table -> table.name()))
        .toList();
  }

  private static long rows(Preparation job, Table table) {
    return job.selection().part(table.name()).size();
  }

  List<Rule> rules(Preparation job) {
    return job.selection().request().rules().stream()
        .filter(rule -> all || brought(job, rule) > 0)
        .sorted(Comparator.comparingLong(rule -> -brought(job, rule)))
        .toList();
  }

  private static long brought(Preparation job, Rule rule) {
    Reached.Traffic<?> traffic = job.selection().traffic(rule.link());
    return traffic.parents() + traffic.children() + traffic.broken().size();
  }

  /** What the words in a table of tables mean, and how many tables are not in it. */
  void words(Output output, Preparation job) {
    boolean any = job.selection().size() > 0 && !job.selection().request().everything();
    if (any) {
      output.line(
          "  Chosen rows were picked, or belong to chosen ones; needed rows are those that others"
              + " refer to.");
    }
    leftOut(
        output, job.plan().schema().tables().size() - tables(job).size(), "table", "without a row");
  }

  /** Says that no row brings another, where the subset has no links at all. */
  void withoutLinks(Output output, Preparation job) {
    if (job.selection().request().rules().isEmpty() && job.plan().schema().tables().size() > 1) {
      output.line();
      output.line(
          output.paint(Output.Tone.WARNING, "warning: ")
              + "there are no links: the database declares no foreign keys, and the project names"
              + " none, so no row brings another; yemble links --suggest looks for them");
    }
  }

  /** What the words in a table of links mean, and how many links are not in it. */
  void wordsOfLinks(Output output, Preparation job) {
    output.line(
        "  Each link brings the parents that its rows need; children it brings of chosen rows, of"
            + " all (always), or of none (never).");
    leftOut(
        output,
        job.selection().request().rules().size() - rules(job).size(),
        "link",
        "that brought nothing");
  }

  private static void leftOut(Output output, int left, String noun, String which) {
    if (left > 0) {
      output.line(
          "  "
              + Output.counted(left, noun)
              + " "
              + which
              + (left == 1 ? " is" : " are")
              + " not shown; --all shows "
              + (left == 1 ? "it." : "them."));
    }
  }
}
