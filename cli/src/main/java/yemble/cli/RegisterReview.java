package yemble.cli;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
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
import yemble.core.survey.Question;
import yemble.core.survey.Survey;
import yemble.core.survey.SurveyState;

/** Decides at the terminal what is open: the most harmful first, what is alike at once. */
@Command(
    name = "review",
    description = {
      "Decide what is open, with the evidence on screen: what would do most harm comes first,",
      "columns that are alike are one question. Every answer is written at once: leave when you",
      "like, and go on later."
    },
    footer = {"%nExamples:", "  yemble register review", "  yemble register review --table crew"})
final class RegisterReview implements Callable<Integer> {
  private static final String ONE =
      "a accept  m mask  k keep  o other kind  t this table  v values  s skip  u take back  q quit";
  private static final String MANY =
      "k keep  m mask  o as a kind  x take some out  e one by one  l list all  s skip  u take back  q quit";
  private static final String MANY_SUGGESTED = "a accept  " + MANY;

  private static final Pattern NUMBERS = Pattern.compile("(\\d{1,6})(?:\\s*-\\s*(\\d{1,6}))?");
  private static final int VALUES = 4;
  private static final int VALUES_FROM = 200;

  /** More linked columns than this are decided alike only if somebody says so. */
  private static final int FEW_LINKED = 3;

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
  private QuestionView view;
  private final Map<String, Finding> findings = new HashMap<>();
  private final List<Question> questions = new ArrayList<>();
  private final Deque<Step> done = new ArrayDeque<>();
  private String lastReason = "";
  private int settled;

  /** An answer, or a question left, that can be taken back: how it was before it. */
  private record Step(Register before, List<Question> questions, int position, int settled) {}

  @Override
  public Integer call() throws IOException {
    Project read = common.read();
    Database source = Source.of(read, from);
    if (!common.output.terminal().input()) {
      throw Problem.of(Failure.NOT_CONFIRMED, "there is no terminal to ask on")
          .because("review asks one question after another")
          .remedy(
              "in scripts: yemble register accept, yemble register mask|keep COLUMN --reason …");
    }
    try (Keys keys = Keys.ofTerminal()) {
      review(read, source, keys, common.output);
    }
    return 0;
  }

