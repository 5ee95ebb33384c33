package yemble.cli;

import java.nio.file.Path;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.crypto.SecretKey;
import yemble.core.job.TokenStores;
import yemble.core.moment.Now;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.project.StoreSettings;
import yemble.core.store.TokenTables;
import yemble.core.token.TokenStore;
import yemble.jdbc.Engines;

/** The token stores, and the way back that they are. */
@Command(
    name = "tokens",
    description = {
      "List the token stores: what they hold of which columns, and until when.",
      "What leads back from tokens lies there encrypted; each question for it is written down."
    },
    subcommands = {
      TokensCommand.Begin.class,
      TokensCommand.Original.class,
      TokensCommand.Rotate.class,
      TokensCommand.Expire.class
    },
    footer = {
      "%nExamples:",
      "  yemble key new store cards.key",
      "  yemble tokens begin cards",
      "  yemble tokens original cards 4029357733126409 --reason \"refund 8112\"",
      "  yemble tokens original cards - --reason \"dispute, March\"    tokens from standard input",
      "  yemble tokens rotate cards --to next.key",
      "  yemble tokens expire cards --older 90d"
    })
final class TokensCommand implements Callable<Integer> {
  private static final int MOST_QUESTIONS = 5;

  @Mixin CommonOptions common;

  private static TokenStores stores(CommonOptions common, Project project) {
    return new TokenStores(project, common.environment(), Engines::of);
  }

  private static TokenStore open(CommonOptions common, Project project, StoreSettings settings) {
    return stores(common, project)
        .open(settings, KeyFile.read(project.directory(), common.environment()));
  }

  @Override
  public Integer call() {
    Project project = common.read();
    List<Object> json = new ArrayList<>();
    TextTable table =
        new TextTable("store", ">tokens", "columns", "since", "seen last", "leads back", "lies in");
    List<String[]> questions = new ArrayList<>();
    for (StoreSettings settings : project.stores().values()) {
      try (TokenStore store = open(common, project, settings)) {
        TokenTables.Content content = store.content();
        row(table, settings, store, content);
        List<String[]> asked = store.questions(MOST_QUESTIONS);
        json.add(object(settings, store, content, asked));
        asked.forEach(
            each ->
                questions.add(
                    new String[] {settings.name(), when(each[0]), each[1], each[3], each[2]}));
      }
    }
    if (common.json) {
      common.output.json(json);
      return 0;
    }
    Output output = common.output;
    if (project.stores().isEmpty()) {
      output.line("The project has no token stores: every mask is one-way.");
      output.line("The guide shows how one team gets a way back.");
      output.flush();
      return 0;
    }
    output.table(table);
    if (!questions.isEmpty()) {
      output.line();
      output.line("Originals were asked for, the newest questions first:");
      output.line();
      TextTable asked = new TextTable("store", "when", "who", ">tokens", "reason");
      questions.forEach(each -> asked.row((Object[]) each));
      output.table(asked);
    }
    output.flush();
    return 0;
  }

  /** Day and minute of a moment. */
  private static String when(String instant) {
    return instant.replace('T', ' ').replaceFirst(":\\d\\dZ$", " UTC");
  }

  private static void row(
      TextTable table, StoreSettings settings, TokenStore store, TokenTables.Content content) {
    List<TokenTables.Used> columns = content.columns();
    table.row(
        settings.name(),
        Output.number(content.tokens()),
        columns.isEmpty() ? "none yet" : columns.get(0).column(),
        columns.isEmpty() ? "" : columns.get(0).since(),
        columns.isEmpty() ? "" : columns.get(0).last(),
        content.tokens() == 0
            ? ""
            : settings
                .keep()
                .map(keep -> "until " + content.newest().plusDays(keep.toDays()))
                .orElse("without an end"),
        store.description());
    for (TokenTables.Used used : columns.subList(Math.min(1, columns.size()), columns.size())) {
      table.row("", "", used.column(), used.since(), used.last(), "", "");
    }
  }

