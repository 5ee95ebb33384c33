package yemble.cli;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import yemble.core.job.Phase;
import yemble.core.job.Progress;
import yemble.core.links.LinkSearch;
import yemble.core.links.LinkSuggestion;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Database;
import yemble.core.project.LinkRule;
import yemble.core.project.Project;
import yemble.core.project.ProjectLines;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.subset.Requests;
import yemble.core.subset.Rule;

/** Lists links, and finds those that nobody declared. */
@Command(
    name = "links",
    description = {
      "List the links between tables: those that the database declares, and those of the project.",
      "With --suggest look for more, by names and data. A link that is suggested is not followed",
      "before it stands in yemble.yaml."
    },
    footer = {
      "%nExamples:",
      "  yemble links                what is followed, and how many rows find a parent",
      "  yemble links --suggest      what else looks like a link",
      "  yemble links --add          the same, asking which of them belong into yemble.yaml"
    })
final class LinksCommand implements Callable<Integer> {
  /** Of tables with no more rows it is counted how many refer to nothing. */
  private static final long COUNTED = 2_000_000;

  @Mixin CommonOptions common;

  @Option(
      names = "--from",
      paramLabel = "NAME",
      description = "the database, if several are read from")
  String from = "";

  @Option(names = "--suggest", description = "look for links that nobody declared")
  boolean suggest;

  @Option(names = "--add", description = "ask for each, and write those that are right")
  boolean add;

  @Option(names = "--yes", description = "with --add: write all of them without a question")
  boolean yes;

  @Option(
      names = "--time",
      paramLabel = "SECONDS",
      defaultValue = "60",
      description = "the longest that looking may take (default: ${DEFAULT-VALUE})")
  int seconds;

  @Override
  public Integer call() {
    if (seconds < 1) {
      throw Problem.of(Failure.OPTION, "--time takes a number of seconds, 1 or more")
          .because("a sample needs time");
    }
    Project project = common.read();
    if (add && !yes && !common.output.terminal().input()) {
      throw Problem.of(Failure.NOT_CONFIRMED, "nothing was written: there is no terminal to ask on")
          .because("a link that is wrong brings rows that do not belong")
          .remedy("add --yes to write all of them, or write those that are right below links:");
    }
    Database database = Source.of(project, from);
    Progress progress = ProgressView.of(common.output);
    try (Reader source = Source.open(common, project, database)) {
      List<Rule> rules = Requests.links(project, source.schema());
      suggest |= add;
      progress.begin(suggest ? Phase.LOOKING_FOR_LINKS : Phase.LOOKING_AT_LINKS, 0);
      if (suggest) {
        LinkSearch.Result found =
            LinkSearch.of(
                source, rules.stream().map(Rule::link).toList(), Duration.ofSeconds(seconds));
        progress.end();
        // An error must stand alone in what is printed for machines; people are asked of what they
        // see.
        boolean first = add && (yes || common.json);
        if (first) {
          add(project, found.suggestions());
        }
        suggestions(database, source, rules, found);
        if (add && !first) {
          add(project, found.suggestions());
        }
      } else {
        List<Measured> measured = measured(source, rules);
        progress.end();
        list(database, source, rules, measured);
      }
    }
    common.output.flush();
    return 0;
  }

  /**
   * What is known of a link.
   *
   * @param types of its columns, the child's and the parent's
   * @param broken how many rows of the whole table refer to nothing; empty where it was not counted
   */
  private record Measured(String types, LinkSuggestion.Evidence evidence, OptionalLong broken) {
    /** Whether its columns hold nothing that is the same. */
    boolean never() {
      return evidence.values() > 0 && evidence.found() == 0;
    }
  }

  /** Looks at samples, and counts what refers to nothing as long as there is time. */
  private List<Measured> measured(Reader source, List<Rule> rules) {
    long end = System.nanoTime() + Duration.ofSeconds(seconds).toNanos();
    List<Measured> all = new ArrayList<>();
    for (Rule rule : rules) {
      LinkSuggestion.Evidence evidence = LinkSearch.measured(source, rule.link());
      Table child = source.schema().table(rule.link().child());
      Table parent = source.schema().table(rule.link().parent());
      OptionalLong broken = OptionalLong.empty();
      if (System.nanoTime() < end && source.rowsAbout(child) <= COUNTED) {
        long[] rows = new long[1];
        source.broken(rule.link(), row -> rows[0]++);
        broken = OptionalLong.of(rows[0]);
      }
      String from = types(child, rule.link().childColumns());
      String to = types(parent, rule.link().parentColumns());
      all.add(new Measured(from.equals(to) ? from : from + " to " + to, evidence, broken));
    }
    return all;
  }

  private static String types(Table table, List<String> columns) {
    return columns.stream()
        .map(name -> table.column(name).orElseThrow().type())
        .map(type -> type.isEmpty() ? "no type" : type)
        .collect(Collectors.joining(", "));
  }

  private void list(Database database, Reader source, List<Rule> rules, List<Measured> measured) {
    if (common.json) {
      common.output.json(
          Json.object(
              "from",
              Json.database(database),
              "links",
              Json.list(rules, rule -> object(rule, measured.get(rules.indexOf(rule))))));
      return;
    }
    Output output = common.output;
    head(database, source, rules);
    table(rules, measured, true);
    table(rules, measured, false);
    if (!rules.isEmpty()) {
      output.line(
          "  Values, and those of them that find a parent, of a sample; rows that refer to nothing"
              + " of all.");
    }
    for (int i = 0; i < rules.size(); i++) {
      if (measured.get(i).never()) {
        output.line(
            output.paint(Output.Tone.WARNING, "warning: ")
                + rules.get(i).link()
                + ": none of "
                + Output.counted(measured.get(i).evidence().values(), "value")
                + " that were looked at finds a parent ("
                + measured.get(i).types()
                + "); look whether these are the right columns");
      }
    }
    output.line("Next: yemble links --suggest looks for links that nobody declared.");
  }

