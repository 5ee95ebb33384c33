package yemble.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;

/**
 * Where the programs of the demo's servers are unpacked, once for all demos and tests of a user: a
 * folder that nobody else can write to. In the machine's temporary folder another user could have
 * put programs first, under the name that is looked for.
 */
public final class ServerPrograms {
  private ServerPrograms() {}

  /**
   * The folder, made if it is not there.
   *
   * @throws IOException if it is not the user's own, or others may write to it
   */
  public static Path folder() throws IOException {
    String cache = System.getenv("XDG_CACHE_HOME");
    Path base =
        cache == null || cache.isBlank()
            ? Path.of(System.getProperty("user.home"), ".cache")
            : Path.of(cache);
    try {
      Files.createDirectories(base);
    } catch (IOException e) {
      return Files.createTempDirectory("yemble-servers"); // Private, and new each time.
    }
    return checked(base.resolve("yemble-servers"));
  }

  static Path checked(Path folder) throws IOException {
    boolean posix = folder.getFileSystem().supportedFileAttributeViews().contains("posix");
    if (!Files.exists(folder, LinkOption.NOFOLLOW_LINKS)) {
      if (posix) {
        Files.createDirectory(
            folder,
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
      } else {
        Files.createDirectory(folder);
      }
    }
    if (!Files.isDirectory(folder, LinkOption.NOFOLLOW_LINKS)) {
      throw new IOException(folder + " is no folder of its own; remove it");
    }
    if (posix) {
      Path mine = Files.createTempFile("yemble", ".owner");
      boolean own = Files.getOwner(folder).equals(Files.getOwner(mine));
      Files.delete(mine);
      Set<?> rights = Files.getPosixFilePermissions(folder);
      if (!own || !rights.equals(PosixFilePermissions.fromString("rwx------"))) {
        throw new IOException(
            folder + " is not for its owner alone: programs are run from there; chmod 700 it");
      }
    }
    return folder;
  }
}
