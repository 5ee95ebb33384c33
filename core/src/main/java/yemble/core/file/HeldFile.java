package yemble.core.file;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;

/**
 * A file that one process holds at a time, with a line that says who it is. The system lets go of
 * it when that process ends, however it does; the file itself stays.
 */
public final class HeldFile implements AutoCloseable {
  /** What is locked lies behind all content, so that others can read who holds it. */
  private static final long BEHIND = Long.MAX_VALUE - 1;

  private final FileChannel channel;

  private HeldFile(FileChannel channel) {
    this.channel = channel;
  }

  /** What came of trying. */
  public record Tried(HeldFile held, String holder) {}

  /**
   * Tries to hold a file.
   *
   * @param line what others are told of who holds it
   * @return the file; or null, with the line of who holds it already
   */
  public static Tried hold(Path file, String line) throws IOException {
    FileChannel channel =
        FileChannel.open(
            file, StandardOpenOption.CREATE, StandardOpenOption.WRITE, LinkOption.NOFOLLOW_LINKS);
    try {
      if (isTaken(channel)) {
        channel.close();
        return new Tried(null, Files.readString(file).strip());
      }
      channel.truncate(0);
      channel.write(ByteBuffer.wrap((line + "\n").getBytes(StandardCharsets.UTF_8)), 0);
      Ownership.like(file.toAbsolutePath().getParent(), file);
      return new Tried(new HeldFile(channel), "");
    } catch (IOException | RuntimeException e) {
      channel.close();
      throw e;
    }
  }

  private static boolean isTaken(FileChannel channel) throws IOException {
    try {
      FileLock lock = channel.tryLock(BEHIND, 1, false);
      return lock == null;
    } catch (OverlappingFileLockException byThisProcess) {
      return true;
    }
  }

  @Override
  public void close() {
    try {
      channel.truncate(0);
      channel.close();
    } catch (IOException e) {
      // The system lets go of it when the process ends.
    }
  }
}
