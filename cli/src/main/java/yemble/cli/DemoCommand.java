package yemble.cli;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.KeyFile;
import yemble.core.project.Project;
import yemble.demo.DemoProject;
import yemble.demo.DemoServer;
import yemble.demo.MariadbServer;
import yemble.demo.PostgresqlServer;

/** Everything, on made-up data. */
@Command(
    name = "demo",
    description = {
      "See the whole job on made-up data: Orlisay Ferries, an invented company.",
      "Makes a folder with a database and a project, and runs each command in it."
    },
    footer = {
      "%nExamples:",
      "  yemble demo               in the folder yemble-demo",
      "  yemble demo /tmp/ferry    in a folder of your choice",
      "  yemble demo --engine mariadb --stay"
    })
final class DemoCommand implements Callable<Integer> {
  @Mixin CommonOptions common;

  @Parameters(
      arity = "0..1",
      paramLabel = "DIR",
      description = "the folder to make (default: yemble-demo)")
  Path directory = Path.of("yemble-demo");

  @Option(
      names = "--scale",
      paramLabel = "N",
      defaultValue = "1",
      description = "how much data: 1 is 60,000 rows, 100 six million (default: 1)")
  int scale;

  @Option(
      names = "--engine",
      paramLabel = "ENGINE",
      defaultValue = "sqlite",
      description = "sqlite, postgresql or mariadb: on a server that the demo starts itself")
  String engine;

  @Option(names = "--stay", description = "let that server run until Enter is pressed")
  boolean stay;

  /** What each command ended with. */
  private Map<String, Integer> ends = new LinkedHashMap<>();

  private static final List<String> ENGINES = List.of("sqlite", "postgresql", "mariadb");

  /** A command of the demo, what it is for, and the exit code that it ends with. */
  private record Step(String title, int expected, String... command) {}

  private static final List<Step> STEPS =
      List.of(
          new Step("Is everything in place?", 0, "doctor"),
          new Step("Where is personal data? Names and a sample of the values tell.", 0, "survey"),
          new Step(
              "Take over what it suggests; what it does not know stays open.",
              0,
              "register",
              "accept"),
          new Step(
              "A booking's reference identifies people: all but its shape shall go.",
              0,
              "register",
              "mask",
              "booking.reference",
              "luggage.tag",
              "crew.locker",
              "loyalty_member.member_no",
              "audit_log.action",
              "web_session.data $.gift.to"),
          new Step(
              "The rest is about things, not people.",
              0,
              "register",
              "keep",
              "--open",
              "--reason",
              "about things, not people"),
          new Step("What does one passenger become?", 0, "preview", "passenger", "--row", "17"),
          new Step(
              "And what is written about somebody?",
              0,
              "preview",
              "note",
              "--where",
              "body LIKE '%share a cabin%'",
              "--rows",
              "2"),
          new Step(
              "How large would the subset be, and what brings it in?", 0, "gauge", "--changes"),
          new Step("Why would a row be in it?", 0, "why", "sailing", "11"),
          new Step("Now for real: select, mask, load, verify.", 0, "run", "--yes"),
          new Step("Anybody can prove it again later.", 0, "verify"));

  @Override
  public Integer call() throws IOException, SQLException {
    if (!ENGINES.contains(engine)) {
      throw Problem.of(Failure.ENGINE_UNKNOWN, "unknown engine \"" + engine + "\"")
          .remedy(Nearest.hint(engine, ENGINES));
    }
    if (scale < 1) {
      throw Problem.of(Failure.OPTION, "--scale takes a number of 1 or more");
    }
    Path folder = directory.toAbsolutePath().normalize();
    requireOurs(folder);
    return common.json ? object(folder) : made(folder);
  }

  /** The demo with its story on standard error, and an object as its result. */
  private int object(Path folder) throws IOException, SQLException {
    PrintStream result = System.out;
    Map<String, Integer> ends = new LinkedHashMap<>();
    int code;
    System.setOut(System.err);
    try {
      DemoCommand told = new DemoCommand();
      told.common = new CommonOptions();
      told.scale = scale;
      told.engine = engine;
      told.stay = stay;
      told.ends = ends;
      code = told.made(folder);
    } finally {
      System.setOut(result);
    }
    common.output.json(
        Json.object(
            "folder",
            folder.toString(),
            "engine",
            engine,
            "scale",
            scale,
            "steps",
            Json.list(
                ends.entrySet(),
                step -> Json.object("command", step.getKey(), "exit", step.getValue()))));
    return code;
  }

