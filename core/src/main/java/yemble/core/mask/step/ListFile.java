package yemble.core.mask.step;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import yemble.core.file.TextFile;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/** A file of the user's own, one entry a line. */
final class ListFile {
  private ListFile() {}

  /** The lines of a file that say anything. */
  static List<String> lines(Path directory, YamlValue name) {
    Path path = directory.resolve(name.word());
    try {
      return Arrays.stream(TextFile.read(path, name.word()).split("\\R"))
          .filter(line -> !line.isBlank() && !line.startsWith("#"))
          .toList();
    } catch (IOException e) {
      throw name.place()
          .problem(Failure.SETTING_UNREADABLE, "the list " + name.word() + " cannot be read")
          .because("there is no such file in the project, or it is not UTF-8 text")
          .remedy("write its path from the project's folder: lists/" + name.word());
    }
  }
}
