package yemble.core.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.text.Normalizer;

/** Whether two paths lead to one file, however they are written. */
public final class SameFile {
  private SameFile() {}

  /**
   * Whether two paths are, or could become, one file: through links, hard links and other
   * spellings. Names that differ in case or in the composition of letters alone count as the same,
   * since some file systems take them so.
   */
  public static boolean are(Path one, Path other) {
    try {
      if (Files.exists(one) && Files.exists(other) && Files.isSameFile(one, other)) {
        return true;
      }
    } catch (IOException e) {
      // They are told apart by their names.
    }
    return folded(one).equals(folded(other));
  }

  private static String folded(Path path) {
    return Normalizer.normalize(real(path).toString(), Normalizer.Form.NFKC)
        .toUpperCase(java.util.Locale.ROOT)
        .toLowerCase(java.util.Locale.ROOT);
  }

  /** The path behind links; of one that leads nowhere yet, as far as it exists. */
  public static Path real(Path path) {
    Path absolute = path.toAbsolutePath().normalize();
    try {
      if (Files.isSymbolicLink(absolute) && !Files.exists(absolute)) {
        Path target = absolute.resolveSibling(Files.readSymbolicLink(absolute)).normalize();
        return target.equals(absolute) ? absolute : within(target);
      }
      return absolute.toRealPath();
    } catch (IOException e) {
      return within(absolute);
    }
  }

  private static Path within(Path path) {
    Path folder = path.getParent();
    if (folder == null || path.getFileName() == null) {
      return path;
    }
    try {
      return folder.toRealPath().resolve(path.getFileName());
    } catch (IOException e) {
      return within(folder).resolve(path.getFileName());
    }
  }
}
