package yemble.cli;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.IVersionProvider;
import picocli.CommandLine.Option;
import yemble.core.problem.Nearest;
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
  private static final int BUG = 70;

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
    COMMANDS.put("gauge", GaugeCommand.class);
    COMMANDS.put("why", WhyCommand.class);
    COMMANDS.put("run", RunCommand.class);
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
    int code;
    try {
      code = execute(args);
    } catch (Throwable failure) {
      code = bug(failure, java.util.List.of(args).contains("--debug"));
    }
    System.exit(delivered() || code != 0 ? code : Problem.Type.DATABASE.exitCode());
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
    System.err.println("yemble: the result cannot be written to standard output");
    System.err.println("  why:   it is closed, or its disk is full");
    System.err.println("  do:    let it lead to where there is room");
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
    commandLine.setExecutionExceptionHandler(Main::failure);
    commandLine.setParameterExceptionHandler(Main::wrongUsage);
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

  private static int failure(
      Exception failure, CommandLine commandLine, CommandLine.ParseResult parsed) {
    boolean debug =
        commandLine.getParseResult() != null
            && commandLine.getParseResult().hasMatchedOption("--debug");
    Output output = new Output(Terminal.detect());
    if (failure instanceof Problem problem) {
      output.message(output.paint(Output.Tone.BAD, "yemble: ") + said(problem));
      if (debug) {
        StackTraces.print(problem);
      }
      return problem.exitCode();
    }
    return bug(failure, debug);
  }

  /** What a problem says, in which names end no line. */
  private static String said(Problem problem) {
    StringBuilder text = new StringBuilder(Visible.of(problem.what()));
    part(text, "where: ", Visible.of(problem.where()));
    part(text, "why:   ", Visible.lines(problem.why().replaceAll("\n(?! {4})", "\\\\n")));
    part(text, "do:    ", Visible.lines(problem.remedy().replaceAll("\n(?! {4})", "\\\\n")));
    return text.toString();
  }

  private static void part(StringBuilder text, String word, String said) {
    if (!said.isEmpty()) {
      text.append("\n  ").append(word).append(said);
    }
  }

  private static int bug(Throwable failure, boolean debug) {
    Output output = new Output(Terminal.detect());
    String what =
        failure instanceof OutOfMemoryError
            ? "there is not enough memory; give Java more with JAVA_TOOL_OPTIONS=-Xmx…"
            : "this is a bug of ours: " + failure.getClass().getSimpleName();
    output.message(
        output.paint(Output.Tone.BAD, "yemble: ")
            + what
            + "\n  do:    run it again with --debug and report what it prints");
    if (debug) {
      StackTraces.print(failure);
    }
    return BUG;
  }

  private static int wrongUsage(CommandLine.ParameterException failure, String[] args) {
    Output output = new Output(Terminal.detect());
    CommandLine.Model.CommandSpec command = failure.getCommandLine().getCommandSpec();
    output.message(
        output.paint(Output.Tone.BAD, "yemble: ")
            + what(failure)
            + suggestion(failure, command)
            + "\n  do:    see \""
            + command.qualifiedName()
            + " --help\"");
    return Problem.Type.USAGE.exitCode();
  }

  private static String what(CommandLine.ParameterException failure) {
    return failure instanceof CommandLine.UnmatchedArgumentException unmatched
            && !unmatched.getUnmatched().isEmpty()
        ? "unknown word \"" + unmatched.getUnmatched().get(0) + "\""
        : failure.getMessage();
  }

  /** The command or option that was probably meant. */
  private static String suggestion(
      CommandLine.ParameterException failure, CommandLine.Model.CommandSpec command) {
    if (!(failure instanceof CommandLine.UnmatchedArgumentException unmatched)
        || unmatched.getUnmatched().isEmpty()) {
      return "";
    }
    String word = unmatched.getUnmatched().get(0);
    List<String> known = new ArrayList<>(command.subcommands().keySet());
    command.options().forEach(option -> known.add(option.longestName()));
    return Nearest.to(word, known)
        .map(nearest -> "\n  why:   did you mean \"" + nearest + "\"?")
        .orElse("");
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
