package yemble.cli;

import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.mask.Kinds;
import yemble.core.plan.Gate;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.LinkRule;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.schema.Link;
import yemble.core.schema.Lookup;
import yemble.core.schema.Schema;
import yemble.core.store.Reader;
import yemble.core.survey.Definitions;

/** The reviewed list of columns. */
@Command(
    name = "register",
    description = {
      "List the register, or decide in it.",
      "A decision on a column holds for the columns that are linked to it, too."
    },
    subcommands = {
      RegisterCommand.Mask.class,
      RegisterCommand.Keep.class,
      RegisterCommand.Accept.class
    },
    footer = {
      "%nExamples:",
      "  yemble register --open                          what is still to be decided",
      "  yemble register mask booking.reference          lose all but the shape",
      "  yemble register mask crew.nick --as given-name",
      "  yemble register keep vessel.name --reason 'a ship is not a person'",
      "  yemble register accept                          all suggestions of survey at once",
      "  yemble register --check                         exit code 1 while something is open"
    })
final class RegisterCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Option(
      names = "--from",
      paramLabel = "NAME",
      description = "the database, if several are read from")
  String from = "";

  @Option(names = "--open", description = "only what is open")
  boolean open;

  @Option(names = "--found", description = "only columns of a kind")
  boolean found;

  @Option(names = "--kind", paramLabel = "KIND", description = "only columns of this kind")
  String kind = "";

  @Option(names = "--table", paramLabel = "TABLE", description = "only columns of this table")
  String table = "";

  @Option(
      names = "--check",
      description = "compare with the database; exit code 1 if anything is open")
  boolean check;

  @Override
  public Integer call() {
    Project project = common.read();
    Database database = Source.of(project, from);
    Register register = read(project, database);
    if (check) {
      return check(project, database, register);
    }
    List<RegisterLine> lines =
        register.lines().stream()
            .filter(l -> !open || RegisterView.isOpen(l))
            .filter(l -> !found || !l.kind().isEmpty())
            .filter(l -> kind.isEmpty() || l.kind().equals(known(kind)))
            .filter(l -> table.isEmpty() || tableOf(l).equalsIgnoreCase(table))
            .toList();
    Output output = common.output;
    if (common.json) {
      json(register, lines);
    } else {
      output.line("Register of " + output.paint(Output.Tone.STRONG, database.title()));
      RegisterView.print(output, lines);
      output.line();
      output.line(RegisterView.summary(register));
      output.flush();
    }
    return 0;
  }

  private void json(Register register, List<RegisterLine> lines) {
    common.output.json(
        json -> {
          json.writeStartObject();
          json.writeNumberField("open", RegisterView.open(register));
          json.writeArrayFieldStart("columns");
          for (RegisterLine line : lines) {
            json.writeStartObject();
            json.writeStringField("column", line.column());
            json.writeStringField("kind", line.kind());
            json.writeStringField("decision", line.decision().toString());
            json.writeStringField("by", line.by());
            json.writeStringField("on", line.on());
            json.writeStringField("reason", line.reason());
            json.writeEndObject();
          }
          json.writeEndArray();
          json.writeEndObject();
        });
  }

  private int check(Project project, Database database, Register register) {
    List<String> open;
    try (Reader reader = Source.open(common, project, database)) {
      open = Gate.open(reader.schema(), register, database.register());
    }
    if (common.json) {
      common.output.json(
          json -> {
            json.writeStartObject();
            json.writeArrayFieldStart("open");
            for (String line : open) {
              json.writeString(line);
            }
            json.writeEndArray();
            json.writeEndObject();
          });
    } else {
      common.output.line("Register of " + database.title() + ", compared with the database");
      open.forEach(line -> common.output.line("  " + line));
      common.output.line(
          open.isEmpty() ? "Nothing is open." : Output.counted(open.size(), "column") + " open.");
      common.output.flush();
    }
    return open.isEmpty() ? 0 : 1;
  }

  private static Register read(Project project, Database database) {
    return Register.read(project.directory().resolve(database.register()), database.register());
  }

  private static String tableOf(RegisterLine line) {
    String column = line.bareColumn();
    return column.substring(0, Math.max(0, column.lastIndexOf('.')));
  }

  private static String known(String kind) {
    if (!kind.isEmpty() && Kinds.of(kind).isEmpty()) {
      throw Problem.usage("unknown kind \"" + kind + "\"")
          .remedy(Nearest.hint(kind, Kinds.names()));
    }
    return kind;
  }

  /** What the deciding commands have in common. */
  abstract static class Deciding implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Option(
        names = "--from",
        paramLabel = "NAME",
        description = "the database, if several are read from")
    String from = "";

    /** The lines that a decision is about, with the new line of each. */
    abstract Map<RegisterLine, RegisterLine> decide(Register register);

    /** Whether it is no mistake if there is nothing to decide. */
    abstract boolean mayBeNothing();

    /** Whether linked columns are decided alike. */
    boolean followsLinks() {
      return true;
    }

    @Override
    public Integer call() {
      Project project = common.read();
      Database database = Source.of(project, from);
      Register register = read(project, database);
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>(decide(register));
      if (decided.isEmpty() && !mayBeNothing()) {
        throw Problem.usage("that names no column of the register")
            .at(database.register())
            .remedy("see them with: yemble register --open");
      }
      if (followsLinks()) {
        follow(project, database, register, decided);
      }
      List<RegisterLine> lines =
          register.lines().stream().map(line -> decided.getOrDefault(line, line)).toList();
      Register after = new Register(lines);
      Path file = project.directory().resolve(database.register());
      after.write(file);
      Output output = common.output;
      if (common.json) {
        output.json(
            json -> {
              json.writeStartObject();
              json.writeNumberField("decided", decided.size());
              json.writeNumberField("open", RegisterView.open(after));
              json.writeEndObject();
            });
      } else {
        output.line(
            "Decided in the register of " + output.paint(Output.Tone.STRONG, database.title()));
        RegisterView.print(output, decided.values());
        output.line();
        output.line(RegisterView.summary(after));
        output.flush();
      }
      return 0;
    }

    RegisterLine line(RegisterLine line, Decision decision, String kind, String reason) {
      if (decision == Decision.MASK && line.column().startsWith(Definitions.PREFIX)) {
        throw Problem.usage("a definition cannot be masked")
            .at(line.column())
            .because("the target gets it as the source has it")
            .remedy("take the text out of it in the source, or keep it with a reason");
      }
      if (decision == Decision.KEEP && !kind.isEmpty() && reason.isEmpty()) {
        throw Problem.usage(line.column() + " looks personal (" + kind + "): say why it is kept")
            .because("an auditor will ask")
            .remedy("add --reason \"…\"");
      }
      return line.decided(
          decision, kind, System.getProperty("user.name"), LocalDate.now().toString(), reason);
    }

    /** Decides alike for every column that is linked to one that is decided. */
    private void follow(
        Project project,
        Database database,
        Register register,
        Map<RegisterLine, RegisterLine> decided) {
      Schema schema = Source.schema(common, project, database);
      List<Link> links = new ArrayList<>(schema.foreignKeys());
      for (LinkRule rule : project.links()) {
        links.add(new Lookup(schema).link(rule.link(), rule.condition(), rule.place().toString()));
      }
      Set<RegisterLine> pending = new LinkedHashSet<>(decided.keySet());
      while (!pending.isEmpty()) {
        RegisterLine line = pending.iterator().next();
        pending.remove(line);
        RegisterLine as = decided.get(line);
        for (String name : linked(schema, links, line.column())) {
          RegisterLine other = register.line(name);
          if (other != null && !decided.containsKey(other)) {
            decided.put(
                other,
                other.decided(
                    as.decision(), as.kind(), as.by(), as.on(), "linked to " + line.column()));
            pending.add(other);
          }
        }
      }
    }

    private static Set<String> linked(Schema schema, List<Link> links, String column) {
      Set<String> linked = new LinkedHashSet<>();
      for (Link link : links) {
        for (int i = 0; i < link.childColumns().size(); i++) {
          String child = name(schema, link.child(), link.childColumns().get(i));
          String parent = name(schema, link.parent(), link.parentColumns().get(i));
          if (child.equals(column)) {
            linked.add(parent);
          } else if (parent.equals(column)) {
            linked.add(child);
          }
        }
      }
      return linked;
    }

    private static String name(Schema schema, yemble.core.name.TableName table, String column) {
      return schema.table(table).name(schema.table(table).column(column).orElseThrow()).toString();
    }
  }

  /** The columns that a decision names. */
  static final class Which {
    @Parameters(
        paramLabel = "COLUMN",
        arity = "0..*",
        description = "columns (table.column), paths (\"table.column $.path\") or whole tables")
    List<String> names = List.of();

    @Option(names = "--kind", paramLabel = "KIND", description = "all columns of this kind")
    String kind = "";

    @Option(names = "--open", description = "all that is open, or of the others what is open")
    boolean open;

    List<RegisterLine> of(Register register) {
      List<RegisterLine> lines = new ArrayList<>();
      for (String name : names) {
        List<RegisterLine> named =
            register.lines().stream()
                .filter(l -> l.column().equalsIgnoreCase(name) || tableOf(l).equalsIgnoreCase(name))
                .toList();
        if (named.isEmpty()) {
          throw Problem.usage("the register has no column or table " + name)
              .remedy(
                  Nearest.hint(name, register.lines().stream().map(RegisterLine::column).toList()));
        }
        lines.addAll(named);
      }
      if (names.isEmpty() && (open || !kind.isEmpty())) {
        lines.addAll(register.lines());
      }
      return lines.stream()
          .filter(l -> kind.isEmpty() || l.kind().equals(known(kind)))
          .filter(l -> !open || RegisterView.isOpen(l))
          .toList();
    }
  }

  /** Decides that columns are masked. */
  @Command(
      name = "mask",
      description = "Decide that columns are masked, as the kind they have or another one.",
      footer = {
        "%nExamples:",
        "  yemble register mask passenger.nick --as given-name",
        "  yemble register mask --kind email",
        "  yemble register mask booking.reference       without a kind: lose all but the shape"
      })
  static final class Mask extends Deciding {
    @Mixin Which which;

    @Override
    boolean mayBeNothing() {
      return which.open;
    }

    @Option(names = "--as", paramLabel = "KIND", description = "the kind; default: the one it has")
    String as = "";

    @Option(names = "--reason", paramLabel = "TEXT", description = "why")
    String reason = "";

    @Override
    Map<RegisterLine, RegisterLine> decide(Register register) {
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
      for (RegisterLine line : which.of(register)) {
        decided.put(
            line, line(line, Decision.MASK, as.isEmpty() ? line.kind() : known(as), reason));
      }
      return decided;
    }
  }

  /** Decides that columns are kept. */
  @Command(
      name = "keep",
      description = "Decide that columns are kept as they are.",
      footer = {
        "%nExamples:",
        "  yemble register keep vessel.name --reason 'a ship is not a person'",
        "  yemble register keep tariff",
        "  yemble register keep --open --reason 'reviewed with the data owner'"
      })
  static final class Keep extends Deciding {
    @Mixin Which which;

    @Override
    boolean mayBeNothing() {
      return which.open;
    }

    @Option(
        names = "--reason",
        paramLabel = "TEXT",
        description = "why; needed for columns that look personal")
    String reason = "";

    @Override
    Map<RegisterLine, RegisterLine> decide(Register register) {
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
      for (RegisterLine line : which.of(register)) {
        decided.put(line, line(line, Decision.KEEP, line.kind(), reason));
      }
      return decided;
    }
  }

  /** Accepts what survey suggests. */
  @Command(
      name = "accept",
      description = {
        "Accept what survey suggests: mask what it takes for a kind, keep what it takes for codes.",
        "Text that it knows nothing of stays open: somebody has to look at it."
      },
      footer = {"%nExample:", "  yemble register accept --above 0.6"})
  static final class Accept extends Deciding {
    @Option(
        names = "--above",
        paramLabel = "0..1",
        defaultValue = "0.5",
        description = "the least confidence (default: ${DEFAULT-VALUE})")
    double above;

    @Override
    boolean mayBeNothing() {
      return true;
    }

    @Override
    boolean followsLinks() {
      return false;
    }

    @Override
    Map<RegisterLine, RegisterLine> decide(Register register) {
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
      for (RegisterLine line : register.lines()) {
        if (!RegisterView.isOpen(line)) {
          continue;
        }
        double confidence = line.confidence().isEmpty() ? 0 : Double.parseDouble(line.confidence());
        if (confidence < above) {
          continue;
        }
        boolean mask = !line.kind().isEmpty();
        decided.put(
            line,
            line(
                line,
                mask ? Decision.MASK : Decision.KEEP,
                mask ? line.kind() : "",
                "as survey suggests: " + line.evidence()));
      }
      return decided;
    }
  }
}
