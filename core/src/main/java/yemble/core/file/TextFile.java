package yemble.core.file;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/** Files that are read as a whole. */
public final class TextFile {
  private TextFile() {}

  /**
   * The text of a file in UTF-8.
   *
   * @param shown what messages call it
   * @throws IOException if it cannot be read; a {@code CharacterCodingException} if it is no UTF-8
   * @throws Problem of type USAGE if it is there, and is no file: reading a pipe or a device might
   *     never end
   */
  public static String read(Path file, String shown) throws IOException {
    require(file, shown);
    return Files.readString(file, StandardCharsets.UTF_8);
  }

  /**
   * Refuses what is there, and is no file.
   *
   * @param shown what messages call it
   */
  public static void require(Path file, String shown) {
    if (Files.exists(file) && !Files.isRegularFile(file)) {
      throw Problem.of(Failure.FILE_FORM, "this is no file")
          .at(shown)
          .because("it is a folder, a pipe or a device")
          .remedy("put a plain file there");
    }
  }
}
