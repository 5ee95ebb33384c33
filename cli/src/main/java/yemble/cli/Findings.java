package yemble.cli;

import java.util.List;
import yemble.core.verify.Outcome;
import yemble.core.wording.Sentence;

/** Shows what a verification found. */
final class Findings {
  private Findings() {}

  static void print(Output output, List<Outcome> findings) {
    int width = findings.stream().mapToInt(f -> f.check().toString().length()).max().orElse(0);
    for (Outcome finding : findings) {
      Output.Tone tone =
          switch (finding.result()) {
            case HOLDS -> Output.Tone.GOOD;
            case FAILS -> Output.Tone.BAD;
            case NOTED, NOT_CHECKED -> Output.Tone.WARNING;
          };
      String word = String.format("%-11s", finding.result());
      String name = String.format("%-" + width + "s", finding.check());
      String head = "  " + output.paint(tone, word) + "  " + name + "  ";
      int indent = 2 + word.length() + 2 + name.length() + 2;
      List<String> lines = output.wrapped(finding.figures().toString(), indent);
      output.line(head + lines.get(0));
      lines.stream().skip(1).forEach(line -> output.line(" ".repeat(indent) + line));
      for (Sentence detail : finding.details()) {
        String mark = "- ";
        for (String line : output.wrapped(detail.toString(), indent + 2)) {
          output.line(" ".repeat(indent) + output.paint(tone, mark + line));
          mark = "  ";
        }
      }
    }
  }

  static List<Object> list(List<Outcome> findings) {
    return Json.list(
        findings,
        finding ->
            Json.object(
                "check", finding.check().toString(),
                "result", finding.result().toString().replace(' ', '_'),
                "counts", finding.counts(),
                "says", finding.figures().toString(),
                "faults", Json.list(finding.details(), Sentence::toString)));
  }
}
