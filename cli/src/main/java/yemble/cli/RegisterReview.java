package yemble.cli;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.store.Reader;
import yemble.core.survey.Finding;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;

/** Decides one column after another at the terminal. */
@Command(
    name = "review",
    description = {
      "Decide what is open, one column after another, with the evidence on screen.",
      "Every answer is written at once: leave when you like, and go on later."
    },
    footer = {"%nExamples:", "  yemble register review", "  yemble register review --table crew"})
final class RegisterReview implements Callable<Integer> {
  private static final String HELP =
      "a accept  m mask  k keep  o other kind  t rest of the table  v values  s skip  u undo  q quit";

  private static final int VALUES = 4;
  private static final int VALUES_FROM = 200;

  @Mixin CommonOptions common;

  @Option(
      names = "--from",
      paramLabel = "NAME",
      description = "the database, if several are read from")
  String from = "";

  @Option(names = "--table", paramLabel = "TABLE", description = "only columns of this table")
  String table = "";

  @Option(
      names = "--all",
      description = "also what survey has decided itself, not only what is open")
  boolean all;

  private Project project;
  private Database database;
  private Decider decider;
  private Output output;
  private final Map<String, Finding> findings = new HashMap<>();
  private final Deque<Step> done = new ArrayDeque<>();
  private String lastReason = "";
  private int settled;

  /** An answer that can be taken back: the register before it, and where it was given. */
  private record Step(Register before, int position, int settled) {}

  @Override
  public Integer call() throws IOException {
    Project read = common.read();
    Database source = Source.of(read, from);
    if (!common.output.terminal().input()) {
      throw Problem.of(Failure.NOT_CONFIRMED, "there is no terminal to ask on")
          .because("review asks for one column after another")
          .remedy(
              "in scripts: yemble register accept, yemble register mask|keep COLUMN --reason …");
    }
    try (Keys keys = Keys.ofTerminal()) {
      review(read, source, keys);
    }
    return 0;
  }

  void review(Project of, Database source, Keys keys) {
    project = of;
    database = source;
    output = common.output;
    decider = new Decider(common, project, database);
    Path state = project.directory().resolve(Project.STATE);
    SurveyState.last(state, database.name())
        .ifPresent(
            kept ->
                kept.tables().forEach(t -> t.findings().forEach(f -> findings.put(f.name(), f))));
    List<String> columns =
        decider.register().lines().stream()
            .filter(this::isWanted)
            .map(RegisterLine::column)
            .toList();
    output.line("Review of " + output.paint(Output.Tone.STRONG, database.title()));
    int position = 0;
    RegisterDecisions.checkTable(decider.register(), table);
    while (position >= 0 && position < columns.size()) {
      RegisterLine line = decider.register().line(columns.get(position));
      if (isWanted(line)) {
        position = ask(line, position, columns, keys);
      } else {
        position++;
      }
    }
    output.line();
    output.line(
        Output.counted(settled, "column")
            + " decided. "
            + decider.view().summary(decider.register())
            + (decider.view().open(decider.register()) == 0
                ? " Next: yemble run --dry"
                : " Go on with: yemble register review"));
    output.flush();
  }

  private boolean isWanted(RegisterLine line) {
    return (decider.view().isOpen(line) || decider.isRetyped(line) || (all && !line.byPerson()))
        && (table.isEmpty() || RegisterDecisions.tableOf(line).equalsIgnoreCase(table));
  }

  /** Asks for one column; the position to go on at, or -1 to end. */
  private int ask(RegisterLine line, int position, List<String> columns, Keys keys) {
    long left = columns.stream().map(decider.register()::line).filter(this::isWanted).count();
    output.line();
    output.line(
        output.paint(Output.Tone.STRONG, line.column())
            + (line.type().isEmpty() ? "" : "  " + line.type())
            + output.paint(Output.Tone.FAINT, "   " + Output.number(left) + " to go"));
    SurveyView view = new SurveyView(output, decider.kinds(), decider.view());
    Finding finding = findings.get(line.column());
    if (finding != null) {
      view.evidence(finding, line);
    } else {
      output.line("    " + line.kind() + " " + line.evidence());
    }
    while (true) {
      output.line("  " + output.paint(Output.Tone.FAINT, HELP));
      output.flush();
      int key = keys.key();
      switch (Character.toLowerCase(key)) {
        case 'a', '\r', '\n' -> {
          if (suggests(line)) {
            return decide(line, RegisterDecisions.Accept.suggestion(decider, line), position);
          }
          say("survey suggests nothing here: m masks it by its shape, k keeps it");
        }
        case 'm' -> {
          return decide(line, decider.decided(line, Decision.MASK, line.kind(), ""), position);
        }
        case 'k' -> {
          return keep(Map.of(line, line), position, keys);
        }
        case 'o' -> {
          String kind = kind(keys);
          if (!kind.isEmpty()) {
            return decide(line, decider.decided(line, Decision.MASK, kind, ""), position);
          }
        }
        case 't' -> {
          return keep(openOf(line), position, keys);
        }
        case 'v' -> values(line);
        case 's', ' ' -> {
          return position + 1;
        }
        case 'u' -> {
          if (!done.isEmpty()) {
            Step step = done.pop();
            decider.put(step.before());
            settled = step.settled();
            say("taken back");
            return step.position();
          }
          say("there is nothing to take back");
        }
        case 'q', -1, 3, 4 -> {
          return -1;
        }
        default -> say("press one of these keys:");
      }
    }
  }

