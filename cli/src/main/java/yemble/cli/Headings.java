package yemble.cli;

import yemble.core.job.Preparation;

/** What every output begins with: which databases, in which environments. */
final class Headings {
  private Headings() {}

  static void fromInto(Output output, Preparation job, String into, String where) {
    output.line(output.paint(Output.Tone.STRONG, "Job " + job.job().name()));
    from(output, job);
    output.line("  into  " + output.paint(Output.Tone.STRONG, into) + "  " + where);
  }

  static void from(Output output, Preparation job) {
    output.line(
        "  from  "
            + output.paint(Output.Tone.STRONG, job.from().title())
            + "  "
            + job.source().description());
  }
}
