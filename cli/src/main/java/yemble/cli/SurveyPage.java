package yemble.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.moment.Now;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.survey.Finding;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;

/**
 * A page with everything that the surveys of a project have found. Holds names, counts and reasons,
 * never a value.
 */
final class SurveyPage {
  /** What is decided of a database. */
  private record Decided(RegisterView view, Register register, Kinds kinds) {}

  private SurveyPage() {}

  /** The page of all databases of a project that have been surveyed. */
  static String of(Project project, Path state) {
    List<Object> surveyed = new ArrayList<>();
    for (Database database : project.databases().values()) {
      SurveyState.last(state, database.name())
          .ifPresent(kept -> surveyed.add(object(project, database, kept)));
    }
    String moment = SurveyView.moment(Now.moment());
    return Page.of(
        "survey",
        "Personal data, surveyed " + moment,
        Map.of("moment", moment),
        surveyed,
        Page.Library.CHART);
  }

  private static Object object(Project project, Database database, SurveyState.Kept kept) {
    Path register = project.directory().resolve(database.register());
    Decided decided =
        new Decided(
            new RegisterView(project, database),
            Files.exists(register)
                ? Register.read(register, database.register())
                : new Register(List.of()),
            project.conventions().kinds());
    return Json.object(
        "database", database.name(),
        "environment", database.environment().toString(),
        "at", SurveyView.moment(kept.at()),
        "tables", Json.list(kept.tables(), table -> table(table, decided)));
  }

  private static Object table(Survey.TableResult table, Decided decided) {
    return Json.object(
        "table", table.table(),
        "rows", table.size(),
        "columns", Json.list(table.findings(), finding -> column(finding, decided)));
  }

  private static Object column(Finding finding, Decided decided) {
    RegisterLine line = decided.register().line(finding.name());
    String kind = line == null || line.kind().isEmpty() ? finding.kind() : line.kind();
    boolean open = line == null || decided.view().isOpen(line);
    return Json.object(
        "column",
        finding.path().isEmpty()
            ? finding.column().column()
            : finding.column().column() + " " + finding.path(),
        "type",
        finding.type(),
        "kind",
        kind,
        "category",
        decided.kinds().of(kind).map(Kind::category).map(Object::toString).orElse(""),
        "sure",
        Math.round(finding.confidence() * 100),
        "decision",
        open ? "open" : line.decision().toString(),
        "by",
        line == null ? "" : line.by(),
        "evidence",
        finding.evidence());
  }
}
