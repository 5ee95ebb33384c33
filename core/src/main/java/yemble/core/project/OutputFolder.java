package yemble.core.project;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import yemble.core.file.WrittenFolder;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * A folder that a user names for a script. It is a new or an empty one, or holds a script that the
 * user says may go; never anything else.
 */
public final class OutputFolder {
  private final Path path;
  private final String script;

  private OutputFolder(Path path, String script) {
    this.path = path;
    this.script = script;
  }

  /**
   * Looks whether a folder may be written, before the work for it begins.
   *
   * @param path as the user wrote it, from where the user stands
   * @param script the name of the file that a script begins with
   * @param overwrite whether the user says that a script there may go
   * @throws Problem of type REFUSED if it may not
   */
  public static OutputFolder of(
      Project project,
      Path path,
      String script,
      boolean overwrite,
      Map<String, String> environment) {
    Path folder = path.toAbsolutePath().normalize();
    OutputFile.apart(project, folder, environment);
    if (Files.isSymbolicLink(folder)
        || (Files.exists(folder, LinkOption.NOFOLLOW_LINKS) && !Files.isDirectory(folder))) {
      throw Problem.of(Failure.FILE_PROTECTED, "this is not a folder")
          .at(folder.toString())
          .because("it is a file, or a link")
          .remedy("name a new folder");
    }
    OutputFolder output = new OutputFolder(folder, script);
    if (!output.content().isEmpty()) {
      if (!output.isScript()) {
        throw Problem.of(Failure.FILE_PROTECTED, "this folder holds something else than a script")
            .at(folder.toString())
            .remedy("name a new folder");
      }
      if (!overwrite) {
        throw Problem.of(Failure.FILE_THERE, "there is a script already")
            .at(folder.toString())
            .remedy("name another folder, or say that this one may go: --overwrite");
      }
    }
    return output;
  }

  private List<String> content() {
    if (!Files.exists(path)) {
      return List.of();
    }
    try (Stream<Path> files = Files.list(path)) {
      return files.map(file -> file.getFileName().toString()).toList();
    } catch (IOException e) {
      throw unwritable(e);
    }
  }

  private boolean isScript() {
    Path begin = path.resolve(script);
    if (!Files.isRegularFile(begin) || !List.of(script, "rows").containsAll(content())) {
      return false;
    }
    try (BufferedReader lines = Files.newBufferedReader(begin, StandardCharsets.UTF_8)) {
      String first = lines.readLine();
      return first != null && first.startsWith("-- ") && first.contains("; written by yemble ");
    } catch (IOException e) {
      return false;
    }
  }

  private Problem unwritable(IOException e) {
    return Problem.of(Failure.FILE_UNWRITABLE, "the folder cannot be written")
        .at(path.toString())
        .because("the system refuses it")
        .remedy("see whether the disk is full; name a folder in one that you may write to")
        .causedBy(e);
  }

  public Path path() {
    return path;
  }

  /** Begins it, beside what is there. */
  public WrittenFolder begin() {
    try {
      return WrittenFolder.begin(path);
    } catch (IOException e) {
      throw unwritable(e);
    }
  }

  /** Gives a folder that was begun its name. */
  public void commit(WrittenFolder begun) {
    try {
      begun.commit();
    } catch (IOException e) {
      throw unwritable(e);
    }
  }
}
