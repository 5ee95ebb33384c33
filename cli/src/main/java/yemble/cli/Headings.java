package yemble.cli;

import yemble.core.job.Preparation;

/** What every output begins with: which databases, in which environments. */
final class Headings {
  private Headings() {}

  static void fromInto(Output output, Preparation job, String into, String where) {
    output.line(output.paint(Output.Tone.STRONG, "Job " + job.job().name()));
    int width = Math.max(job.from().title().length(), into.length());
    line(output, "from", job.from().title(), width, job.source().description());
    line(output, "into", into, width, where);
  }

  private static void line(Output output, String word, String title, int width, String where) {
    String padded = title + " ".repeat(Math.max(0, width - title.length()));
    output.line("  " + word + "  " + output.paint(Output.Tone.STRONG, padded) + "  " + where);
  }

  static void from(Output output, Preparation job) {
    line(output, "from", job.from().title(), 0, job.source().description());
  }
}