  private int made(Path folder) throws IOException, SQLException {
    Output output = common.output;
    output.line("Making Orlisay Ferries, an invented company, in " + folder);
    for (String made : List.of("dev.db", "register.csv", Project.KEY_FILE)) {
      Files.deleteIfExists(folder.resolve(made));
    }
    if (!engine.equals("sqlite")) {
      String name = engine.equals("mariadb") ? "MariaDB" : "PostgreSQL";
      output.line("  server         a " + name + " server of its own, with two databases");
      output.flush();
      try (DemoServer server = started(name, folder.resolve("server"))) {
        DemoProject.write(folder, scale, server);
        return steps(folder, server);
      }
    }
    DemoProject.write(folder, scale);
    output.line("  live.db        its production database");
    return steps(folder, null);
  }

  private static DemoServer started(String engine, Path folder) throws IOException {
    try {
      return engine.equals("MariaDB")
          ? MariadbServer.start(folder)
          : PostgresqlServer.start(folder);
    } catch (NoClassDefFoundError absent) {
      throw Problem.of(Failure.DEMO_SERVER, "the demo's " + engine + " server is not here")
          .because("it is no part of the program, only of its build")
          .remedy("start the demo with ./yemble in the folder of the sources");
    }
  }

  private int steps(Path folder, DemoServer server) throws IOException {
    Output output = common.output;
    KeyFile.write(folder, DemoProject.key());
    output.line("  yemble.yaml    the project: what to take, from where, into where");
    int code = 0;
    for (Step step : STEPS) {
      code = step(step.title(), folder, step.command());
      ends.put(shown(step.command()), code);
      if (code != step.expected()) {
        output.flush();
        return code == 0 ? 70 : code;
      }
    }
    next(folder, server);
    output.flush();
    if (server != null && stay) {
      output.line("Press Enter to stop the server.");
      output.flush();
      int pressed = System.in.read();
      while (pressed >= 0 && pressed != '\n') {
        pressed = System.in.read();
      }
    }
    return code;
  }

  private static void requireOurs(Path folder) throws IOException {
    if (!Files.exists(folder) || Files.exists(folder.resolve(DemoProject.MARK))) {
      return;
    }
    boolean empty = false;
    if (Files.isDirectory(folder)) {
      try (DirectoryStream<Path> content = Files.newDirectoryStream(folder)) {
        empty = !content.iterator().hasNext();
      }
    }
    if (!empty) {
      throw Problem.of(Failure.FILE_THERE, "the folder is not empty, and not a demo's")
          .at(folder.toString())
          .remedy("name another one: yemble demo DIR");
    }
  }

  private int step(String title, Path folder, String... command) {
    Output output = common.output;
    output.line();
    output.line(output.paint(Output.Tone.STRONG, title));
    output.line(output.paint(Output.Tone.GOOD, "$ ") + "yemble " + shown(command));
    output.flush();
    String[] args = new String[command.length + 2];
    System.arraycopy(command, 0, args, 0, command.length);
    args[command.length] = "--project";
    args[command.length + 1] = folder.toString();
    return Main.execute(args);
  }

  /** The command as it would be typed. */
  private static String shown(String... command) {
    List<String> words = new java.util.ArrayList<>();
    for (String word : command) {
      words.add(word.matches("[A-Za-z0-9_./-]+") ? word : '"' + word.replace("$", "\\$") + '"');
    }
    return String.join(" ", words);
  }

  private void next(Path folder, DemoServer server) {
    Output output = common.output;
    output.line();
    output.line(
        output.paint(Output.Tone.STRONG, "That was the demo. All of it stays in " + folder));
    if (server == null) {
      output.line("  Look at the masked copy:     sqlite3 " + folder.resolve("dev.db"));
    } else if (stay) {
      output.line(
          "  Look at the masked copy:     "
              + (server instanceof MariadbServer
                  ? "mariadb -h 127.0.0.1 -P " + server.port() + " -u " + server.user() + " dev"
                  : "psql -h localhost -p " + server.port() + " -U " + server.user() + " dev"));
    } else {
      output.line("  The server stops now; with --stay it runs until you press Enter.");
    }
    output.line("  Change the picks:            edit yemble.yaml there, then: yemble run");
    output.line("  Decide otherwise:            edit register.csv there, then: yemble run");
    output.line("  Your own database:           yemble init jdbc:sqlite:FILE --project DIR");
  }
}
