package yemble.core.parcel;

import java.io.IOException;
import java.io.OutputStream;
import java.util.Arrays;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.Future;
import yemble.core.store.Conveyor;

/**
 * Hands bytes on in blocks to a thread that writes them, so that packing and sealing go on beside
 * what makes the bytes; less than a block needs no thread.
 */
final class HandedOn extends OutputStream {
  private static final int BLOCK = 1 << 17;

  private final OutputStream to;
  private final Conveyor<byte[], IOException> conveyor;
  private byte[] block = new byte[BLOCK];
  private int length;
  private boolean closed;
  private boolean failed;

  /**
   * @param to closed with this
   * @param what it is, for messages
   */
  HandedOn(OutputStream to, String what) {
    this.to = to;
    this.conveyor =
        new Conveyor<>(
            what,
            blocks -> {
              for (byte[] next = blocks.next(); next != null; next = blocks.next()) {
                to.write(next);
              }
            });
  }

  @Override
  public void write(int b) throws IOException {
    write(new byte[] {(byte) b}, 0, 1);
  }

  @Override
  public void write(byte[] bytes, int from, int size) throws IOException {
    int at = from;
    while (at < from + size) {
      int part = Math.min(from + size - at, BLOCK - length);
      System.arraycopy(bytes, at, block, length, part);
      at += part;
      length += part;
      if (length == BLOCK) {
        pass(CompletableFuture.completedFuture(block));
        block = new byte[BLOCK];
        length = 0;
      }
    }
  }

  /** Hands on bytes that may still be in the making; they come after what was written. */
  void hand(Future<byte[]> bytes) throws IOException {
    if (length > 0) {
      byte[] before = Arrays.copyOf(block, length);
      length = 0;
      pass(CompletableFuture.completedFuture(before));
    }
    pass(bytes);
  }

  private void pass(Future<byte[]> bytes) throws IOException {
    boolean before = failed;
    failed = true;
    conveyor.hand(bytes);
    failed = before;
  }

  @Override
  public void close() throws IOException {
    if (!closed) {
      closed = true;
      try (to) {
        if (failed) {
          conveyor.stop(); // Why has been told.
        } else {
          conveyor.finish();
          to.write(block, 0, length);
        }
      }
    }
  }
}
