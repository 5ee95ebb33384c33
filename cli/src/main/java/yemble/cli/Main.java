package yemble.cli;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.util.LinkedHashMap;
import java.util.Map;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.IVersionProvider;
import picocli.CommandLine.Option;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/** The program: finds the command, turns failures into messages and exit codes. */
@Command(
    name = "yemble",
    versionProvider = Main.Version.class,
    synopsisSubcommandLabel = "COMMAND",
    description = {
      "Takes a referentially consistent subset of a database, masks the personal data in it,",
      "and loads it into a test database.%n"
    },
    footer = {
      "%nFirst steps:",
      "  yemble demo                          see all of it on made-up data",
      "  yemble init jdbc:sqlite:live.db      start a project for a database of yours",
      "%n\"yemble COMMAND --help\" tells more about each command."
    })
public final class Main implements Runnable {
  /** Every command, in the order of work. */
  private static final Map<String, Class<?>> COMMANDS = new LinkedHashMap<>();

  static {
    COMMANDS.put("init", InitCommand.class);
    COMMANDS.put("doctor", DoctorCommand.class);
    COMMANDS.put("key", KeyCommand.class);
    COMMANDS.put("survey", SurveyCommand.class);
    COMMANDS.put("register", RegisterCommand.class);
    COMMANDS.put("masks", MasksCommand.class);
    COMMANDS.put("preview", PreviewCommand.class);
    COMMANDS.put("pins", PinsCommand.class);
    COMMANDS.put("names", NamesCommand.class);
    COMMANDS.put("tokens", TokensCommand.class);
    COMMANDS.put("links", LinksCommand.class);
    COMMANDS.put("gauge", GaugeCommand.class);
    COMMANDS.put("why", WhyCommand.class);
    COMMANDS.put("run", RunCommand.class);
    COMMANDS.put("rewrite", RewriteCommand.class);
    COMMANDS.put("undo", UndoCommand.class);
    COMMANDS.put("pack", PackCommand.class);
    COMMANDS.put("load", LoadCommand.class);
    COMMANDS.put("script", ScriptCommand.class);
    COMMANDS.put("forget", ForgetCommand.class);
    COMMANDS.put("shelf", ShelfCommand.class);
    COMMANDS.put("verify", VerifyCommand.class);
    COMMANDS.put("demo", DemoCommand.class);
  }

  @Option(
      names = {"-h", "--help"},
      usageHelp = true,
      description = "show this help")
  boolean help;

  @Option(
      names = {"-V", "--version"},
      versionHelp = true,
      description = "show the version")
  boolean version;

  public static void main(String[] args) {
    // Drivers write urls that they cannot read to the log of the platform, passwords and all.
    System.setProperty("java.util.logging.config.class", Silence.class.getName());
    Stop.watch();
    int code;
    try {
      code = execute(args);
    } catch (Throwable failure) {
      code = new FailureView(args).unexpected(failure);
    }
    Stop.over();
    System.exit(delivered() || code != 0 ? code : Failure.OUTPUT_CLOSED.type().exitCode());
  }

  /** Whether what was printed has arrived; or nobody wants it any more, as at the end of a pipe. */
  private static boolean delivered() {
    if (!System.out.checkError()) {
      return true;
    }
    try {
      new FileOutputStream(FileDescriptor.out).write('\n');
    } catch (IOException e) {
      if (String.valueOf(e.getMessage()).contains("pipe")) {
        return true;
      }
    }
    new FailureView()
        .failure(
            Problem.of(Failure.OUTPUT_CLOSED, "the result cannot be written to standard output")
                .because("it is closed, or its disk is full"));
    return false;
  }

  /** Runs a command; its exit code. */
  static int execute(String... args) {
    if (args.length == 1 && (args[0].equals("--version") || args[0].equals("-V"))) {
      System.out.println("yemble " + Version.number());
      return 0;
    }
    CommandLine commandLine = new CommandLine(new Main());
    addCommands(commandLine, args.length == 0 ? "" : args[0]);
    FailureView view = new FailureView(args);
    commandLine.setExecutionExceptionHandler((failure, command, parsed) -> view.failure(failure));
    commandLine.setParameterExceptionHandler((failure, words) -> view.wrongUsage(failure));
    commandLine.setUsageHelpWidth(100);
    commandLine.setColorScheme(
        CommandLine.Help.defaultColorScheme(
            Terminal.detect().color() ? CommandLine.Help.Ansi.ON : CommandLine.Help.Ansi.OFF));
    return commandLine.execute(args);
  }

  /**
   * Adds the command that is called, or, where none of them is, all of them: looking into all of
   * their classes takes longer than many a command.
   */
  private static void addCommands(CommandLine commandLine, String called) {
    Class<?> one = COMMANDS.get(called);
    if (one != null) {
      commandLine.addSubcommand(called, one);
    } else {
      COMMANDS.forEach(commandLine::addSubcommand);
    }
  }

  @Override
  public void run() {
    CommandLine commandLine = new CommandLine(this);
    addCommands(commandLine, "");
    commandLine.usage(System.out);
  }

  /** A configuration of the platform's log that has no place to write to. */
  public static final class Silence {}

  /** The version from the jar's manifest. */
  static final class Version implements IVersionProvider {
    @Override
    public String[] getVersion() {
      return new String[] {"yemble " + number()};
    }

    static String number() {
      String version = Main.class.getPackage().getImplementationVersion();
      return version == null ? "(built from a folder)" : version;
    }
  }
}
