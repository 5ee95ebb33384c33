package yemble.core.survey;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

/**
 * Brings findings into a register. What a person decided stays; lines of survey's own are made
 * anew; columns that are gone lose their line.
 *
 * @param register the new register
 * @param added columns that had no line
 * @param removed lines of columns that are gone
 * @param retyped columns that a person decided on when they had another type
 * @param contradicted columns of which a person said another kind than the data now does
 */
public record Merge(
    Register register,
    List<String> added,
    List<String> removed,
    List<String> retyped,
    List<String> contradicted) {
  /**
   * Merges findings into a register.
   *
   * @param before null if there is none yet
   * @param definitions those of the schema that hold something personal
   * @param day today, as the register writes it
   * @param people whether survey decides nothing itself
   */
  public static Merge of(
      Register before,
      List<Finding> findings,
      List<Definitions.Found> definitions,
      String day,
      boolean people) {
    Map<String, RegisterLine> old = new HashMap<>();
    if (before != null) {
      before.lines().forEach(line -> old.put(line.column().toLowerCase(Locale.ROOT), line));
    }
    List<RegisterLine> lines = new ArrayList<>();
    List<String> added = new ArrayList<>();
    List<String> retyped = new ArrayList<>();
    List<String> contradicted = new ArrayList<>();
    for (Finding finding : findings) {
      RegisterLine line = old.remove(finding.name().toLowerCase(Locale.ROOT));
      if (line == null) {
        added.add(finding.name());
      } else if (line.byPerson()) {
        lines.add(line);
        if (!line.type().isEmpty() && !line.type().equalsIgnoreCase(finding.type())) {
          retyped.add(finding.name());
        }
        if (finding.sure() && !finding.kind().isEmpty() && !finding.kind().equals(line.kind())) {
          contradicted.add(finding.name());
        }
        continue;
      }
      lines.add(line(finding, day, people));
    }
    for (Definitions.Found definition : definitions) {
      RegisterLine line = old.remove(definition.name().toLowerCase(Locale.ROOT));
      if (line == null) {
        added.add(definition.name());
      }
      lines.add(line != null && line.byPerson() ? line : line(definition));
    }
    old.values().stream().filter(l -> !l.path().isEmpty() && l.byPerson()).forEach(lines::add);
    List<String> removed =
        old.values().stream()
            .filter(l -> l.path().isEmpty() || !l.byPerson())
            .map(RegisterLine::column)
            .sorted()
            .toList();
    return new Merge(new Register(lines), added, removed, retyped, contradicted);
  }

  private static RegisterLine line(Definitions.Found definition) {
    return new RegisterLine(
        definition.name(),
        "",
        definition.kind(),
        Decision.UNDECIDED,
        "",
        definition.texts() == 1 ? "a text in it" : definition.texts() + " texts in it",
        "",
        "",
        "",
        0);
  }

  private static RegisterLine line(Finding finding, String day, boolean people) {
    boolean decided = !people && finding.decision() != Decision.UNDECIDED;
    return new RegisterLine(
        finding.name(),
        finding.type(),
        finding.kind(),
        decided ? finding.decision() : Decision.UNDECIDED,
        finding.confidence() == 0 ? "" : String.format(Locale.ROOT, "%.2f", finding.confidence()),
        finding.evidence(),
        decided ? RegisterLine.SURVEY : "",
        decided ? day : "",
        "",
        0);
  }
}
