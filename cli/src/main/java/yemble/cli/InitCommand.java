package yemble.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.core.project.Register;
import yemble.core.project.RegisterLine;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Engine;
import yemble.core.store.Reader;
import yemble.jdbc.Engines;

/** Starts a project. */
@Command(
    name = "init",
    description = {
      "Start a project: a project file, a key, and a register with every column of the source.",
      "Reads the source's catalog and no row of it."
    },
    footer = {
      "%nExamples:",
      "  yemble init jdbc:sqlite:live.db",
      "  yemble init live.db --into dev.db --project ferries",
      "  yemble init jdbc:postgresql://db/ferry --user reader"
    })
final class InitCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Parameters(
      paramLabel = "SOURCE",
      description = "the database to read: a JDBC url, or the path of an SQLite file")
  String source;

  @Option(
      names = "--into",
      paramLabel = "TARGET",
      description = "the test database to load (default: one called dev)")
  String into = "";

  @Option(
      names = "--user",
      paramLabel = "USER",
      description = "who signs in at the source; a password is taken from $YEMBLE_PASSWORD")
  String user = "";

  @Override
  public Integer call() throws IOException {
    Path directory = common.project.toAbsolutePath().normalize();
    Path file = directory.resolve(Project.FILE);
    if (Files.exists(file)) {
      throw Problem.of(Failure.FILE_THERE, "there is a project here already")
          .at(file.toString())
          .remedy("work with it, or start the new one in another folder with --project DIR");
    }
    Path register = directory.resolve("register.csv");
    String url = url(source, directory);
    String target = into.isEmpty() ? usual(url, directory) : url(into, directory);
    Engine.Address address =
        new Engine.Address(
            "live (production)",
            url,
            directory,
            user,
            common.environment().getOrDefault(CommonOptions.PASSWORD, ""));
    List<RegisterLine> lines = new ArrayList<>();
    String example;
    boolean linked;
    try (Reader reader = Engines.of(address).open(address)) {
      for (Table table : reader.schema().tables()) {
        for (Column column : table.columns()) {
          lines.add(RegisterLine.undecided(table.name(column).toString(), column.type()));
        }
      }
      example = start(reader).name().toString();
      linked = !reader.schema().foreignKeys().isEmpty() || reader.schema().tables().size() < 2;
    }
    if (Files.exists(register, LinkOption.NOFOLLOW_LINKS)) {
      throw Problem.of(Failure.FILE_THERE, "there is a register here already")
          .at(register.toString())
          .because("it may hold what people decided")
          .remedy("move it away, or start the new project in another folder with --project DIR");
    }
    Engines.check(new Engine.Address("dev (test)", target, directory, "", ""));
    write(directory, new Register(lines), template(url, signIn(), target, example));
    report(directory, lines.size(), linked);
    return 0;
  }

  /** The table that a first job picks from: the one with rows that most links lead to. */
  private static Table start(Reader reader) {
    List<Link> links = reader.schema().foreignKeys();
    return reader.schema().tables().stream()
        .max(
            Comparator.comparing((Table table) -> reader.rowsAbout(table) > 0)
                .thenComparing(
                    table -> links.stream().filter(l -> l.parent().equals(table.name())).count())
                .thenComparing(reader::rowsAbout)
                .thenComparing(table -> table.name().toString(), Comparator.reverseOrder()))
        .orElseThrow(
            () ->
                Problem.of(Failure.NOTHING_FOUND, "the source holds no table")
                    .at(reader.description()));
  }

  /** Writes the project's files: all of them, or none. */
  private static void write(Path directory, Register register, String project) throws IOException {
    List<Path> files =
        List.of(
            directory.resolve("register.csv"),
            directory.resolve(Project.KEY_FILE),
            directory.resolve(".gitignore"),
            directory.resolve(Project.FILE),
            directory.resolve(ProjectSchema.FILE),
            directory.resolve(Project.STATE)); // Behind what lies in it: deleted only if empty.
    List<Path> fresh =
        files.stream().filter(file -> !Files.exists(file, LinkOption.NOFOLLOW_LINKS)).toList();
    try {
      WrittenFile.folder(directory);
      register.write(files.get(0));
      if (fresh.contains(files.get(1))) {
        KeyFile.create(directory);
      }
      WrittenFile.create(files.get(3), project, Readers.USUAL);
      ProjectSchema.write(directory);
      ignore(directory); // Last: what others wrote there gains lines only if all else is done.
    } catch (IOException | Problem failed) {
      for (Path file : fresh) {
        Files.deleteIfExists(file);
      }
      throw failed instanceof Problem problem
          ? problem
          : Problem.of(Failure.FILE_UNWRITABLE, "the project cannot be written")
              .at(directory.toString())
              .because("its disk may be full, or its folder read-only; nothing of it is left there")
              .causedBy(failed);
    }
  }

  /** A URL as it is, or that of an SQLite file; a path is meant from where the user stands. */
  private static String url(String text, Path directory) {
    if (text.startsWith("jdbc:")) {
      return text;
    }
    if (text.matches("(?s)[A-Za-z][A-Za-z0-9+.-]+:.*|.*(@|://|\\p{Cntrl}).*")
        && !text.matches("[A-Za-z]:\\\\.*")) {
      throw Problem.of(Failure.URL_FORM, "this is neither a JDBC url nor the path of a file")
          .because("it begins like a url of another sort, or holds an @, and is not shown here")
          .remedy("write it as jdbc:postgresql://HOST:PORT/DATABASE, and who signs in as --user");
    }
    Path path = Path.of(text).toAbsolutePath().normalize();
    return "jdbc:sqlite:" + (path.startsWith(directory) ? directory.relativize(path) : path);
  }

  private static void ignore(Path directory) throws IOException {
    Path file = directory.resolve(".gitignore");
    List<String> present = Files.exists(file) ? Files.readAllLines(file) : List.of();
    StringBuilder added = new StringBuilder();
    for (String line : Project.IGNORED) {
      if (!present.contains(line)) {
        added.append(line).append('\n');
      }
    }
    boolean open = !present.isEmpty() && !Files.readString(file).endsWith("\n");
    WrittenFile.append(file, (open ? "\n" : "") + added);
  }

  /** A target of the source's engine. */
  private static String usual(String source, Path directory) {
    return Engines.of(new Engine.Address("live (production)", source, directory, "", ""))
        .usualTarget();
  }

  /** The lines of the project file that say who signs in; the password itself is not in them. */
  private String signIn() {
    boolean password = common.environment().containsKey(CommonOptions.PASSWORD);
    return (user.isEmpty() ? "" : "    user: " + user + "\n")
        + (password ? "    password: ${env:" + CommonOptions.PASSWORD + "}\n" : "");
  }

  private static String template(String from, String user, String into, String table)
      throws IOException {
    String text =
        new String(
            InitCommand.class.getResourceAsStream("yemble.yaml").readAllBytes(),
            java.nio.charset.StandardCharsets.UTF_8);
    return text.replace("@FROM@", from)
        .replace("@USER@", user)
        .replace("@INTO@", into)
        .replace("@TABLE@", table);
  }

  private void report(Path directory, int columns, boolean linked) {
    Output output = common.output;
    if (common.json) {
      output.json(Json.object("project", directory.toString(), "columns", columns));
      return;
    }
    output.line("Started a project in " + directory);
    output.table(
        new TextTable("", "")
            .row(
                Project.FILE,
                "databases, links, jobs: edit it; an editor that knows schemas completes its words")
            .row(
                "register.csv",
                Output.counted(columns, "column")
                    + " of live (production), all undecided: settle each")
            .row(Project.KEY_FILE, "the key that all masks are made with: keep it secret")
            .row(".gitignore", "keeps the key, and what holds originals, out of version control"));
    output.line();
    if (!linked) {
      output.line(
          output.paint(Output.Tone.WARNING, "warning: ")
              + "the database declares no foreign keys, so no row brings another;"
              + " yemble links --suggest looks for links");
      output.line();
    }
    output.line("Next: yemble survey looks for personal data, and settles what it is sure of");
    output.flush();
  }
}
