package yemble.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import java.util.regex.Pattern;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;

/** The commands that decide in the register, many lines at once. */
final class RegisterDecisions {
  private RegisterDecisions() {}

  /**
   * The table that lines are wanted of.
   *
   * @throws Problem of type USAGE if the register has none of this name
   */
  static void checkTable(Register register, String table) {
    Set<String> known = new TreeSet<>();
    register.lines().forEach(line -> known.add(line.table()));
    if (!table.isEmpty() && known.stream().noneMatch(table::equalsIgnoreCase)) {
      throw Problem.of(Failure.TABLE_UNKNOWN, "the register has no table " + table)
          .remedy(Nearest.hint(table, List.copyOf(known)));
    }
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
    abstract Map<RegisterLine, RegisterLine> decide(Decider decider);

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
      Decider decider = new Decider(common, project, database);
      Map<RegisterLine, RegisterLine> decided = decide(decider);
      if (decided.isEmpty() && !mayBeNothing()) {
        throw Problem.of(Failure.COLUMN_UNKNOWN, "that names no column of the register")
            .at(database.register())
            .remedy("see them with: yemble register --open");
      }
      if (followsLinks()) {
        decided = decider.rules().withLinked(decided, decider.register());
      }
      decider.write(decided);
      print(database, decider, decided);
      return 0;
    }

    private void print(
        Database database, Decider decider, Map<RegisterLine, RegisterLine> decided) {
      Output output = common.output;
      if (common.json) {
        output.json(
            Json.object(
                "decided", decided.size(), "open", decider.view().open(decider.register())));
      } else {
        output.line(
            "Decided in the register of " + output.paint(Output.Tone.STRONG, database.title()));
        decider.view().print(output, decided.values());
        output.line();
        output.line(decider.view().summary(decider.register()));
        output.flush();
      }
    }
  }

  /** The columns that a decision names. */
  static final class Which {
    @Parameters(
        paramLabel = "COLUMN",
        arity = "0..*",
        description = {
          "columns (table.column), paths (\"table.column $.path\"), whole tables,",
          "or patterns of names ('*.email', 'audit_*')"
        })
    List<String> names = List.of();

    @Option(names = "--kind", paramLabel = "KIND", description = "all columns of this kind")
    String kind = "";

    @Option(names = "--open", description = "all that is open, or of the others what is open")
    boolean open;

    List<RegisterLine> of(Decider decider) {
      List<RegisterLine> lines = new ArrayList<>();
      for (String name : names) {
        lines.addAll(named(name, decider));
      }
      if (names.isEmpty() && (open || !kind.isEmpty())) {
        lines.addAll(decider.register().lines());
      }
      RegisterView view = decider.view();
      String wanted = kind.isEmpty() ? "" : decider.kinds().known(kind).name();
      return lines.stream()
          .filter(l -> wanted.isEmpty() || l.kind().equals(wanted))
          // What is to be masked, and lacks a mask, is not to be kept by the way.
          .filter(l -> !open || (view.isOpen(l) && l.decision() != Decision.MASK))
          .toList();
    }

    private static List<RegisterLine> named(String name, Decider decider) {
      Pattern pattern = pattern(name);
      List<RegisterLine> named = new ArrayList<>();
      for (RegisterLine line : decider.register().lines()) {
        boolean path = !line.path().isEmpty() && !name.contains("$");
        if ((pattern.matcher(line.column()).matches() && !path)
            || pattern.matcher(line.table()).matches()) {
          named.add(line);
        }
      }
      if (name.indexOf('*') < 0) {
        named.addAll(decider.rules().missing(name, decider.register()));
      }
      if (named.isEmpty()) {
        throw Problem.of(Failure.COLUMN_UNKNOWN, "the register has no column or table " + name)
            .remedy(
                Nearest.hint(
                    name, decider.register().lines().stream().map(RegisterLine::column).toList()));
      }
      return named;
    }

    /**
     * A name in which a star stands for any letters, whatever their case; that of a path is one.
     */
    private static Pattern pattern(String name) {
      StringBuilder pattern = new StringBuilder();
      boolean path = name.contains("$");
      for (String part : path ? new String[] {name} : name.split("\\*", -1)) {
        pattern.append(pattern.isEmpty() ? "" : ".*").append(Pattern.quote(part));
      }
      String all = !path && name.startsWith("*") ? ".*" + pattern : pattern.toString();
      return Pattern.compile(all, Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    }
  }

  /** Decides that columns are masked. */
  @Command(
      name = "mask",
      description = "Decide that columns are masked, as the kind they have or another one.",
      footer = {
        "%nExamples:",
        "  yemble register mask passenger.nick --as given-name",
        "  yemble register mask '*.email' --as email",
        "  yemble register mask --kind email",
        "  yemble register mask booking.reference       without a kind: lose all but the shape"
      })
  static final class Mask extends Deciding {
    @Mixin Which which;

    @Option(names = "--as", paramLabel = "KIND", description = "the kind; default: the one it has")
    String as = "";

    @Option(names = "--reason", paramLabel = "TEXT", description = "why")
    String reason = "";

    @Override
    boolean mayBeNothing() {
      return which.open;
    }

    @Override
    Map<RegisterLine, RegisterLine> decide(Decider decider) {
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
      String kind = as.isEmpty() ? "" : decider.kinds().known(as).name();
      for (RegisterLine line : which.of(decider)) {
        decided.put(
            line,
            decider
                .rules()
                .decided(line, Decision.MASK, kind.isEmpty() ? line.kind() : kind, reason));
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

    @Option(
        names = "--reason",
        paramLabel = "TEXT",
        description = "why; needed for columns that look personal")
    String reason = "";

    @Override
    boolean mayBeNothing() {
      return which.open;
    }

    @Override
    Map<RegisterLine, RegisterLine> decide(Decider decider) {
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
      for (RegisterLine line : which.of(decider)) {
        decided.put(line, decider.rules().decided(line, Decision.KEEP, line.kind(), reason));
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

    @Option(
        names = "--all",
        description = "also what survey has decided itself, so that it is a person's decision")
    boolean all;

    @Override
    boolean mayBeNothing() {
      return true;
    }

    @Override
    boolean followsLinks() {
      return false;
    }

    @Override
    Map<RegisterLine, RegisterLine> decide(Decider decider) {
      Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
      RegisterView view = decider.view();
      for (RegisterLine line : decider.register().lines()) {
        boolean surveys = all && line.by().equals(RegisterLine.SURVEY);
        boolean open = view.isOpen(line) && line.decision() != Decision.MASK;
        if ((open || surveys) && line.sure() >= above) {
          decided.put(line, decider.rules().suggested(line));
        }
      }
      return decided;
    }
  }
}
