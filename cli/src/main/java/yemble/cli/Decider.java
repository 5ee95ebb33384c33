package yemble.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import yemble.core.kind.Kinds;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.survey.Decisions;

/** A register that somebody decides in, with the rules of it and the file it stands in. */
final class Decider {
  private final Project project;
  private final Database database;
  private final Decisions rules;
  private Register register;

  Decider(CommonOptions common, Project project, Database database) {
    this.project = project;
    this.database = database;
    this.rules =
        new Decisions(
            Source.schema(common, project, database),
            project.links(),
            System.getProperty("user.name"));
    this.register = RegisterCommand.read(project, database);
  }

  RegisterView view() {
    return new RegisterView(project, database);
  }

  Register register() {
    return register;
  }

  Decisions rules() {
    return rules;
  }

  Kinds kinds() {
    return project.conventions().kinds();
  }

  /** Writes decided lines in the places of those before; lines that are new go to the end. */
  void write(Map<RegisterLine, RegisterLine> decided) {
    List<RegisterLine> lines = new ArrayList<>();
    for (RegisterLine line : register.lines()) {
      lines.add(decided.getOrDefault(line, line));
    }
    decided.forEach(
        (before, after) -> {
          if (register.line(before.column()) == null) {
            lines.add(after);
          }
        });
    put(new Register(lines));
  }

  /** Writes a register as it stands. */
  void put(Register after) {
    after.write(file());
    register = after;
  }

  private Path file() {
    return project.directory().resolve(database.register());
  }
}