  void review(Project of, Database source, Keys keys, Output to) {
    project = of;
    database = source;
    output = to;
    decider = new Decider(common, project, database);
    Path state = project.directory().resolve(Project.STATE);
    SurveyState.last(state, database.name())
        .ifPresent(
            kept ->
                kept.tables().forEach(t -> t.findings().forEach(f -> findings.put(f.name(), f))));
    view = new QuestionView(output, decider, findings);
    RegisterDecisions.checkTable(decider.register(), table);
    List<RegisterLine> open = decider.register().lines().stream().filter(this::isWanted).toList();
    questions.addAll(
        Question.of(open, findings, List.copyOf(decider.register().lines()), decider.kinds()));
    output.line(
        "Review of "
            + output.paint(Output.Tone.STRONG, database.title())
            + ": "
            + Output.counted(open.size(), "column")
            + (open.isEmpty() ? "" : ", " + Output.counted(questions.size(), "question")));
    int position = 0;
    while (position >= 0 && position < questions.size()) {
      List<RegisterLine> lines = stillOpen(questions.get(position));
      position = lines.isEmpty() ? position + 1 : ask(lines, position, keys);
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
    return (decider.view().isOpen(line)
            || decider.rules().isRetyped(line)
            || (all && !line.byPerson()))
        && (table.isEmpty() || line.table().equalsIgnoreCase(table));
  }

  private List<RegisterLine> stillOpen(Question question) {
    return question.lines().stream()
        .map(line -> decider.register().line(line.column()))
        .filter(this::isWanted)
        .toList();
  }

  /** Puts one question; the position to go on at, or -1 to end. */
  private int ask(List<RegisterLine> lines, int position, Keys keys) {
    Question question = questions.get(position);
    RegisterLine first = lines.get(0);
    boolean one = lines.size() == 1;
    view.show(question, lines, left(position));
    while (true) {
      boolean suggested = lines.stream().allMatch(RegisterLine::isSuggested);
      say(
          Output.Tone.FAINT,
          one ? ONE : suggested && !first.kind().isEmpty() ? MANY_SUGGESTED : MANY);
      output.flush();
      int key = keys.key();
      switch (Character.toLowerCase(key)) {
        case 'a', '\r', '\n' -> {
          if (suggested) {
            return write(decided(lines, line -> decider.rules().suggested(line)), position, keys);
          }
          say("survey suggests nothing here: m masks by shape, k keeps");
        }
        case 'm' -> {
          return write(masked(lines, ""), position, keys);
        }
        case 'k' -> {
          Map<RegisterLine, RegisterLine> kept =
              kept(lines, QuestionView.reason(question), QuestionView.title(question, lines), keys);
          if (!kept.isEmpty()) {
            return write(kept, position, keys);
          }
        }
        case 'o' -> {
          String kind = kind(keys);
          if (!kind.isEmpty()) {
            return write(masked(lines, kind), position, keys);
          }
        }
        case 't' -> {
          Map<RegisterLine, RegisterLine> rest = rest(first, keys);
          if (!rest.isEmpty()) {
            return write(rest, position, keys);
          }
        }
        case 'e', 'x' -> {
          List<RegisterLine> out = one ? List.of() : key == 'x' ? some(lines, keys) : lines;
          if (!out.isEmpty()) {
            remember(position);
            split(position, lines, out);
            return position;
          }
          say(one ? "it is one column" : "none is taken out");
        }
        case 'l' -> view.list(lines, Integer.MAX_VALUE);
        case 'v' -> values(first);
        case 's', ' ' -> {
          remember(position);
          return position + 1;
        }
        case 'u' -> {
          if (!done.isEmpty()) {
            return takenBack();
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

  /** How much is left, this question included. */
  private String left(int position) {
    List<List<RegisterLine>> left =
        questions.subList(position, questions.size()).stream()
            .map(this::stillOpen)
            .filter(open -> !open.isEmpty())
            .toList();
    long columns = left.stream().mapToLong(List::size).sum();
    return columns == left.size()
        ? Output.number(columns) + " to go"
        : Output.counted(left.size(), "question") + " to go, " + Output.counted(columns, "column");
  }

  /** Columns of a question that somebody names by their numbers in its list. */
  private List<RegisterLine> some(List<RegisterLine> lines, Keys keys) {
    String typed =
        keys.line("  which, by their numbers (2 5-7; empty goes back): ", List.of()).orElse("");
    List<RegisterLine> some = new ArrayList<>();
    Matcher number = NUMBERS.matcher(typed);
    while (number.find()) {
      int from = Integer.parseInt(number.group(1));
      int to = number.group(2) == null ? from : Integer.parseInt(number.group(2));
      for (int i = Math.max(1, from); i <= Math.min(to, lines.size()); i++) {
        some.add(lines.get(i - 1));
      }
    }
    return some.stream().distinct().toList();
  }

  /** Puts some columns of a question by themselves, behind what is left of it. */
  private void split(int position, List<RegisterLine> lines, List<RegisterLine> out) {
    Question question = questions.remove(position);
    List<Question> parts = new ArrayList<>();
    List<RegisterLine> rest = lines.stream().filter(line -> !out.contains(line)).toList();
    if (!rest.isEmpty()) {
      parts.add(new Question(question.sort(), rest));
    }
    out.forEach(line -> parts.add(new Question(Question.Sort.COLUMN, List.of(line))));
    questions.addAll(position, parts);
  }

  private void remember(int position) {
    done.push(new Step(decider.register(), List.copyOf(questions), position, settled));
  }

  private int takenBack() {
    Step step = done.pop();
    boolean decided = !step.before().lines().equals(decider.register().lines());
    decider.put(step.before());
    questions.clear();
    questions.addAll(step.questions());
    settled = step.settled();
    say(decided ? "taken back" : "back to what was left open");
    return step.position();
  }

  /** Shows some values of the column, since somebody asks for them. */
  private void values(RegisterLine line) {
    try (Reader reader = Source.open(common, project, database)) {
      String table = line.table();
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
    say(Output.Tone.PLAIN, text);
  }

  private void say(Output.Tone tone, String text) {
    output.wrapped(text, 2).forEach(line -> output.line("  " + output.paint(tone, line)));
  }

  /** A kind that somebody types; empty if they go back. */
  private String kind(Keys keys) {
    List<String> names = List.copyOf(decider.kinds().names());
    while (true) {
      String kind =
          keys.line("  kind (tab completes, ? lists all, empty goes back): ", names).orElse("");
      if (kind.isEmpty() || decider.kinds().of(kind).isPresent()) {
        return kind;
      }
      say(
          kind.equals("?")
              ? String.join(", ", names)
              : "unknown kind; " + Nearest.hint(kind, names) + "; ? lists all");
    }
  }

  /** What becomes of the open columns of the same table; empty if somebody goes back. */
  private Map<RegisterLine, RegisterLine> rest(RegisterLine line, Keys keys) {
    List<RegisterLine> open =
        decider.register().lines().stream()
            .filter(this::isWanted)
            .filter(other -> other.table().equals(line.table()))
            .toList();
    List<RegisterLine> suggested = open.stream().filter(RegisterLine::isSuggested).toList();
    String columns = Output.counted(open.size(), "open column") + " of " + line.table();
    view.list(open, Integer.MAX_VALUE);
    say(
        columns
            + ":  a take "
            + Output.counted(suggested.size(), "suggestion")
            + "  k keep all  m mask all  any other key goes back");
    output.flush();
    return switch (Character.toLowerCase(keys.key())) {
      case 'a' -> decided(suggested, other -> decider.rules().suggested(other));
      case 'k' -> kept(open, "", columns, keys);
      case 'm' -> masked(open, "");
      default -> Map.of();
    };
  }

  private Map<RegisterLine, RegisterLine> masked(Collection<RegisterLine> lines, String kind) {
    return decided(
        lines,
        line ->
            decider.rules().decided(line, Decision.MASK, kind.isEmpty() ? line.kind() : kind, ""));
  }

  private static Map<RegisterLine, RegisterLine> decided(
      Collection<RegisterLine> lines, java.util.function.UnaryOperator<RegisterLine> how) {
    Map<RegisterLine, RegisterLine> decided = new LinkedHashMap<>();
    lines.forEach(line -> decided.put(line, how.apply(line)));
    return decided;
  }

  /**
   * Columns as they are kept, for a reason that is asked for.
   *
   * @param usual the reason if none is typed; empty for the last one
   * @return empty if somebody goes back
   */
  private Map<RegisterLine, RegisterLine> kept(
      List<RegisterLine> lines, String usual, String what, Keys keys) {
    String otherwise = usual.isEmpty() ? lastReason : usual;
    Optional<String> typed =
        keys.line(
            "  keep "
                + (lines.size() == 1 ? lines.get(0).column() : what)
                + ", because"
                + (otherwise.isEmpty() ? "" : " [" + otherwise + "]")
                + " (Ctrl-C goes back): ",
            List.of());
    if (typed.isEmpty()) {
      return Map.of();
    }
    String reason = typed.get().isEmpty() ? otherwise : typed.get();
    if (reason.isEmpty() && lines.stream().anyMatch(line -> !line.kind().isEmpty())) {
      say("it looks personal, so that an auditor will ask why it is kept");
      return Map.of();
    }
    lastReason = usual.isEmpty() || !typed.get().isEmpty() ? reason : lastReason;
    return decided(
        lines, line -> decider.rules().decided(line, Decision.KEEP, line.kind(), reason));
  }

  /** Writes decisions, and asks first whether many linked columns are decided alike. */
  private int write(Map<RegisterLine, RegisterLine> decided, int position, Keys keys) {
    Map<RegisterLine, RegisterLine> linked =
        decider.rules().withLinked(decided, decider.register());
    int more = linked.size() - decided.size();
    if (more > FEW_LINKED && !isWantedAlike(decided, linked, keys)) {
      linked = decided;
    }
    remember(position);
    decider.write(linked);
    settled += linked.size();
    if (linked.size() <= FEW_LINKED + 1) {
      linked.values().forEach(line -> say(Output.Tone.GOOD, said(line)));
    } else {
      say(
          Output.Tone.GOOD,
          linked.values().stream()
              .collect(
                  Collectors.groupingBy(
                      RegisterLine::decision, LinkedHashMap::new, Collectors.counting()))
              .entrySet()
              .stream()
              .map(entry -> entry.getKey() + " " + Output.counted(entry.getValue(), "column"))
              .collect(Collectors.joining(", ")));
    }
    return position + 1;
  }

  private boolean isWantedAlike(
      Map<RegisterLine, RegisterLine> decided, Map<RegisterLine, RegisterLine> linked, Keys keys) {
    List<RegisterLine> followers =
        linked.keySet().stream().filter(line -> !decided.containsKey(line)).toList();
    view.list(followers, Integer.MAX_VALUE);
    say(
        Output.counted(followers.size(), "column")
            + " linked to "
            + (decided.size() == 1 ? "it" : "them")
            + ":  y decide them alike  any other key leaves them open");
    output.flush();
    return Character.toLowerCase(keys.key()) == 'y';
  }

  private static String said(RegisterLine line) {
    return line.decision()
        + " "
        + line.column()
        + (line.kind().isEmpty() || line.decision() == Decision.KEEP ? "" : " as " + line.kind());
  }
}
