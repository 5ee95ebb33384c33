package yemble.cli;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.function.Function;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.job.PinCounts;
import yemble.core.job.PinFilling;
import yemble.core.job.Preparation;
import yemble.core.name.TableName;
import yemble.core.pin.Passphrase;
import yemble.core.pin.PinFile;
import yemble.core.pin.PinKey;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.KeyFile;
import yemble.core.project.PinList;
import yemble.core.project.Project;
import yemble.core.row.RowSet;
import yemble.core.yaml.Place;
import yemble.jdbc.Engines;

/** The lists of agreed stand-ins. */
@Command(
    name = "pins",
    description = {
      "List the lists of agreed stand-ins, and whom of the source they speak of.",
      "Writes nothing; the files hold digests of keys, never the keys."
    },
    subcommands = {PinsCommand.Add.class, PinsCommand.Fill.class},
    footer = {
      "%nExamples:",
      "  yemble pins",
      "  yemble pins add staff -                   keys from standard input, one a line",
      "  yemble pins add staff --where \"rank = 'master'\"",
      "  yemble pins fill staff                    whoever has none gets one"
    })
final class PinsCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Option(names = "--job", paramLabel = "JOB", description = "the job, if not all mask alike")
  String job = "";

  @Override
  public Integer call() {
    Project project = common.read();
    if (project.pins().isEmpty()) {
      if (common.json) {
        common.output.json(List.of());
      } else {
        common.output.line(
            "The project has no lists of stand-ins. The guide shows how one begins.");
        common.output.flush();
      }
      return 0;
    }
    try (Preparation preparation = prepared(common, project, job)) {
      List<PinCounts> counts = preparation.pinCountsOfSource();
      if (common.json) {
        common.output.json(Json.list(counts, each -> object(preparation, each)));
      } else {
        print(preparation, counts);
      }
    }
    return 0;
  }

  private static Preparation prepared(CommonOptions common, Project project, String job) {
    return Preparation.of(
        project,
        project.anyJob(job),
        Preparation.Purpose.PINS,
        common.environment(),
        Engines::of,
        ProgressView.of(common.output));
  }

  private static Object object(Preparation preparation, PinCounts counts) {
    Pins.Resolved list = preparation.plan().pins().list(counts.list());
    return Json.object(
        "list", counts.list(),
        "file", list.list().file(),
        "by", list.table().name(list.by()).toString(),
        "source", Json.database(preparation.from()),
        "lines", counts.lines(),
        "pinned", counts.pinned(),
        "without", counts.without(),
        "ambiguous", counts.ambiguous(),
        "unused", counts.unused(),
        "unfilled", counts.unfilled(),
        "columns", Json.list(list.columns().keySet(), Object::toString));
  }

  private void print(Preparation preparation, List<PinCounts> counts) {
    Output output = common.output;
    Headings.from(output, preparation);
    output.line();
    TextTable table =
        new TextTable(
            "list", "who it is", ">lines", ">pinned", ">without", ">ambiguous", ">unused", "file");
    for (PinCounts each : counts) {
      Pins.Resolved list = preparation.plan().pins().list(each.list());
      table.row(
          each.list(),
          list.table().name(list.by()),
          Output.number(each.lines()),
          Output.number(each.pinned()),
          Output.number(each.without()),
          Output.number(each.ambiguous()),
          Output.number(each.unused()),
          list.list().file());
    }
    output.table(table);
    for (PinCounts each : counts) {
      remarks(preparation.plan().pins().list(each.list()), each);
    }
    output.flush();
  }

  private void remarks(Pins.Resolved list, PinCounts counts) {
    Output output = common.output;
    String warning = output.paint(Output.Tone.WARNING, "warning: ");
    output.line();
    output.line("  " + list.list().name() + " gives " + columns(list));
    for (Place[] twice : list.file().ambiguities()) {
      output.line(
          warning
              + twice[0]
              + " and "
              + twice[1]
              + " say different things of one key: neither counts, the masks decide");
    }
    if (counts.lines() > 0 && counts.pinned() == 0 && counts.unused() == counts.lines()) {
      output.line(
          warning
              + "no line of "
              + list.list().file()
              + " speaks of anybody in the source: were they written under another key?");
    }
    if (counts.without() > 0) {
      output.line(
          "  Next: yemble pins fill "
              + list.list().name()
              + (counts.without() == 1
                  ? " gives the one without a stand-in one"
                  : " gives the " + Output.number(counts.without()) + " without a stand-in one"));
    }
  }

  private static String columns(Pins.Resolved list) {
    StringBuilder columns = new StringBuilder();
    list.columns()
        .forEach(
            (column, given) ->
                columns
                    .append(columns.isEmpty() ? "" : ", ")
                    .append(column)
                    .append(given.give().password() ? " the hash of its " : " its ")
                    .append(given.give().field()));
    return columns.toString();
  }

  /** Puts somebody onto a list. */
  @Command(
      name = "add",
      description = {
        "Put people onto a list: a line each, with a digest of the key and no values yet.",
        "Keys come from standard input, one a line (-), or from rows of the source (--where)."
      })
  static final class Add implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "NAME", description = "the list")
    String name;

    @Parameters(index = "1", arity = "0..1", paramLabel = "-", description = "standard input")
    String from = "";

    @Option(
        names = "--where",
        paramLabel = "SQL",
        description = "whose rows of the list's table satisfy this; - for standard input")
    String where = "";

    @Option(names = "--job", paramLabel = "JOB", description = "the job, if not all mask alike")
    String job = "";

    @Override
    public Integer call() {
      if (from.isEmpty() == where.isEmpty() || !(from.isEmpty() || from.equals("-"))) {
        throw Problem.of(Failure.OPTION, "who is to be put onto the list?")
            .because("a key on the command line would stand in the list of processes")
            .remedy("yemble pins add " + name + " - reads keys, one a line; or say --where SQL");
      }
      Project project = common.read();
      PinList list = Pins.list(project, name);
      Set<PinKey> keys = from.isEmpty() ? ofRows(project, list) : ofLines(project, list);
      if (keys.isEmpty()) {
        throw Problem.of(Failure.NOTHING_FOUND, "nobody was named")
            .at(from.isEmpty() ? "--where" : "standard input")
            .remedy(from.isEmpty() ? "widen the condition" : "write one key a line");
      }
      long added =
          PinFile.update(
              project.directory(),
              list,
              file -> keys.stream().filter(file::add).count(),
              count -> count > 0);
      report(list, keys.size(), added);
      return 0;
    }

    private Set<PinKey> ofLines(Project project, PinList list) {
      PinKey.Maker maker =
          new PinKey.Maker(KeyFile.read(project.directory(), common.environment()), list.name());
      Set<PinKey> keys = new LinkedHashSet<>();
      StandardInput.or("-")
          .lines()
          .filter(line -> !line.isBlank())
          .forEach(line -> keys.add(maker.of(line)));
      return keys;
    }

    private Set<PinKey> ofRows(Project project, PinList list) {
      Set<PinKey> keys = new LinkedHashSet<>();
      try (Preparation preparation = prepared(common, project, job)) {
        Pins.Resolved found = preparation.plan().pins().list(list.name());
        PinnedRows.people(
            preparation.source(),
            found,
            preparation.plan().pins().keys(list),
            chosen(preparation, found, where),
            (row, key) -> keys.add(key));
      }
      return keys;
    }

    private void report(PinList list, long read, long added) {
      Output output = common.output;
      if (common.json) {
        output.json(
            Json.object(
                "list",
                list.name(),
                "file",
                list.file(),
                "read",
                read,
                "added",
                added,
                "there",
                read - added));
        return;
      }
      output.line(
          output.paint(Output.Tone.GOOD, "Added: ")
              + Output.counted(added, "line")
              + " in "
              + list.file()
              + (added < read ? "; " + Output.number(read - added) + " there already" : ""));
      output.line(
          "Next: write stand-ins into it, or let yemble pins fill " + list.name() + " make them");
      output.flush();
    }
  }

  /** All rows of a list's table that may be on it and satisfy a condition. */
  private static RowSet chosen(Preparation preparation, Pins.Resolved list, String where) {
    String condition = StandardInput.or(where);
    RowSet all = preparation.listed(list, preparation.source().all(list.table()));
    if (condition.isEmpty()) {
      return all;
    }
    try {
      preparation.source().check(list.table(), condition);
    } catch (Problem refused) {
      throw refused.atIfUnknown("--where");
    }
    return preparation.source().meeting(list.table(), condition, all);
  }

  /** Makes what is missing. */
  @Command(
      name = "fill",
      description = {
        "Give whoever has no stand-in one, and write it down so that it stays.",
        "Passwords can be read out; other values are what the masks make, or the list's patterns."
      })
  static final class Fill implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "NAME", description = "the list")
    String name;

    @Option(
        names = "--where",
        paramLabel = "SQL",
        description = "only those whose rows of the list's table satisfy this")
    String where = "";

    @Option(names = "--listed", description = "only those who have a line already")
    boolean listed;

    @Option(names = "--job", paramLabel = "JOB", description = "the job, if not all mask alike")
    String job = "";

    @Override
    public Integer call() {
      Project project = common.read();
      PinList list = Pins.list(project, name);
      try (Preparation preparation = prepared(common, project, job)) {
        Pins.Resolved found = preparation.plan().pins().list(list.name());
        RowSet people = chosen(preparation, found, where);
        Function<TableName, RowSet> rows =
            table ->
                table.equals(found.table().name())
                    ? people
                    : preparation.source().all(preparation.plan().table(table).table());
        PinFilling.Filled filled = PinFilling.of(preparation, list, rows, !listed);
        report(list, filled);
      }
      return 0;
    }

    private void report(PinList list, PinFilling.Filled filled) {
      Output output = common.output;
      if (common.json) {
        output.json(
            Json.object(
                "list", list.name(),
                "file", list.file(),
                "added", filled.added(),
                "filled", filled.filled(),
                "passwords", filled.passwords(),
                "password_bits", filled.passwords() == 0 ? null : (long) Passphrase.bits()));
        return;
      }
      output.line(
          output.paint(Output.Tone.GOOD, "Filled: ")
              + Output.counted(filled.filled(), "line")
              + " in "
              + list.file()
              + ", "
              + Output.number(filled.added())
              + " of them new");
      if (filled.passwords() > 0) {
        output.line(
            "  "
                + Output.counted(filled.passwords(), "password")
                + " of four words and a number, to be read out: "
                + Passphrase.bits()
                + " bits each");
      }
      output.line("Next: commit " + list.file() + "; whoever runs the project needs it");
      output.flush();
    }
  }
}