  /** The links that the database declares, or those that the project names. */
  private void table(List<Rule> rules, List<Measured> measured, boolean declared) {
    TextTable table =
        new TextTable("link", "types", "brings", ">values", ">found", ">refer to nothing");
    for (int i = 0; i < rules.size(); i++) {
      Measured one = measured.get(i);
      if (rules.get(i).link().declared() == declared) {
        table.row(
            named(rules.get(i).link()),
            one.types(),
            brings(rules.get(i)),
            Output.number(one.evidence().values())
                + " of "
                + Output.number(one.evidence().sampled()),
            Output.percent(one.evidence().found(), one.evidence().values()),
            one.broken().isEmpty()
                ? "not counted"
                : one.broken().getAsLong() == 0 ? "" : Output.number(one.broken().getAsLong()));
      }
    }
    if (!table.isEmpty()) {
      common.output.line(declared ? "Declared by the database" : "Named by the project");
      common.output.table(table);
      common.output.line();
    }
  }

  private void head(Database database, Reader source, List<Rule> rules) {
    long declared = rules.stream().filter(rule -> rule.link().declared()).count();
    common.output.line(
        common.output.paint(Output.Tone.STRONG, "Links of " + database.title())
            + "  "
            + source.description());
    common.output.line(
        declared == 0
            ? "The database declares no foreign keys; the project names "
                + Output.counted(rules.size(), "link")
                + "."
            : Output.counted(declared, "foreign key")
                + " of the database, "
                + Output.counted(rules.size() - declared, "link")
                + " of the project.");
    common.output.line();
  }

  static String named(Link link) {
    return link + (link.condition().isEmpty() ? "" : "  if " + link.condition());
  }

  private static String brings(Rule rule) {
    return rule.cut()
        ? "cut"
        : rule.follow().name().toLowerCase(Locale.ROOT)
            + (rule.atMost() == LinkRule.ALL ? "" : ", at most " + rule.atMost());
  }

  private static Object object(Rule rule, Measured measured) {
    LinkSuggestion.Evidence evidence = measured.evidence();
    return Json.object(
        "link", rule.link().toString(),
        "if", Json.text(rule.link().condition()),
        "types", measured.types(),
        "declared", rule.link().declared(),
        "follow", rule.follow().name().toLowerCase(Locale.ROOT),
        "cut", rule.cut(),
        "at_most", rule.atMost() == LinkRule.ALL ? null : rule.atMost(),
        "sampled", evidence.sampled(),
        "values", evidence.values(),
        "found", evidence.found(),
        "broken", measured.broken().isPresent() ? measured.broken().getAsLong() : null);
  }

  private void suggestions(
      Database database, Reader source, List<Rule> rules, LinkSearch.Result result) {
    List<LinkSuggestion> found = result.suggestions();
    if (common.json) {
      common.output.json(
          Json.list(
              found,
              one ->
                  Json.object(
                      "link", one.link().toString(),
                      "if", Json.text(one.link().condition()),
                      "confidence", Json.share(one.confidence()),
                      "evidence", object(one.evidence()))));
    } else {
      head(database, source, rules);
      print(found);
    }
    if (!result.unseen().isEmpty()) {
      common.output.message(
          common.output.paint(Output.Tone.WARNING, "warning: ")
              + "there was no time for "
              + Output.counted(result.unseen().size(), "column")
              + ", "
              + result.unseen().get(0)
              + (result.unseen().size() > 1 ? " the first" : "")
              + "; --time gives more");
    }
  }

  private void print(List<LinkSuggestion> found) {
    Output output = common.output;
    if (found.isEmpty()) {
      output.line("Nothing else looks like a link.");
      return;
    }
    TextTable table = new TextTable("link", ">sure", ">values", ">found", ">by chance", "its name");
    for (LinkSuggestion one : found) {
      LinkSuggestion.Evidence evidence = one.evidence();
      table.row(
          named(one.link()),
          Math.round(100 * one.confidence()) + "%",
          Output.number(evidence.values()),
          Output.percent(evidence.found(), evidence.values()),
          evidence.values() == 0 ? "" : Math.round(100 * evidence.chance()) + "%",
          evidence.names().toString());
    }
    output.table(table);
    output.line("  found: how many of the values a row of the parent has");
    output.line("  by chance: how many any numbers between the same limits would find");
    if (!add) {
      output.line();
      output.line(
          "None is followed before it stands in yemble.yaml. Next: yemble links --add asks which of"
              + " them do");
    }
  }

  private void add(Project project, List<LinkSuggestion> found) {
    List<String> right = new ArrayList<>();
    for (LinkSuggestion one : found) {
      String question =
          named(one.link())
              + ", "
              + Math.round(100 * one.confidence())
              + "% sure: y add, n not, q no more?";
      char answer = yes ? 'y' : Question.ask(common.output, question, "ynq");
      if (answer == 'q') {
        break;
      }
      if (answer == 'y') {
        right.add(ProjectLines.line(one.link().toString(), one.link().condition()));
      }
    }
    if (!right.isEmpty()) {
      ProjectLines.add(project.directory(), ProjectLines.LINKS, right);
    }
    common.output.message(
        "Wrote " + Output.counted(right.size(), "link") + " into " + Project.FILE + ".");
  }

  private static Object object(LinkSuggestion.Evidence evidence) {
    return Json.object(
        "names", evidence.names().toString(),
        "sampled", evidence.sampled(),
        "values", evidence.values(),
        "found", evidence.found(),
        "different", evidence.different(),
        "by_chance", Json.share(evidence.chance()));
  }
}
