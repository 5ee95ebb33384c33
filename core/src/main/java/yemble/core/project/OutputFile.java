package yemble.core.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.file.DatabaseFile;
import yemble.core.file.SameFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * A file that a user names for a result. It is never one that the project names or lives by, never
 * one of a database, and one that is there already only if Yemble wrote it, or if the user says
 * that it may go.
 */
public final class OutputFile {
  private static final Pattern FILE = Pattern.compile("\\$\\{file:([^}]*)}");

  /** A url of an engine that keeps its database in a file: behind its name comes the path. */
  private static final Pattern FILE_URL = Pattern.compile("jdbc:\\w+:(?!//)(.+)");

  private final Path path;
  private final WrittenFiles written;
  private final boolean overwrite;

  private OutputFile(Path path, WrittenFiles written, boolean overwrite) {
    this.path = path;
    this.written = written;
    this.overwrite = overwrite;
  }

  /**
   * Looks whether a file may be written, before the work for it begins.
   *
   * @param path as the user wrote it, from where the user stands
   * @param overwrite whether the user says that the file may go
   * @throws Problem of type REFUSED if it may not
   */
  public static OutputFile of(
      Project project, Path path, boolean overwrite, Map<String, String> environment) {
    Path file = path.toAbsolutePath().normalize();
    apart(project, file, environment);
    OutputFile output =
        new OutputFile(file, WrittenFiles.of(project.directory(), environment), overwrite);
    output.check();
    return output;
  }

  /**
   * Refuses what a project lives by, and what lies in no folder or in Yemble's own.
   *
   * @param file or folder that is to be written
   */
  static void apart(Project project, Path file, Map<String, String> environment) {
    Path folder = file.getParent();
    if (folder == null || !Files.isDirectory(folder)) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "there is no folder for this file")
          .at(file.toString())
          .remedy("make the folder, or name a file in one that is there");
    }
    for (Path own : own(project, environment)) {
      if (SameFile.are(own, file)) {
        throw Problem.of(
                Failure.FILE_PROTECTED,
                "this file belongs to the project, and is never written over")
            .at(file.toString())
            .because("the project lives by it, or its project file names it")
            .remedy("name another file");
      }
    }
    if (SameFile.real(file).startsWith(SameFile.real(project.directory().resolve(Project.STATE)))) {
      throw Problem.of(Failure.FILE_PROTECTED, "this folder is Yemble's own")
          .at(folder.toString())
          .remedy("name a file in another folder");
    }
  }

  private void check() {
    if (Files.isSymbolicLink(path)) {
      throw Problem.of(Failure.FILE_PROTECTED, "this is a link, and nothing is written through one")
          .at(path.toString())
          .remedy("name the file behind it, or another one");
    }
    WrittenFile.refuseOthers(path);
    if (Files.exists(path, LinkOption.NOFOLLOW_LINKS) && !overwrite && !written.holds(path)) {
      throw Problem.of(Failure.FILE_THERE, "there is a file already")
          .at(path.toString())
          .because("it is not as Yemble wrote it, if Yemble did")
          .remedy("name another file, or say that this one may go: --overwrite");
    }
  }

  public Path path() {
    return path;
  }

  /**
   * Writes it.
   *
   * @throws Problem of type DATABASE if the system refuses it
   */
  public void write(String content, Readers readers) {
    check();
    try {
      WrittenFile.replace(path, content, readers);
      written.keep(path);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the file cannot be written")
          .at(path.toString())
          .because("the system refuses it")
          .remedy("see whether the disk is full; name a file in a folder that you may write to")
          .causedBy(e);
    }
  }

  /** Remembers what somebody else has written there as Yemble's. */
  public void taken() {
    try {
      written.keep(path);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the project's state cannot be written")
          .at(Project.STATE)
          .causedBy(e);
    }
  }

  /** The files that a project lives by, and every one that its project file names. */
  private static List<Path> own(Project project, Map<String, String> environment) {
    Path directory = project.directory();
    List<Path> own = new ArrayList<>();
    for (String name : List.of(Project.FILE, Project.KEY_FILE, ".gitignore", "register.csv")) {
      own.add(directory.resolve(name));
    }
    List<String> words = new ArrayList<>();
    YamlValue.read(directory.resolve(Project.FILE), Project.FILE).texts(words::add);
    for (Database database : project.databases().values()) {
      words.add(database.register());
      try {
        words.add(database.url().value(directory, environment));
      } catch (Problem unknown) {
        // What its url refers to is not there: no database either.
      }
    }
    for (String word : words) {
      Matcher reference = FILE.matcher(word);
      while (reference.find()) {
        add(own, directory, reference.group(1));
      }
      Matcher url = FILE_URL.matcher(word);
      if (url.matches()) {
        path(directory, url.group(1))
            .forEach(database -> own.addAll(DatabaseFile.family(database)));
      } else {
        add(own, directory, word);
      }
    }
    return own;
  }

  private static void add(List<Path> own, Path directory, String word) {
    own.addAll(path(directory, word));
  }

  /** The path that a word of the project file may be; none if it cannot be one. */
  private static List<Path> path(Path directory, String word) {
    try {
      Path path = directory.resolve(word).normalize();
      return word.isBlank() || path.getFileName() == null || path.equals(directory)
          ? List.of()
          : List.of(path);
    } catch (InvalidPathException e) {
      return List.of();
    }
  }
}
