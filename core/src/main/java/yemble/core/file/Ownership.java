package yemble.core.file;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFileAttributeView;
import java.nio.file.attribute.PosixFileAttributes;
import java.nio.file.attribute.PosixFilePermissions;

/**
 * Who a file belongs to. A program that runs as root makes files that nobody else can open; so a
 * file goes to the owner of the one whose place it takes, or of the folder it lies in.
 */
public final class Ownership {
  private Ownership() {}

  /** Gives a file the owner and group of another path, where this process may do that. */
  public static void like(Path pattern, Path file) {
    PosixFileAttributeView to = view(file);
    PosixFileAttributeView from = view(pattern);
    if (to == null || from == null) {
      return;
    }
    try {
      PosixFileAttributes wanted = from.readAttributes();
      PosixFileAttributes found = to.readAttributes();
      if (!wanted.owner().equals(found.owner())) {
        to.setOwner(wanted.owner());
        to.setGroup(wanted.group());
      }
    } catch (IOException e) {
      // Only root can give files away; anybody else's are their own already.
    }
  }

  /** The same with the rights, for a file that takes another one's place. */
  public static void takeOver(Path old, Path file) throws IOException {
    PosixFileAttributeView from = view(old);
    if (from != null) {
      Files.setPosixFilePermissions(file, from.readAttributes().permissions());
    }
    like(old, file);
  }

  /** Takes a file's rights from all but its owner, where the file system knows such. */
  public static void alone(Path file) {
    PosixFileAttributeView view = view(file);
    if (view != null) {
      try {
        view.setPermissions(PosixFilePermissions.fromString("rw-------"));
      } catch (IOException e) {
        // It is somebody else's, who has given it the rights that it has.
      }
    }
    like(file.toAbsolutePath().getParent(), file);
  }

  private static PosixFileAttributeView view(Path file) {
    return Files.getFileAttributeView(
        file, PosixFileAttributeView.class, LinkOption.NOFOLLOW_LINKS);
  }
}
