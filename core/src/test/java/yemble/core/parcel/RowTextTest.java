package yemble.core.parcel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RowTextTest {
  private static final String ODD = "\\\t\n\r\u0000\u0001 Nntdb,\"'é日🛳\u2028|";

  private static byte[] written(List<Object[]> rows) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    RowText.Writer writer = new RowText.Writer(out);
    for (int i = 0; i < rows.size(); i++) {
      writer.write(i * 3L - 7, rows.get(i));
    }
    return out.toByteArray();
  }

  private static RowText.Reader reader(String text) {
    return new RowText.Reader(new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
  }

  private static Object value(Random random) {
    return switch (random.nextInt(7)) {
      case 0 -> null;
      case 1 -> random.nextLong();
      case 2 -> Double.longBitsToDouble(random.nextLong());
      case 3 -> {
        byte[] bytes = new byte[random.nextInt(40)];
        random.nextBytes(bytes);
        yield bytes;
      }
      case 4 -> List.of("", "\\N", "n1", "\\", "\\\\t", "null").get(random.nextInt(6));
      default -> {
        StringBuilder text = new StringBuilder();
        int[] odd = ODD.codePoints().toArray();
        for (int i = random.nextInt(12); i > 0; i--) {
          text.appendCodePoint(odd[random.nextInt(odd.length)]);
        }
        yield text.toString();
      }
    };
  }

  private static boolean same(Object one, Object other) {
    return one instanceof byte[] bytes
        ? other instanceof byte[] others && Arrays.equals(bytes, others)
        : one instanceof Double number
            ? other instanceof Double another && number.compareTo(another) == 0
            : java.util.Objects.equals(one, other);
  }

  /** Gives so few bytes at a time that every line is cut somewhere. */
  private static InputStream slow(byte[] bytes) {
    return new ByteArrayInputStream(bytes) {
      @Override
      public synchronized int read(byte[] into, int from, int length) {
        return super.read(into, from, Math.min(3, length));
      }
    };
  }

  @Test
  void whatIsWrittenIsRead() throws IOException {
    Random random = new Random(7);
    for (int width : List.of(0, 1, 5)) {
      List<Object[]> rows = new ArrayList<>();
      for (int i = 0; i < 2_000; i++) {
        Object[] row = new Object[width];
        Arrays.setAll(row, at -> value(random));
        rows.add(row);
      }
      byte[] bytes = written(rows);
      assertThat(new String(bytes, StandardCharsets.UTF_8).chars().filter(c -> c == '\n').count())
          .isEqualTo(rows.size());
      RowText.Reader reader = new RowText.Reader(slow(bytes));
      Object[] found = new Object[width];
      for (int i = 0; i < rows.size(); i++) {
        assertThat(reader.next(found)).isTrue();
        assertThat(reader.number()).isEqualTo(i * 3L - 7);
        for (int column = 0; column < width; column++) {
          assertThat(same(rows.get(i)[column], found[column]))
              .as("%s and %s", rows.get(i)[column], found[column])
              .isTrue();
        }
      }
      assertThat(reader.next(found)).isFalse();
    }
  }

  @Test
  void aValueLargerThanAnyBuffer() throws IOException {
    String text = "Ahoy\t".repeat(100_000);
    byte[] blob = new byte[300_000];
    new Random(3).nextBytes(blob);
    RowText.Reader reader =
        new RowText.Reader(
            new ByteArrayInputStream(written(List.<Object[]>of(new Object[] {text, blob}))));
    Object[] found = new Object[2];
    assertThat(reader.next(found)).isTrue();
    assertThat(found[0]).isEqualTo(text);
    assertThat((byte[]) found[1]).isEqualTo(blob);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "1\tn1\n", "1\tn1\tn2\tn3\n", "1\tn1\tn2", "x\tn1\tn2\n", "1\tnx\tn2\n", "1\t\tn2\n",
        "1\tz1\tn2\n", "1\tt\\x\tn2\n", "1\tt\\\tn2\n", "1\tb?\tn2\n", "\n", "1\tdx\tn2\n",
      })
  void whatIsNoRowOfTwoValues(String text) {
    assertThatThrownBy(() -> reader(text).next(new Object[2]))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
