package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.project.RegisterLine;
import yemble.core.survey.Finding;
import yemble.core.survey.Question;

/** Shows a question of the review: one column with its evidence, or many in a list. */
final class QuestionView {
  private static final int LISTED = 12;

  private final Output output;
  private final Decider decider;
  private final Map<String, Finding> findings;

  /**
   * @param findings of the last survey, by the names of columns
   */
  QuestionView(Output output, Decider decider, Map<String, Finding> findings) {
    this.output = output;
    this.decider = decider;
    this.findings = findings;
  }

  /** A question about the lines of it that are open still. */
  void show(Question question, List<RegisterLine> open, String left) {
    output.line();
    output.line(
        output.paint(Output.Tone.STRONG, title(question, open))
            + output.paint(Output.Tone.FAINT, "   " + left));
    if (open.size() == 1) {
      evidence(open.get(0));
    } else {
      list(open, LISTED);
    }
  }

  private void evidence(RegisterLine line) {
    Finding finding = findings.get(line.column());
    if (finding != null) {
      new SurveyView(output, decider.kinds(), decider.view()).evidence(finding, line);
    } else {
      output.line("    " + line.kind() + " " + line.evidence());
    }
  }

  /** A list of lines, no longer than a screen takes unless all are wanted. */
  void list(List<RegisterLine> lines, int most) {
    boolean kinds = lines.stream().map(RegisterLine::kind).distinct().count() > 1;
    TextTable table =
        kinds
            ? new TextTable(">", "column", "type", "might be", "~evidence")
            : new TextTable(">", "column", "type", "~evidence");
    for (int i = 0; i < Math.min(most, lines.size()); i++) {
      RegisterLine line = lines.get(i);
      List<Object> cells = new ArrayList<>(List.of(i + 1, line.column(), line.type()));
      if (kinds) {
        cells.add(line.kind());
      }
      cells.add(line.evidence());
      table.row(cells.toArray());
    }
    output.table(table);
    if (lines.size() > most) {
      output.line("  … and " + Output.number(lines.size() - most) + " more: l lists all");
    }
  }

  /** What a question is about. */
  static String title(Question question, List<RegisterLine> open) {
    RegisterLine first = open.get(0);
    if (open.size() == 1) {
      return first.column() + (first.type().isEmpty() ? "" : "  " + first.type());
    }
    String columns = Output.counted(open.size(), "column");
    return switch (question.sort()) {
      case KIND -> columns + " that look like " + first.kind();
      case COLUMN ->
          first.column()
              + " and "
              + Output.counted(open.size() - 1L, "column")
              + " that refer to it";
      case NAME ->
          columns
              + " called "
              + first.column().substring(first.table().length() + 1).toLowerCase(Locale.ROOT);
      case WORDS_OF_PEOPLE -> columns + " of a few fixed words, in tables that hold personal data";
      case NUMBERS -> columns + " of numbers or days, in tables about people";
      case IDENTIFIERS -> columns + " of codes or identifiers";
      case TEXTS -> columns + " of short texts, in tables where nothing personal was found";
      case PAGES -> columns + " of addresses of pages or paths of files";
      case WORDS -> columns + " of a few fixed words, in tables where nothing personal was found";
      case EMPTY -> columns + " without values";
    };
  }

  /** Why columns of a group are kept, if nobody says otherwise; empty if it is none. */
  static String reason(Question question) {
    return switch (question.sort()) {
      case COLUMN, KIND, NAME -> "";
      case WORDS_OF_PEOPLE, WORDS -> "a few fixed words";
      case NUMBERS -> "numbers or days that say nothing of a person";
      case IDENTIFIERS -> "codes or identifiers";
      case TEXTS -> "short texts that say nothing of a person";
      case PAGES -> "addresses of pages or paths of files";
      case EMPTY -> "no values";
    };
  }
}
