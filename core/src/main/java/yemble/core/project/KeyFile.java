package yemble.core.project;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.Map;
import java.util.Set;
import yemble.core.crypto.SecretKey;
import yemble.core.file.TextFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * The project's key: in the environment variable {@code YEMBLE_KEY} if it is set, else in the file
 * {@code yemble.key}, which only its owner may read.
 */
public final class KeyFile {
  public static final String VARIABLE = "YEMBLE_KEY";
  public static final String UNDO_VARIABLE = "YEMBLE_UNDO_KEY";

  private KeyFile() {}

  /** The key of the project in a folder. */
  public static SecretKey read(Path directory, Map<String, String> environment) {
    String variable = environment.get(VARIABLE);
    if (variable != null) {
      return SecretKey.parse(variable)
          .orElseThrow(
              () ->
                  Problem.of(
                          Failure.KEY_FORM,
                          "the environment variable " + VARIABLE + " does not hold a key")
                      .because("a key is 32 bytes in base64url, 43 characters"));
    }
    return inFile(
        directory,
        Project.KEY_FILE,
        "restore it from where your team keeps it",
        "masks are made with the project's secret key",
        "put your team's key there or into " + VARIABLE + "; for a new project: yemble key new");
  }

  /**
   * The key in a file, which only its owner may read.
   *
   * @param restoring what to do if it does not hold one
   * @param why it is needed
   * @param missing what to do if it is not there
   */
  private static SecretKey inFile(
      Path directory, String name, String restoring, String why, String missing) {
    Path file = directory.resolve(name);
    try {
      TextFile.require(file, name);
      requirePrivate(file, name);
      return SecretKey.parse(TextFile.read(file, name))
          .orElseThrow(
              () ->
                  Problem.of(Failure.KEY_FORM, "this file does not hold a key")
                      .at(name)
                      .because("a key is 32 bytes in base64url, 43 characters")
                      .remedy(restoring));
    } catch (NoSuchFileException e) {
      throw Problem.of(Failure.KEY_MISSING, "the key is missing")
          .at(name)
          .because(why)
          .remedy(missing);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the key file cannot be read").at(name).causedBy(e);
    }
  }

  private static void requirePrivate(Path file, String name) throws IOException {
    if (!posix()) {
      return;
    }
    Set<PosixFilePermission> permissions = Files.getPosixFilePermissions(file);
    permissions.removeIf(permission -> permission.name().startsWith("OWNER"));
    if (!permissions.isEmpty()) {
      throw Problem.of(Failure.KEY_EXPOSED, "the key file can be read or changed by others")
          .at(name)
          .remedy("chmod 600 " + name);
    }
  }

  /** Writes a new key from the system's random source, unless there is one. */
  public static SecretKey create(Path directory) {
    SecretKey key = SecretKey.random();
    write(directory, key);
    return key;
  }

  /** Writes a new key of parcels, unless there is one. */
  public static SecretKey createForParcels(Path directory) {
    SecretKey key = SecretKey.random();
    write(directory, Project.PARCEL_KEY_FILE, key, "what it has sealed can be read with it alone");
    return key;
  }

  /** Writes a new key of a token store into a file of a name, unless it is there. */
  public static SecretKey createForStore(Path directory, String name) {
    SecretKey key = SecretKey.random();
    write(directory, name, key, "what it has encrypted can be read with it alone");
    return key;
  }

  /** The key of a token store in a file of a name, which only its owner may read. */
  public static SecretKey readForStore(Path directory, String name) {
    String making = "yemble key new store " + name + " makes one";
    return inFile(directory, name, making, "a token store opens with its key alone", making);
  }

  /** Writes a new key that originals are kept with, unless there is one. */
  public static SecretKey createForUndo(Path directory) {
    SecretKey key = SecretKey.random();
    write(directory, Project.UNDO_KEY_FILE, key, "what it has sealed can be read with it alone");
    return key;
  }

  /**
   * The key that originals are kept with: in the environment variable {@code YEMBLE_UNDO_KEY}, else
   * in the file {@code undo.key}, which only its owner may read.
   */
  public static SecretKey readForUndo(Path directory, Map<String, String> environment) {
    String variable = environment.get(UNDO_VARIABLE);
    String making = "yemble key new undo makes one; or put it into " + UNDO_VARIABLE;
    if (variable == null) {
      return inFile(
          directory,
          Project.UNDO_KEY_FILE,
          making,
          "originals lie in a file that only this key opens",
          making);
    }
    return SecretKey.parse(variable)
        .orElseThrow(
            () ->
                Problem.of(Failure.KEY_FORM, "this is no key that originals are kept with")
                    .at(UNDO_VARIABLE)
                    .because("a key is 32 bytes in base64url, 43 characters")
                    .remedy("yemble key new undo makes one"));
  }

  /** Writes a key into a folder that has none. */
  public static void write(Path directory, SecretKey key) {
    write(directory, Project.KEY_FILE, key, "another key gives every value another mask");
  }

  private static void write(Path directory, String name, SecretKey key, String why) {
    Path file = directory.resolve(name);
    if (Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
      throw Problem.of(Failure.FILE_THERE, "there is a key already")
          .at(name)
          .because(why)
          .remedy("move the file away first if that is what you want");
    }
    try {
      WrittenFile.create(file, key.reveal() + "\n", Readers.OWNER);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the key file cannot be written")
          .at(name)
          .causedBy(e);
    }
  }

  private static boolean posix() {
    return FileSystems.getDefault().supportedFileAttributeViews().contains("posix");
  }
}
