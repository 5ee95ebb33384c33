package yemble.core.survey;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
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
  /** How telling the values of a kind are, so that a column without them is none. */
  private static final double TELLING = 0.85;

  private static final int ENOUGH = 20;

  /**
   * Merges findings into a register.
   *
   * @param before null if there is none yet
   * @param definitions those of the schema that hold something personal
   * @param day today, as the register writes it
   * @param people whether survey decides nothing itself
   * @param kinds all that are known
   */
  public static Merge of(
      Register before,
      List<Finding> findings,
      List<Definitions.Found> definitions,
      String day,
      boolean people,
      Kinds kinds) {
    Set<String> telling =
        kinds.all().stream()
            .filter(kind -> kind.look().telling() >= TELLING)
            .map(Kind::name)
            .collect(Collectors.toSet());
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
        if (contradicts(finding, line, telling)) {
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

  /**
   * Whether the data says otherwise than a person did: it is surely of another kind, or shows
   * nothing of one that could not be overlooked.
   */
  private static boolean contradicts(Finding finding, RegisterLine line, Set<String> telling) {
    if (finding.kind().equals(line.kind())) {
      return false;
    }
    boolean another = finding.sure() && finding.isPersonal();
    boolean gone =
        telling.contains(line.kind())
            && finding.sampled() >= ENOUGH
            && finding.others().stream().noneMatch(other -> other.kind().equals(line.kind()));
    return another || gone;
  }

  private static RegisterLine line(Definitions.Found definition) {
    return new RegisterLine(
        definition.name(),
        "",
        definition.kind(),
        Decision.UNDECIDED,
        "",
        (definition.texts() == 1
                ? SurveyWording.ONE_TEXT.of()
                : SurveyWording.TEXTS.of(definition.texts()))
            .toString(),
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
