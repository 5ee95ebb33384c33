package yemble.cli;

import java.nio.file.Path;
import java.util.Map;
import picocli.CommandLine.Option;
import yemble.core.job.UndoFile;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Project;
import yemble.core.project.ProjectFile;

/** Options that every command has. */
final class CommonOptions {
  /** The variable that a password is taken from where there is no project yet. */
  static final String PASSWORD = "YEMBLE_PASSWORD";

  @Option(
      names = "--project",
      paramLabel = "DIR",
      description = "the project's folder (default: the current one)")
  Path project = Path.of("");

  @Option(names = "--json", description = "print the result as JSON")
  boolean json;

  @Option(names = "--debug", description = "print the stack trace of a failure")
  boolean debug;

  @Option(
      names = {"-h", "--help"},
      usageHelp = true,
      description = "show this help")
  boolean help;

  final Output output = new Output(Terminal.detect());

  /** The project's folder, absolute. */
  Path directory() {
    Path directory = project.toAbsolutePath().normalize();
    if (!java.nio.file.Files.isDirectory(directory)) {
      throw Problem.of(Failure.PROJECT_FOLDER, "there is no such folder")
          .at(directory.toString())
          .remedy("name the project's folder with --project DIR");
    }
    return directory;
  }

  Project read() {
    Project project = ProjectFile.read(directory());
    UndoFile.expire(project);
    return project;
  }

  Map<String, String> environment() {
    return System.getenv();
  }
}
