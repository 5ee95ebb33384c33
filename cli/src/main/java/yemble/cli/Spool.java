package yemble.cli;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import yemble.core.file.WrittenFile;
import yemble.core.moment.Now;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Project;

/** A parcel on its way through standard input or output: a file that is gone when it is closed. */
record Spool(Path file) implements AutoCloseable {
  private static final String NAME = "parcel";
  private static final String ENDING = ".part";

  /** A file for one that is to be written. */
  static Spool empty(Project project) {
    Path state = project.directory().resolve(Project.STATE);
    try {
      WrittenFile.folder(state);
      removeAbandoned(state);
      return new Spool(Files.createTempFile(state, NAME, ENDING));
    } catch (IOException e) {
      throw failed(state, e);
    }
  }

  /** Removes what a killed program has left a day ago and longer. */
  private static void removeAbandoned(Path state) throws IOException {
    FileTime yesterday = FileTime.from(Now.moment().minus(Duration.ofDays(1)));
    try (DirectoryStream<Path> left = Files.newDirectoryStream(state, NAME + "*" + ENDING)) {
      for (Path file : left) {
        if (Files.getLastModifiedTime(file).compareTo(yesterday) < 0) {
          Files.deleteIfExists(file);
        }
      }
    }
  }

  /** All that standard input holds. */
  static Spool ofInput(Project project) {
    Spool spool = empty(project);
    try (InputStream in = System.in) {
      Files.copy(in, spool.file(), StandardCopyOption.REPLACE_EXISTING);
      return spool;
    } catch (IOException e) {
      spool.close();
      throw failed(spool.file(), e);
    }
  }

  /** Writes it to standard output. */
  void print() {
    try {
      Files.copy(file, System.out);
      System.out.flush();
    } catch (IOException e) {
      throw failed(file, e);
    }
  }

  private static Problem failed(Path file, IOException e) {
    return Problem.of(Failure.FILE_UNWRITABLE, "the parcel cannot be kept on its way")
        .at(file.toString())
        .causedBy(e);
  }

  @Override
  public void close() {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      throw failed(file, e);
    }
  }
}
