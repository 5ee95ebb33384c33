package yemble.cli;

import yemble.core.job.Preparation;
import yemble.core.job.Verification;

/** What every output begins with: which databases, in which environments. */
final class Headings {
  private Headings() {}

  static void fromInto(Output output, Preparation job, String into, String where) {
    jobHeading(output, job.job().name());
    int width = Math.max(Width.of(job.from().title()), Width.of(into));
    line(output, "from", job.from().title(), width, job.source().description());
    line(output, "into", into, width, where);
  }

  static void of(Output output, String job, Verification verification) {
    jobHeading(output, job);
    String from = verification.from().title();
    String into = verification.into().title();
    int width = Math.max(Width.of(from), Width.of(into));
    String source = verification.source();
    if (verification.from() == verification.into()) {
      line(output, "in", into, 0, verification.target());
      return;
    }
    line(output, "from", from, width, source.isEmpty() ? "(not compared)" : source);
    line(output, "into", into, width, verification.target());
  }

  private static void jobHeading(Output output, String job) {
    output.line(output.paint(Output.Tone.STRONG, "Job " + job));
  }

  private static void line(Output output, String word, String title, int width, String where) {
    String padded = Width.padded(title, width);
    output.line("  " + word + "  " + output.paint(Output.Tone.STRONG, padded) + "  " + where);
  }

  static void from(Output output, Preparation job) {
    line(output, "from", job.from().title(), 0, job.source().description());
  }
}
