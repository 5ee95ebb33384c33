package yemble.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.UnmatchedArgumentException;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;

/** How a failure is told: in prose on standard error; with {@code --json} as an object as well. */
final class FailureView {
  /** How far what is said stands in. */
  private static final int INDENT = 9;

  private final boolean json;
  private final boolean debug;

  /** How to tell it to who has called the program with these words. */
  FailureView(String... args) {
    this.json = List.of(args).contains("--json");
    this.debug = List.of(args).contains("--debug");
  }

  /** Tells what has failed; its exit code. */
  int failure(Throwable failure) {
    return failure instanceof Problem problem ? told(problem, problem) : unexpected(failure);
  }

  /** Tells of what nobody has foreseen. */
  int unexpected(Throwable failure) {
    Problem problem =
        failure instanceof OutOfMemoryError
            ? Problem.of(Failure.MEMORY, "there is not enough memory")
            : Problem.of(
                Failure.BUG, "this is a bug of ours: " + failure.getClass().getSimpleName());
    return told(problem, failure);
  }

  /** Tells of words that the command does not take. */
  int wrongUsage(ParameterException failure) {
    CommandLine commandLine = failure.getCommandLine();
    String word =
        failure instanceof UnmatchedArgumentException unmatched
                && !unmatched.getUnmatched().isEmpty()
            ? unmatched.getUnmatched().get(0)
            : "";
    if (String.valueOf(failure.getMessage()).contains("InvalidPathException")) {
      Problem unspelt =
          Problem.of(Failure.OPTION, "a path cannot be spelt here")
              .because("it holds characters that the locale does not have")
              .remedy("set LC_ALL=C.UTF-8, or call yemble by its launcher, which does");
      return told(unspelt, failure);
    }
    Problem problem =
        Problem.of(
                Failure.OPTION,
                word.isEmpty() ? failure.getMessage() : "unknown word \"" + word + "\"")
            .because(word.isEmpty() ? "" : meant(word, commandLine.getCommandSpec()))
            .remedy("see \"" + commandLine.getCommandSpec().qualifiedName() + " --help\"");
    return told(problem, problem);
  }

  /** The command or option that was probably meant, or an empty text. */
  private static String meant(String word, CommandSpec command) {
    List<String> known = new ArrayList<>(command.subcommands().keySet());
    command.options().forEach(option -> known.add(option.longestName()));
    return Nearest.to(word, known).map(nearest -> "did you mean \"" + nearest + "\"?").orElse("");
  }

  private int told(Problem problem, Throwable cause) {
    Output output = new Output(Terminal.detect());
    if (json) {
      output.json(object(problem));
    }
    output.message(
        output.paint(Output.Tone.BAD, "yemble: ")
            + prose(problem, output)
            + "\n  "
            + output.paint(Output.Tone.FAINT, "code:  " + problem.failure().code()));
    if (debug) {
      StackTraces.print(cause);
    }
    return problem.exitCode();
  }

  /** What a problem says, in which names end no line; at a terminal in lines that fit it. */
  private static String prose(Problem problem, Output output) {
    StringBuilder text = new StringBuilder(Visible.of(problem.what()));
    part(text, "where: ", Visible.of(problem.where()));
    part(text, "why:   ", fitting(lines(problem.why()), output));
    part(text, "do:    ", fitting(lines(problem.remedy()), output));
    return text.toString();
  }

  private static String fitting(String text, Output output) {
    return output.terminal().errors() && text.indexOf('\n') < 0
        ? String.join("\n" + " ".repeat(INDENT), output.wrapped(text, INDENT))
        : text;
  }

  private static String lines(String text) {
    return Visible.lines(text.replaceAll("\n(?! {4})", "\\\\n"));
  }

  private static void part(StringBuilder text, String word, String said) {
    if (!said.isEmpty()) {
      text.append("\n  ").append(word).append(said);
    }
  }

  private static Object object(Problem problem) {
    String why = problem.all().isEmpty() ? problem.why() : String.join("; ", problem.all());
    return Json.object(
        "error",
        Json.object(
            "code", problem.failure().code(),
            "exit", problem.exitCode(),
            "what", problem.what(),
            "where", Json.text(problem.where()),
            "why", Json.text(why),
            "reasons", problem.all(),
            "do", problem.remedy()));
  }
}
