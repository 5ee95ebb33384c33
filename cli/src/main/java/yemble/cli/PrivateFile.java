package yemble.cli;

import com.fasterxml.jackson.dataformat.csv.CsvGenerator;
import com.fasterxml.jackson.dataformat.csv.CsvMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import yemble.core.problem.Problem;

/** Writes files that nobody but the user can read. */
final class PrivateFile {
  private PrivateFile() {}

  /**
   * Writes lines of values; an older file of the name is replaced.
   *
   * @throws Problem of type DATABASE if it cannot be written
   */
  static Path csv(Path folder, String name, List<List<Object>> lines) {
    Path file = folder.resolve(name.replace('"', '_').replace('/', '_'));
    CsvMapper csv =
        CsvMapper.builder().enable(CsvGenerator.Feature.ALWAYS_QUOTE_EMPTY_STRINGS).build();
    try {
      Files.deleteIfExists(file);
      if (folder.getFileSystem().supportedFileAttributeViews().contains("posix")) {
        Files.createFile(
            file,
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
      }
      Files.writeString(file, csv.writeValueAsString(lines));
      return file;
    } catch (IOException e) {
      throw Problem.database("the file " + file + " cannot be written").causedBy(e);
    }
  }
}
