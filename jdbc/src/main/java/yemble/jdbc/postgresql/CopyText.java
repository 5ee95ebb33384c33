package yemble.jdbc.postgresql;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;

/**
 * The text format of COPY, as PostgreSQL's manual describes it: fields parted by tabs, {@code \N}
 * for NULL, and a backslash before what would be mistaken.
 */
final class CopyText {
  private CopyText() {}

  /**
   * Finds the fields of a line.
   *
   * @param ends takes the position after each field
   */
  static void split(byte[] line, int[] ends) {
    int field = 0;
    int length = line.length - 1;
    for (int i = 0; i < length; i++) {
      if (line[i] == '\t') {
        ends[field++] = i;
      }
    }
    ends[field] = length;
  }

  static boolean isNull(byte[] line, int from, int to) {
    return to - from == 2 && line[from] == '\\' && line[from + 1] == 'N';
  }

  /** The text of a field that is not NULL. */
  static String text(byte[] line, int from, int to) {
    for (int i = from; i < to; i++) {
      if (line[i] == '\\') {
        byte[] plain = unescaped(line, from, to);
        return new String(plain, StandardCharsets.UTF_8);
      }
    }
    return new String(line, from, to - from, StandardCharsets.UTF_8);
  }

  private static byte[] unescaped(byte[] line, int from, int to) {
    byte[] plain = new byte[to - from];
    int length = 0;
    for (int i = from; i < to; i++) {
      byte b = line[i];
      if (b == '\\') {
        i++;
        b =
            switch (line[i]) {
              case 'b' -> '\b';
              case 'f' -> '\f';
              case 'n' -> '\n';
              case 'r' -> '\r';
              case 't' -> '\t';
              case 'v' -> 0x0b;
              default -> line[i];
            };
      }
      plain[length++] = b;
    }
    return Arrays.copyOf(plain, length);
  }

  /** A number that is written in decimal digits. */
  static long number(byte[] line, int from, int to) {
    boolean negative = line[from] == '-';
    long number = 0;
    for (int i = negative ? from + 1 : from; i < to; i++) {
      number = number * 10 - (line[i] - '0');
    }
    return negative ? number : -number;
  }

  /** The bytes of a bytea, which is written as {@code \\x} and hexadecimal digits. */
  static byte[] binary(byte[] line, int from, int to) {
    byte[] bytes = new byte[(to - from - 3) / 2];
    for (int i = 0; i < bytes.length; i++) {
      int at = from + 3 + 2 * i;
      bytes[i] = (byte) (Character.digit(line[at], 16) << 4 | Character.digit(line[at + 1], 16));
    }
    return bytes;
  }

  /** Lines of COPY's text being written. */
  static final class Block {
    private static final byte[] HEX = "0123456789abcdef".getBytes(StandardCharsets.US_ASCII);
    private byte[] bytes;
    private int length;

    Block(int size) {
      bytes = new byte[size];
    }

    int length() {
      return length;
    }

    byte[] bytes() {
      return bytes;
    }

    private void room(int more) {
      if (length + more > bytes.length) {
        bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, length + more));
      }
    }

    void raw(byte[] source, int from, int to) {
      room(to - from);
      System.arraycopy(source, from, bytes, length, to - from);
      length += to - from;
    }

    void raw(char ascii) {
      room(1);
      bytes[length++] = (byte) ascii;
    }

    /**
     * A line of a parcel: numbers and texts are written alike there, after a letter that says
     * which; bytes are base64.
     *
     * @param ends of its fields, the first of which is the row's number
     */
    void packed(byte[] line, int[] ends) {
      for (int i = 1; i < ends.length; i++) {
        if (i > 1) {
          raw('\t');
        }
        int from = ends[i - 1] + 1;
        if (from == ends[i]) {
          throw new IllegalArgumentException("a value says not what it is");
        }
        switch (line[from]) {
          case '\\' -> raw(line, from, ends[i]);
          case 'n', 'd', 't' -> raw(line, from + 1, ends[i]);
          case 'b' ->
              binary(Base64.getDecoder().decode(Arrays.copyOfRange(line, from + 1, ends[i])));
          default -> throw new IllegalArgumentException("a value of no known sort");
        }
      }
      raw('\n');
    }

    /** A line of values. */
    void row(Object[] values) {
      for (int i = 0; i < values.length; i++) {
        if (i > 0) {
          raw('\t');
        }
        value(values[i]);
      }
      raw('\n');
    }

    /** A value as a field; the types are those of a {@link yemble.core.store.Reader}. */
    void value(Object value) {
      if (value == null) {
        raw('\\');
        raw('N');
      } else if (value instanceof byte[] blob) {
        binary(blob);
      } else {
        text(value.toString());
      }
    }

    private void binary(byte[] blob) {
      room(3 + 2 * blob.length);
      bytes[length++] = '\\';
      bytes[length++] = '\\';
      bytes[length++] = 'x';
      for (byte b : blob) {
        bytes[length++] = HEX[(b >> 4) & 0xf];
        bytes[length++] = HEX[b & 0xf];
      }
    }

    private void text(String text) {
      room(text.length() * 2);
      for (int i = 0; i < text.length(); i++) {
        char c = text.charAt(i);
        if (c >= 0x80) {
          wide(text.substring(i));
          return;
        }
        ascii((byte) c);
      }
    }

    private void wide(String rest) {
      byte[] encoded = rest.getBytes(StandardCharsets.UTF_8);
      room(encoded.length * 2);
      for (byte b : encoded) {
        ascii(b);
      }
    }

    /** A byte of a text; there is room for two. */
    private void ascii(byte b) {
      switch (b) {
        case '\\' -> escape('\\');
        case '\t' -> escape('t');
        case '\n' -> escape('n');
        case '\r' -> escape('r');
        default -> bytes[length++] = b;
      }
    }

    private void escape(char letter) {
      bytes[length++] = '\\';
      bytes[length++] = (byte) letter;
    }
  }
}
