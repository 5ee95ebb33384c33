package yemble.core.file;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.Comparator;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * A folder of files that is written whole or not at all: beside, then renamed. Closing it without
 * {@link #commit} leaves nothing.
 *
 * @param to what it will be called
 * @param beside what it is called until then
 */
public record WrittenFolder(Path to, Path beside) implements AutoCloseable {
  /** Begins one; what is there under its name goes at its {@link #commit}. */
  public static WrittenFolder begin(Path to) throws IOException {
    Path around = to.toAbsolutePath().getParent();
    Path beside = around.resolve("." + to.getFileName() + "." + UUID.randomUUID() + ".part");
    Files.createDirectory(beside);
    Ownership.like(around, beside);
    return new WrittenFolder(to, beside);
  }

  /** Gives it its name. */
  public void commit() throws IOException {
    for (Path file : files(beside)) {
      if (Files.isRegularFile(file)) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
          channel.force(true);
        }
      }
      Ownership.like(beside, file);
    }
    Path old = beside.resolveSibling(beside.getFileName() + ".old");
    if (Files.exists(to, LinkOption.NOFOLLOW_LINKS)) {
      Files.move(to, old, StandardCopyOption.ATOMIC_MOVE);
    }
    Files.move(beside, to, StandardCopyOption.ATOMIC_MOVE);
    remove(old);
  }

  @Override
  public void close() {
    try {
      remove(beside);
    } catch (IOException e) {
      // What comes before says what is wrong; a folder with this name is no script.
    }
  }

  private static void remove(Path folder) throws IOException {
    if (Files.exists(folder, LinkOption.NOFOLLOW_LINKS)) {
      for (Path path : files(folder)) {
        Files.delete(path);
      }
    }
  }

  /** All that lies in a folder, the folder last. */
  private static List<Path> files(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(folder)) {
      return all.sorted(Comparator.reverseOrder()).toList();
    }
  }
}
