package yemble.core.parcel;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;

/**
 * Rows as lines of text in UTF-8: the row's number, or nothing where it is one more than that of
 * the row before, then its values, a tab before each. NULL is {@code \N}; every other value begins
 * with a letter that says what it is: {@code n} a whole number, {@code d} a floating-point number,
 * {@code t} a text, {@code b} bytes in base64 (RFC 4648). In a text backslash, tab, line feed and
 * carriage return are {@code \\}, {@code \t}, {@code \n}, {@code \r}.
 */
final class RowText {
  private static final byte[] NULL = {'\\', 'N'};

  private RowText() {}

  /** Writes rows; for one thread. */
  static final class Writer {
    private final OutputStream out;
    private byte[] line = new byte[1 << 12];

    /** The number that need not be written; none for the first row. */
    private long next = Long.MIN_VALUE;

    private int length;

    Writer(OutputStream out) {
      this.out = out;
    }

    void write(long row, Object[] values) throws IOException {
      length = 0;
      if (row != next) {
        plain(Long.toString(row));
      }
      next = row + 1;
      for (Object value : values) {
        raw('\t');
        if (value == null) {
          raw('\\');
          raw('N');
        } else if (value instanceof Long) {
          raw('n');
          plain(value.toString());
        } else if (value instanceof Double) {
          raw('d');
          plain(value.toString());
        } else if (value instanceof byte[] bytes) {
          raw('b');
          plain(Base64.getEncoder().encodeToString(bytes));
        } else {
          raw('t');
          text(value.toString());
        }
      }
      raw('\n');
      out.write(line, 0, length);
    }

    private void room(int more) {
      if (length + more > line.length) {
        line = Arrays.copyOf(line, Math.max(line.length * 2, length + more));
      }
    }

    private void raw(char ascii) {
      room(1);
      line[length++] = (byte) ascii;
    }

    private void plain(String ascii) {
      room(ascii.length());
      for (int i = 0; i < ascii.length(); i++) {
        line[length++] = (byte) ascii.charAt(i);
      }
    }

    private void text(String text) {
      room(2 * text.length());
      for (int i = 0; i < text.length(); i++) {
        char c = text.charAt(i);
        if (c >= 0x80) {
          byte[] rest = text.substring(i).getBytes(StandardCharsets.UTF_8);
          room(2 * rest.length);
          for (byte b : rest) {
            escaped(b);
          }
          return;
        }
        escaped((byte) c);
      }
    }

    /** A byte of a text; there is room for two. */
    private void escaped(byte b) {
      switch (b) {
        case '\\' -> escape('\\');
        case '\t' -> escape('t');
        case '\n' -> escape('n');
        case '\r' -> escape('r');
        default -> line[length++] = b;
      }
    }

    private void escape(char letter) {
      line[length++] = '\\';
      line[length++] = (byte) letter;
    }
  }

  /** Reads rows; for one thread. */
  static final class Reader {
    private final InputStream in;
    private final byte[] buffer = new byte[1 << 16];
    private int at;
    private int end;
    private long number;
    private final Line line = new Line();
    private int[] ends = new int[0];

    /** Bytes that grow, and are looked at where they lie. */
    private static final class Line extends ByteArrayOutputStream {
      byte[] bytes() {
        return buf;
      }
    }

    Reader(InputStream in) {
      this.in = in;
    }

    /**
     * Goes to the next row; whether there is one.
     *
     * @param values of all columns, filled
     * @throws IllegalArgumentException if what is there is no row of so many values
     */
    boolean next(Object[] values) throws IOException {
      if (ends.length != values.length + 1) {
        ends = new int[values.length + 1];
      }
      if (!next(ends)) {
        return false;
      }
      byte[] bytes = line.bytes();
      number = ends[0] == 0 ? number + 1 : Long.parseLong(text(bytes, 0, ends[0]));
      for (int i = 0; i < values.length; i++) {
        values[i] = value(bytes, ends[i] + 1, ends[i + 1]);
      }
      return true;
    }

    /**
     * Goes to the next row, whose fields stay where they are; whether there is one.
     *
     * @param fields takes where each field ends in the {@link #line}
     * @throws IllegalArgumentException if what is there is no row of so many fields
     */
    boolean next(int[] fields) throws IOException {
      line.reset();
      if (!fill()) {
        return false;
      }
      byte[] bytes = line.bytes();
      int length = line.size();
      int field = -1;
      for (int i = 0; i < fields.length; i++) {
        if (field >= length) {
          throw new IllegalArgumentException("a value is missing");
        }
        field = tab(bytes, field + 1, length);
        fields[i] = field;
      }
      if (field < length) {
        throw new IllegalArgumentException("a value too many");
      }
      return true;
    }

    /** The bytes of the row. */
    byte[] line() {
      return line.bytes();
    }

    /** The number of the row. */
    long number() {
      return number;
    }

    /** Takes the bytes up to the next line feed; whether there were any. */
    private boolean fill() throws IOException {
      while (true) {
        if (at == end) {
          end = in.read(buffer);
          at = 0;
          if (end <= 0) {
            end = 0;
            if (line.size() > 0) {
              throw new IllegalArgumentException("the last line does not end");
            }
            return false;
          }
        }
        int from = at;
        while (at < end && buffer[at] != '\n') {
          at++;
        }
        line.write(buffer, from, at - from);
        if (at < end) {
          at++;
          return true;
        }
      }
    }

    private static int tab(byte[] bytes, int from, int length) {
      int at = from;
      while (at < length && bytes[at] != '\t') {
        at++;
      }
      return at;
    }

    private static String text(byte[] bytes, int from, int to) {
      return new String(bytes, from, to - from, StandardCharsets.UTF_8);
    }

    private static Object value(byte[] bytes, int from, int to) {
      if (Arrays.equals(bytes, from, to, NULL, 0, NULL.length)) {
        return null;
      }
      if (from == to) {
        throw new IllegalArgumentException("a value says not what it is");
      }
      String rest = text(bytes, from + 1, to);
      return switch (bytes[from]) {
        case 'n' -> Long.valueOf(rest);
        case 'd' -> Double.valueOf(rest);
        case 'b' -> Base64.getDecoder().decode(rest);
        case 't' -> rest.indexOf('\\') < 0 ? rest : unescaped(rest);
        default -> throw new IllegalArgumentException("a value of no known sort");
      };
    }

    private static String unescaped(String text) {
      StringBuilder plain = new StringBuilder(text.length());
      for (int i = 0; i < text.length(); i++) {
        char c = text.charAt(i);
        if (c != '\\') {
          plain.append(c);
          continue;
        }
        i++;
        char escaped = i < text.length() ? text.charAt(i) : ' ';
        plain.append(
            switch (escaped) {
              case '\\' -> '\\';
              case 't' -> '\t';
              case 'n' -> '\n';
              case 'r' -> '\r';
              default -> throw new IllegalArgumentException("no such escape");
            });
      }
      return plain.toString();
    }
  }
}
