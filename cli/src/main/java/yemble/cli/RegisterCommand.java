package yemble.cli;

import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.Predicate;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.kind.Category;
import yemble.core.kind.Kinds;
import yemble.core.plan.ColumnRules;
import yemble.core.plan.Gate;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/** The reviewed list of columns. */
@Command(
    name = "register",
    description = {
      "List the register, or decide in it.",
      "A decision on a column holds for the columns that are linked to it, too."
    },
    subcommands = {
      RegisterReview.class,
      RegisterDecisions.Mask.class,
      RegisterDecisions.Keep.class,
      RegisterDecisions.Accept.class
    },
    footer = {
      "%nExamples:",
      "  yemble register --open                          what is still to be decided",
      "  yemble register --kind email --table passenger  filters may be combined",
      "  yemble register --since 2026-11-01              what was decided since",
      "  yemble register review                          decide one after another, with the evidence",
      "  yemble register mask booking.reference          lose all but the shape",
      "  yemble register mask crew.nick --as given-name",
      "  yemble register keep 'vessel.*' --reason 'a ship is not a person'",
      "  yemble register accept --above 0.8              suggestions that survey is sure of",
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

  @Option(names = "--undecided", description = "only what nobody has decided on")
  boolean undecided;

  @Option(names = "--found", description = "only columns of a kind")
  boolean found;

  @Option(names = "--kind", paramLabel = "KIND", description = "only columns of this kind")
  String kind = "";

  @Option(
      names = "--category",
      paramLabel = "CATEGORY",
      description = "only kinds of this category")
  String category = "";

  @Option(names = "--table", paramLabel = "TABLE", description = "only columns of this table")
  String table = "";

  @Option(
      names = "--since",
      paramLabel = "DAY",
      description = "only what was decided on this day or later (2026-11-23)")
  String since = "";

  @Option(
      names = "--confidence-below",
      paramLabel = "0..1",
      description = "only what survey is less sure of")
  Double below;

  @Option(
      names = "--check",
      description = "compare with the database; exit code 1 if anything is open")
  boolean check;

  private RegisterView view;

  @Override
  public Integer call() {
    Project project = common.read();
    Database database = Source.of(project, from);
    Register register = read(project, database);
    if (check) {
      return check(project, database, register);
    }
    RegisterDecisions.checkTable(register, table);
    view = new RegisterView(project, database);
    Predicate<RegisterLine> filter = filter(project.conventions().kinds());
    List<RegisterLine> lines = register.lines().stream().filter(filter).toList();
    Output output = common.output;
    if (common.json) {
      json(register, lines);
    } else {
      output.line(
          "Register of "
              + output.paint(Output.Tone.STRONG, database.title())
              + ", "
              + database.register());
      view.print(output, lines);
      output.line();
      if (lines.size() < register.lines().size()) {
        output.line(Output.counted(lines.size(), "line") + " shown.");
      }
      output.line(view.summary(register));
      output.flush();
    }
    return 0;
  }

  private Predicate<RegisterLine> filter(Kinds kinds) {
    List<Predicate<RegisterLine>> all = new ArrayList<>();
    all.add(l -> !open || view.isOpen(l));
    all.add(l -> !undecided || l.decision() == Decision.UNDECIDED);
    all.add(l -> !found || !l.kind().isEmpty());
    if (!kind.isEmpty()) {
      String wanted = kinds.known(kind).name();
      all.add(l -> l.kind().equals(wanted));
    }
    if (!category.isEmpty()) {
      Category wanted = category(category);
      all.add(l -> kinds.of(l.kind()).filter(k -> k.category() == wanted).isPresent());
    }
    if (!table.isEmpty()) {
      all.add(l -> l.table().equalsIgnoreCase(table));
    }
    if (!since.isEmpty()) {
      LocalDate day = day(since);
      all.add(l -> !l.on().isEmpty() && l.on().compareTo(day.toString()) >= 0);
    }
    if (below != null) {
      all.add(l -> l.sure() < below);
    }
    return all.stream().reduce(l -> true, Predicate::and);
  }

  private static Category category(String word) {
    return Arrays.stream(Category.values())
        .filter(c -> c.toString().equals(word))
        .findFirst()
        .orElseThrow(
            () ->
                Problem.of(Failure.CATEGORY_UNKNOWN, "unknown category \"" + word + "\"")
                    .remedy(
                        Nearest.hint(
                            word,
                            Arrays.stream(Category.values()).map(Category::toString).toList())));
  }

  private static LocalDate day(String word) {
    try {
      return LocalDate.parse(word);
    } catch (DateTimeParseException e) {
      throw Problem.of(Failure.OPTION, "--since takes a day, written as 2026-11-23")
          .because("\"" + word + "\" is none");
    }
  }

  private void json(Register register, List<RegisterLine> lines) {
    common.output.json(
        Json.object("open", view.open(register), "columns", Json.list(lines, this::object)));
  }

  private Object object(RegisterLine line) {
    boolean number = line.confidence().matches("[01](\\.[0-9]+)?");
    return Json.object(
        "column", line.column(),
        "type", Json.text(line.type()),
        "kind", Json.text(line.kind()),
        "decision", line.decision().toString(),
        "open", view.isOpen(line),
        "confidence", number ? new java.math.BigDecimal(line.confidence()) : null,
        "masked_by", view.masking(line).map(ColumnRules.Ruled::words).orElse(null),
        "evidence", Json.text(line.evidence()),
        "by", Json.text(line.by()),
        "on", Json.text(line.on()),
        "reason", Json.text(line.reason()));
  }

  private int check(Project project, Database database, Register register) {
    List<Sentence> open;
    try (Reader reader = Source.open(common, project, database)) {
      open = Gate.open(reader.schema(), register, Gate.Terms.of(project, database));
    }
    if (common.json) {
      common.output.json(
          Json.object(
              "from",
              Json.database(database),
              "open",
              (long) open.size(),
              "says",
              Json.list(open, Sentence::toString)));
    } else {
      common.output.line("Register of " + database.title() + ", compared with the database");
      open.forEach(line -> common.output.line("  " + line));
      common.output.line(
          open.isEmpty()
              ? "Nothing is open."
              : Output.counted(open.size(), "column")
                  + " open. Next: yemble register review, after yemble survey if any is new");
      common.output.flush();
    }
    return open.isEmpty() ? 0 : 1;
  }

  static Register read(Project project, Database database) {
    Path file = project.directory().resolve(database.register());
    return Register.read(file, database.register());
  }
}