  /** Shows some values of the column, since somebody asks for them. */
  private void values(RegisterLine line) {
    try (Reader reader = Source.open(common, project, database)) {
      String table = RegisterDecisions.tableOf(line);
      Survey.of(
              reader,
              () -> Source.open(common, project, database),
              database.name(),
              project.conventions(),
              new Survey.Options(
                  VALUES_FROM,
                  Duration.ofSeconds(30),
                  1,
                  VALUES,
                  project.asOf(),
                  t -> t.name().toString().equals(table)),
              SurveyState.none(),
              t -> {})
          .stream()
          .flatMap(result -> result.findings().stream())
          .filter(finding -> finding.name().equals(line.column()))
          .forEach(
              finding -> {
                List<String> shown = new ArrayList<>(finding.examples().accepted());
                shown.addAll(finding.examples().refused());
                say(shown.isEmpty() ? "no values" : String.join(" · ", shown));
              });
    }
  }

  private void say(String text) {
    output.line("  " + text);
  }

  private static boolean suggests(RegisterLine line) {
    return RegisterDecisions.confidence(line) >= 0.5;
  }

  private String kind(Keys keys) {
    String kind = keys.line("  kind: ");
    if (kind.isEmpty() || decider.kinds().of(kind).isPresent()) {
      return kind;
    }
    say("unknown kind; " + Nearest.hint(kind, decider.kinds().names()));
    return "";
  }

  /** The open columns of the same table. */
  private Map<RegisterLine, RegisterLine> openOf(RegisterLine line) {
    Map<RegisterLine, RegisterLine> open = new LinkedHashMap<>();
    for (RegisterLine other : decider.register().lines()) {
      if (isWanted(other)
          && RegisterDecisions.tableOf(other).equals(RegisterDecisions.tableOf(line))) {
        open.put(other, other);
      }
    }
    return open;
  }

  private int keep(Map<RegisterLine, RegisterLine> lines, int position, Keys keys) {
    String question =
        "  keep "
            + (lines.size() == 1
                ? lines.keySet().iterator().next().column()
                : Output.counted(lines.size(), "column"))
            + ", because"
            + (lastReason.isEmpty() ? "" : " [" + lastReason + "]")
            + ": ";
    String reason = keys.line(question);
    reason = reason.isEmpty() ? lastReason : reason;
    if (reason.isEmpty() && lines.keySet().stream().anyMatch(l -> !l.kind().isEmpty())) {
      say("it looks personal, so that an auditor will ask why it is kept");
      return position;
    }
    lastReason = reason;
    Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
    for (RegisterLine line : lines.keySet()) {
      decided.put(line, decider.decided(line, Decision.KEEP, line.kind(), reason));
    }
    return write(decided, position);
  }

  private int decide(RegisterLine before, RegisterLine after, int position) {
    return write(Map.of(before, after), position);
  }

  private int write(Map<RegisterLine, RegisterLine> decided, int position) {
    done.push(new Step(decider.register(), position, settled));
    Map<RegisterLine, RegisterLine> linked = decider.withLinked(decided);
    decider.write(linked);
    settled += linked.size();
    linked
        .values()
        .forEach(
            line ->
                say(
                    output.paint(
                        Output.Tone.GOOD,
                        line.decision()
                            + " "
                            + line.column()
                            + (line.kind().isEmpty() || line.decision() == Decision.KEEP
                                ? ""
                                : " as " + line.kind()))));
    return position + 1;
  }
}