  private static Object object(
      StoreSettings settings, TokenStore store, TokenTables.Content content, List<String[]> asked) {
    return Json.object(
        "store", settings.name(),
        "lies_in", store.description(),
        "tokens", content.tokens(),
        "oldest", content.oldest() == null ? null : content.oldest().toString(),
        "newest", content.newest() == null ? null : content.newest().toString(),
        "keep_days", settings.keep().map(Duration::toDays).orElse(null),
        "columns",
            Json.list(
                content.columns(),
                used ->
                    Json.object(
                        "column", used.column(),
                        "since", used.since().toString(),
                        "last", used.last().toString())),
        "questions",
            Json.list(
                asked,
                each ->
                    Json.object(
                        "at", each[0],
                        "who", each[1],
                        "reason", each[2],
                        "tokens", Long.valueOf(each[3]))));
  }

  /** Makes a store. */
  @Command(
      name = "begin",
      description = "Make the tables of a new store, in a database that holds nothing else.")
  static final class Begin implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "STORE", description = "the store")
    String name;

    @Override
    public Integer call() {
      Project project = common.read();
      StoreSettings settings = project.store(name);
      SecretKey key = KeyFile.read(project.directory(), common.environment());
      String where = stores(common, project).begin(settings, key);
      if (common.json) {
        common.output.json(Json.object("store", name, "lies_in", where));
        return 0;
      }
      common.output.line(
          common.output.paint(Output.Tone.GOOD, "Begun: ") + "the store " + name + " in " + where);
      common.output.line(
          "Next: name it for a column, columns: { TABLE.COLUMN: { token: { store: "
              + name
              + " } } }, then run");
      common.output.flush();
      return 0;
    }
  }

  /** Leads back. */
  @Command(
      name = "original",
      description = {
        "Print tokens with their originals, one a line, parted by a tab.",
        "Who asked, when and why is written down in the store first."
      })
  static final class Original implements Callable<Integer> {
    private static final int MOST_REASON = 500;

    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "STORE", description = "the store")
    String name;

    @Parameters(
        index = "1..*",
        arity = "1..*",
        paramLabel = "TOKEN",
        description = "tokens; - reads them from standard input, one a line")
    List<String> tokens = List.of();

    @Option(names = "--reason", paramLabel = "TEXT", description = "why they are wanted; needed")
    String reason = "";

    @Override
    public Integer call() {
      if (reason.isBlank() || reason.length() > MOST_REASON) {
        throw Problem.of(
                Failure.OPTION,
                reason.isBlank() ? "why are originals wanted?" : "the reason is too long")
            .because("it is kept in the store, with who asked and when")
            .remedy("say it in up to " + MOST_REASON + " characters: --reason \"refund 8112\"");
      }
      Project project = common.read();
      StoreSettings settings = project.store(name);
      List<String> asked = asked();
      Map<String, String> found;
      try (TokenStore store = open(common, project, settings)) {
        found = store.originals(asked, System.getProperty("user.name"), reason.strip());
      }
      print(asked, found);
      int missing = asked.size() - found.size();
      if (missing > 0 && !common.json) {
        common.output.flush();
        throw Problem.of(
                Failure.NOTHING_FOUND,
                missing == 1 && asked.size() == 1
                    ? "the token is not in the store"
                    : Output.number(missing)
                        + " of "
                        + Output.counted(asked.size(), "token")
                        + " are not in the store")
            .at(name)
            .because(
                missing == 1
                    ? "it was made by another store, has expired, or was never made"
                    : "they were made by another store, have expired, or were never made")
            .remedy("yemble tokens shows what each store holds, and until when");
      }
      return missing > 0 ? Failure.NOTHING_FOUND.type().exitCode() : 0;
    }

    private List<String> asked() {
      List<String> asked = new ArrayList<>();
      for (String token : tokens) {
        StandardInput.or(token).lines().map(String::strip).forEach(asked::add);
      }
      List<String> all = asked.stream().filter(token -> !token.isEmpty()).distinct().toList();
      if (all.isEmpty()) {
        throw Problem.of(Failure.NOTHING_FOUND, "no token was named")
            .at("standard input")
            .remedy("write one token a line");
      }
      return all;
    }

    private void print(List<String> asked, Map<String, String> found) {
      if (common.json) {
        common.output.json(
            Json.list(asked, token -> Json.object("token", token, "original", found.get(token))));
        return;
      }
      found.forEach((token, original) -> common.output.fields(token, original));
      common.output.flush();
    }
  }

  /** Changes the key. */
  @Command(
      name = "rotate",
      description = {
        "Encrypt all originals anew, under the key of another file; tokens stay what they are.",
        "From then on the store opens with that key alone."
      })
  static final class Rotate implements Callable<Integer> {
    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "STORE", description = "the store")
    String name;

    @Option(
        names = "--to",
        paramLabel = "FILE",
        required = true,
        description = "the file of the new key; yemble key new store FILE makes it")
    Path to;

    @Option(names = "--yes", description = "rotate without a question")
    boolean yes;

    @Override
    public Integer call() {
      Project project = common.read();
      StoreSettings settings = project.store(name);
      SecretKey own = KeyFile.read(project.directory(), common.environment());
      SecretKey next = KeyFile.readForStore(project.directory(), to.toString());
      if (next.reveal().equals(own.reveal())) {
        throw Problem.of(Failure.STORE_PLACE, "this is the project's key")
            .at(to.toString())
            .because("whoever masks could then lead back, too")
            .remedy("make one of its own: yemble key new store next.key");
      }
      long count;
      try (TokenStore store = open(common, project, settings)) {
        Question.confirm(
            common.output,
            "Encrypt "
                + Output.counted(store.content().tokens(), "original")
                + " of the store "
                + name
                + " anew, so that only "
                + to
                + " opens it?",
            yes);
        count = store.rotate(next);
      }
      if (common.json) {
        common.output.json(Json.object("store", name, "originals", count));
        return 0;
      }
      common.output.line(
          common.output.paint(Output.Tone.GOOD, "Rotated: ")
              + Output.counted(count, "original")
              + " of the store "
              + name
              + "; no token has changed");
      common.output.line(
          "Next: let the key of the store lead to " + to + ", and destroy the old one");
      common.output.flush();
      return 0;
    }
  }

  /** Lets ways back go. */
  @Command(
      name = "expire",
      description = "Remove what leads back from tokens that no run has made for some time.")
  static final class Expire implements Callable<Integer> {
    private static final Pattern DAYS = Pattern.compile("([0-9]{1,5})d");

    @Mixin CommonOptions common;

    @Parameters(index = "0", paramLabel = "STORE", description = "the store")
    String name;

    @Option(
        names = "--older",
        paramLabel = "DAYS",
        description = "how long ago they were seen last, like 90d (default: keep: of the store)")
    String older = "";

    @Option(names = "--yes", description = "remove without a question")
    boolean yes;

    @Override
    public Integer call() {
      Project project = common.read();
      StoreSettings settings = project.store(name);
      LocalDate before = Now.dayInUtc().minusDays(days(settings));
      long gone;
      try (TokenStore store = open(common, project, settings)) {
        Question.confirm(
            common.output,
            "Remove for ever what leads back from tokens of "
                + name
                + " that were seen last before "
                + before
                + "?",
            yes);
        gone = store.expire(before);
      }
      if (common.json) {
        common.output.json(
            Json.object("store", name, "before", before.toString(), "expired", gone));
        return 0;
      }
      common.output.line(
          common.output.paint(Output.Tone.GOOD, "Expired: ")
              + Output.counted(gone, "token")
              + " of "
              + name
              + "; nothing leads back from them any more");
      common.output.flush();
      return 0;
    }

    private long days(StoreSettings settings) {
      if (older.isEmpty()) {
        return settings
            .keep()
            .map(Duration::toDays)
            .orElseThrow(
                () ->
                    Problem.of(Failure.OPTION, "how old may tokens of " + name + " get?")
                        .because("the project file says no keep: for the store")
                        .remedy("say it: --older 90d"));
      }
      Matcher said = DAYS.matcher(older);
      if (!said.matches()) {
        throw Problem.of(Failure.OPTION, "--older takes a number of days")
            .remedy("write it like 90d");
      }
      return Long.parseLong(said.group(1));
    }
  }
}
