package yemble.core.file;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import java.util.UUID;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * A file that is written, whole or not at all: its content goes into a new file beside it, which is
 * then renamed. Nothing is ever written through a link or into a file that is there; what a rename
 * would replace is looked at first.
 */
public final class WrittenFile {
  /** Who may read it. */
  public enum Readers {
    /** Whoever may read the folder's files. */
    USUAL,
    /** The user alone: it holds originals or a secret. */
    OWNER
  }

  private WrittenFile() {}

  /**
   * Makes a file that must not be there yet.
   *
   * @throws FileAlreadyExistsException if it is
   */
  public static void create(Path file, String content, Readers readers) throws IOException {
    if (Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
      throw new FileAlreadyExistsException(file.toString());
    }
    Path beside = beside(file, content, readers);
    try {
      Files.createLink(file, beside); // Unlike a rename this never takes the place of a file.
    } catch (UnsupportedOperationException | FileAlreadyExistsException e) {
      if (Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
        throw new FileAlreadyExistsException(file.toString());
      }
      Files.move(beside, file, StandardCopyOption.ATOMIC_MOVE);
      return;
    } finally {
      Files.deleteIfExists(beside);
    }
  }

  /**
   * Makes a file, or takes the place of one of ours; a link is followed to the file behind it.
   *
   * @throws Problem of type REFUSED if something else than a plain file is there, or a database
   */
  public static void replace(Path file, String content, Readers readers) throws IOException {
    Path real = SameFile.real(file);
    refuseOthers(real);
    Path beside = beside(real, content, readers);
    try {
      if (Files.exists(real) && readers == Readers.USUAL) {
        Ownership.takeOver(real, beside);
      }
      Files.move(beside, real, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } finally {
      Files.deleteIfExists(beside);
    }
  }

  /**
   * Begins a file that is written bit by bit.
   *
   * @throws Problem of type REFUSED if something else than a plain file is there, or a database
   */
  public static Stream stream(Path file) throws IOException {
    Path real = SameFile.real(file);
    refuseOthers(real);
    Path folder = real.toAbsolutePath().getParent();
    Path beside = folder.resolve("." + real.getFileName() + "." + UUID.randomUUID() + ".part");
    return new Stream(real, beside, Files.newOutputStream(beside, StandardOpenOption.CREATE_NEW));
  }

  /**
   * A file under way; closing it without {@link #commit} leaves nothing.
   *
   * @param to what it will be called
   * @param beside what it is called until then
   * @param out takes its content, and is to be closed before {@link #commit}
   */
  public record Stream(Path to, Path beside, OutputStream out) implements AutoCloseable {
    /** Gives it its name. */
    public void commit() throws IOException {
      try (FileChannel channel = FileChannel.open(beside, StandardOpenOption.WRITE)) {
        channel.force(true);
      }
      Ownership.like(to.toAbsolutePath().getParent(), beside);
      Files.move(beside, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    }

    @Override
    public void close() throws IOException {
      out.close();
      Files.deleteIfExists(beside);
    }
  }

  /** Adds to the end of a plain file, or makes it. */
  public static void append(Path file, String content) throws IOException {
    refuseOthers(file);
    boolean isNew = !Files.exists(file);
    try (OutputStream out =
        Files.newOutputStream(
            file,
            StandardOpenOption.CREATE,
            StandardOpenOption.APPEND,
            LinkOption.NOFOLLOW_LINKS)) {
      out.write(content.getBytes(StandardCharsets.UTF_8));
    }
    if (isNew) {
      Ownership.like(file.toAbsolutePath().getParent(), file);
    }
  }

  /** Makes a folder, and gives it to whom the folder around it belongs. */
  public static void folder(Path folder) throws IOException {
    Path absolute = folder.toAbsolutePath();
    if (!Files.isDirectory(absolute)) {
      folder(absolute.getParent());
      Files.createDirectories(absolute);
      Ownership.like(absolute.getParent(), absolute);
    }
  }

  /**
   * Refuses what is no plain file, or a database.
   *
   * @throws Problem of type REFUSED
   */
  public static void refuseOthers(Path file) {
    if (!Files.exists(file, LinkOption.NOFOLLOW_LINKS)) {
      if (DatabaseFile.is(file)) {
        throw belongsToDatabase(file);
      }
      return;
    }
    if (!Files.isRegularFile(file)) {
      throw Problem.of(Failure.FILE_PROTECTED, "this is not a file that can be written")
          .at(file.toString())
          .because("it is a folder, a device, or a link that leads to one")
          .remedy("name another file");
    }
    if (DatabaseFile.is(file)) {
      throw belongsToDatabase(file);
    }
  }

  private static Problem belongsToDatabase(Path file) {
    return Problem.of(Failure.FILE_PROTECTED, "a database is never written over")
        .at(file.toString())
        .because("this file is one, or belongs to one")
        .remedy("name another file");
  }

  private static Path beside(Path file, String content, Readers readers) throws IOException {
    Path folder = file.toAbsolutePath().getParent();
    Path beside = folder.resolve("." + file.getFileName() + "." + UUID.randomUUID() + ".part");
    FileAttribute<?>[] rights =
        readers == Readers.OWNER
                && FileSystems.getDefault().supportedFileAttributeViews().contains("posix")
            ? new FileAttribute<?>[] {
              PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------"))
            }
            : new FileAttribute<?>[0];
    try (FileChannel channel =
        FileChannel.open(
            beside, Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE), rights)) {
      OutputStream out = Channels.newOutputStream(channel);
      out.write(content.getBytes(StandardCharsets.UTF_8));
      channel.force(true);
    } catch (IOException e) {
      Files.deleteIfExists(beside);
      throw e;
    }
    Ownership.like(folder, beside);
    return beside;
  }
}
