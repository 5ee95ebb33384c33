package yemble.core.parcel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Threads that pack and unpack beside the work: in order, whole, and never waited for in vain. */
@Timeout(value = 30, unit = TimeUnit.SECONDS)
class AheadTest {
  private static byte[] lines(int rows) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    RowText.Writer writer = new RowText.Writer(bytes);
    for (long i = 0; i < rows; i++) {
      writer.write(i, new Object[] {i * 2, "row " + i});
    }
    return bytes.toByteArray();
  }

  private static ReadAhead ahead(byte[] bytes) {
    return new ReadAhead(new RowText.Reader(new ByteArrayInputStream(bytes)), 2);
  }

  private static long unpacking() {
    return Thread.getAllStackTraces().keySet().stream()
        .filter(thread -> thread.getName().equals("yemble-unpack") && thread.isAlive())
        .count();
  }

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 499, 500, 501, 1_000, 20_000})
  void everyRowIsSeenOnceInOrder(int rows) throws IOException {
    List<Object> seen = new ArrayList<>();
    try (ReadAhead ahead = ahead(lines(rows))) {
      ahead.visit(
          new int[] {1, 0},
          (row, values) -> {
            assertThat(values).containsExactly("row " + row, row * 2);
            seen.add(row);
          });
    }
    assertThat(seen).hasSize(rows);
    assertThat(seen).isSortedAccordingTo((one, other) -> Long.compare((Long) one, (Long) other));
  }

  @ParameterizedTest
  @ValueSource(ints = {3, 700, 5_000})
  void whatIsCutShortIsToldAfterTheRowsBeforeIt(int rows) throws IOException {
    byte[] whole = lines(rows);
    List<Long> seen = new ArrayList<>();
    try (ReadAhead ahead = ahead(Arrays.copyOf(whole, whole.length - 1))) {
      assertThatThrownBy(() -> ahead.visit(new int[] {0}, (row, values) -> seen.add(row)))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageContaining("does not end");
    }
    assertThat(seen).hasSize(rows - 1);
  }

  @Test
  void whoeverStopsLookingStopsTheThread() throws IOException {
    try (ReadAhead ahead = ahead(lines(50_000))) {
      assertThatThrownBy(
              () ->
                  ahead.visit(
                      new int[] {0},
                      (row, values) -> {
                        if (row == 600) {
                          throw new IllegalStateException("enough");
                        }
                      }))
          .hasMessage("enough");
    }
    assertThat(unpacking()).isZero();
  }

  @Test
  void bytesAreHandedOnInOrder() throws IOException {
    Random random = new Random(5);
    ByteArrayOutputStream given = new ByteArrayOutputStream();
    ByteArrayOutputStream taken = new ByteArrayOutputStream();
    try (HandedOn on = new HandedOn(taken, "a part")) {
      for (int i = 0; i < 60; i++) {
        byte[] bytes = new byte[random.nextInt(100_000)];
        random.nextBytes(bytes);
        given.write(bytes);
        if (i % 3 == 0) {
          on.hand(
              CompletableFuture.supplyAsync(
                  () -> bytes,
                  CompletableFuture.delayedExecutor(random.nextInt(5), TimeUnit.MILLISECONDS)));
        } else {
          on.write(bytes);
        }
        on.write(i);
        given.write(i);
      }
    }
    assertThat(taken.toByteArray()).isEqualTo(given.toByteArray());
  }

  /** A disk that fills up is told to whoever writes, whenever that is noticed. */
  @ParameterizedTest
  @ValueSource(ints = {0, 200_000, 3_000_000})
  void aFullDiskIsTold(int room) {
    OutputStream disk =
        new OutputStream() {
          private int left = room;

          @Override
          public void write(int b) throws IOException {
            write(new byte[1], 0, 1);
          }

          @Override
          public void write(byte[] bytes, int from, int size) throws IOException {
            left -= size;
            if (left < 0) {
              throw new IOException("no space left");
            }
          }
        };
    assertThatThrownBy(
            () -> {
              try (HandedOn on = new HandedOn(disk, "a part")) {
                for (int i = 0; i < 100; i++) {
                  on.write(new byte[50_000]);
                }
              }
            })
        .isInstanceOf(IOException.class)
        .hasMessage("no space left");
  }

  /** What fails while bytes are made is told, too. */
  @Test
  void whatCannotBeMadeIsTold() {
    assertThatThrownBy(
            () -> {
              try (HandedOn on = new HandedOn(new ByteArrayOutputStream(), "a part")) {
                on.hand(CompletableFuture.failedFuture(new IllegalStateException("a mask fails")));
              }
            })
        .hasMessage("a mask fails");
  }
}
