package yemble.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.kind.Kinds;
import yemble.core.moment.Now;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.LinkRule;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.survey.Definitions;

/** Decides in a register: for columns, and for those that are linked to them. */
final class Decider {
  private final Project project;
  private final Database database;
  private final Schema schema;
  private final List<Link> links = new ArrayList<>();
  private Register register;

  Decider(CommonOptions common, Project project, Database database) {
    this.project = project;
    this.database = database;
    this.schema = Source.schema(common, project, database);
    this.register = RegisterCommand.read(project, database);
    links.addAll(schema.foreignKeys());
    for (LinkRule rule : project.links()) {
      links.add(new Lookup(schema).link(rule.link(), rule.condition(), rule.place().toString()));
    }
  }

  RegisterView view() {
    return new RegisterView(project, database);
  }

  Register register() {
    return register;
  }

  Schema schema() {
    return schema;
  }

  Kinds kinds() {
    return project.conventions().kinds();
  }

  /** A line as somebody decides it now. */
  RegisterLine decided(RegisterLine line, Decision decision, String kind, String reason) {
    if (decision == Decision.MASK && line.column().startsWith(Definitions.PREFIX)) {
      throw Problem.of(Failure.DECISION, "a definition cannot be masked")
          .at(line.column())
          .because("the target gets it as the source has it")
          .remedy("take the text out of it in the source, or keep it with a reason");
    }
    if (decision == Decision.KEEP && !kind.isEmpty() && reason.isBlank()) {
      throw Problem.of(
              Failure.DECISION,
              line.column() + " looks personal (" + kind + "): say why it is kept")
          .because("an auditor will ask")
          .remedy("add --reason \"…\"");
    }
    return current(line)
        .decided(decision, kind, System.getProperty("user.name"), Now.day().toString(), reason);
  }

  /** Whether a line was decided when its column had another type: then it is open again. */
  boolean isRetyped(RegisterLine line) {
    return !line.type().isEmpty() && !current(line).type().equalsIgnoreCase(line.type());
  }

  /** A line with the type that its column has now: that is what is decided on. */
  private RegisterLine current(RegisterLine line) {
    if (!line.path().isEmpty()) {
      return line;
    }
    for (Table table : schema.tables()) {
      for (Column column : table.columns()) {
        if (table.name(column).toString().equalsIgnoreCase(line.column())) {
          return line.typed(column.type());
        }
      }
    }
    return line;
  }

  /** The columns of a table that the register has no line of, as lines that nobody decided on. */
  List<RegisterLine> missing(String table) {
    List<RegisterLine> missing = new ArrayList<>();
    for (Table known : schema.tables()) {
      for (Column column : known.columns()) {
        String name = known.name(column).toString();
        boolean named =
            known.name().toString().equalsIgnoreCase(table) || name.equalsIgnoreCase(table);
        if (named && register.line(name) == null) {
          missing.add(RegisterLine.undecided(name, column.type()));
        }
      }
    }
    return missing;
  }

  /** Adds the lines for columns that are linked to decided ones. */
  Map<RegisterLine, RegisterLine> withLinked(Map<RegisterLine, RegisterLine> decisions) {
    Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>(decisions);
    Set<RegisterLine> pending = new LinkedHashSet<>(decided.keySet());
    while (!pending.isEmpty()) {
      RegisterLine line = pending.iterator().next();
      pending.remove(line);
      RegisterLine as = decided.get(line);
      for (String name : linked(line.column())) {
        RegisterLine other = register.line(name);
        if (other != null && !decided.containsKey(other)) {
          decided.put(
              other,
              current(other)
                  .decided(
                      as.decision(), as.kind(), as.by(), as.on(), "linked to " + line.column()));
          pending.add(other);
        }
      }
    }
    return decided;
  }

  private Set<String> linked(String column) {
    Set<String> linked = new LinkedHashSet<>();
    for (Link link : links) {
      for (int i = 0; i < link.childColumns().size(); i++) {
        String child = name(link.child(), link.childColumns().get(i));
        String parent = name(link.parent(), link.parentColumns().get(i));
        if (child.equals(column)) {
          linked.add(parent);
        } else if (parent.equals(column)) {
          linked.add(child);
        }
      }
    }
    return linked;
  }

  private String name(TableName table, String column) {
    return schema.table(table).name(schema.table(table).column(column).orElseThrow()).toString();
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
