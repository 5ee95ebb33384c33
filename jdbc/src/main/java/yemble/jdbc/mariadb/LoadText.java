package yemble.jdbc.mariadb;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import yemble.core.schema.Column;

/**
 * The text that LOAD DATA reads: fields parted by tabs, rows by line feeds, both and backslashes
 * escaped, NULL as {@code \N}. Read in the character set {@code binary}, byte for byte: what
 * belongs to which character is nobody's business on the way.
 */
final class LoadText {
  private LoadText() {}

  /**
   * The statement that rows come in by.
   *
   * @param file that the client reads
   * @param table its name, quoted
   * @param forms of the columns
   * @param raw which columns' fields hold a text's bytes as they lie in the source
   */
  static String statement(
      String file, String table, List<Column> columns, ColumnForm[] forms, boolean[] raw) {
    List<String> fields = new ArrayList<>();
    List<String> made = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      String name = columns.get(i).name();
      String value = forms[i].written("@yemble_" + i, raw[i]);
      fields.add(value.isEmpty() ? Sql.quoted(name) : "@yemble_" + i);
      if (!value.isEmpty()) {
        made.add(Sql.quoted(name) + " = " + value);
      }
    }
    return "LOAD DATA LOCAL INFILE "
        + Sql.literal(file)
        + " INTO TABLE "
        + table
        + " CHARACTER SET binary FIELDS TERMINATED BY '\\t' ENCLOSED BY '' ESCAPED BY '\\\\'"
        + " LINES TERMINATED BY '\\n' ("
        + String.join(", ", fields)
        + ")"
        + (made.isEmpty() ? "" : " SET " + String.join(", ", made));
  }

  /** A growing piece of the text. */
  static final class Block {
    private byte[] bytes;
    private int length;

    Block(int size) {
      bytes = new byte[size];
    }

    byte[] bytes() {
      return bytes;
    }

    int length() {
      return length;
    }

    private void room(int more) {
      if (length + more > bytes.length) {
        bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, length + more));
      }
    }

    /** A row of values as a reader gives them, or of a text's bytes. */
    void row(Object[] values, ColumnForm[] forms) {
      for (int i = 0; i < values.length; i++) {
        if (i > 0) {
          raw('\t');
        }
        value(forms[i].stored(values[i]));
      }
      raw('\n');
    }

    private void raw(char c) {
      room(1);
      bytes[length++] = (byte) c;
    }

    private void value(Object value) {
      if (value == null) {
        raw('\\');
        raw('N');
      } else if (value instanceof byte[] blob) {
        escaped(blob);
      } else if (value instanceof Long number) {
        digits(number);
      } else if (value instanceof Double) {
        plain(value.toString());
      } else {
        text(value.toString());
      }
    }

    private void digits(long number) {
      if (number < 0) {
        plain(Long.toString(number));
        return;
      }
      room(20);
      int size = 1;
      for (long rest = number / 10; rest > 0; rest /= 10) {
        size++;
      }
      long rest = number;
      for (int i = length + size - 1; i >= length; i--) {
        bytes[i] = (byte) ('0' + rest % 10);
        rest /= 10;
      }
      length += size;
    }

    @SuppressWarnings("deprecation") // Copies ASCII without a detour, which is what is wanted.
    private void plain(String ascii) {
      room(ascii.length());
      ascii.getBytes(0, ascii.length(), bytes, length);
      length += ascii.length();
    }

    private void text(String text) {
      for (int i = 0; i < text.length(); i++) {
        char c = text.charAt(i);
        if (c >= 0x80 || c == '\\' || c == '\t' || c == '\n' || c == 0) {
          escaped(text.getBytes(StandardCharsets.UTF_8));
          return;
        }
      }
      plain(text);
    }

    private void escaped(byte[] content) {
      room(content.length * 2);
      for (byte b : content) {
        switch (b) {
          case '\\', '\t', '\n' -> {
            bytes[length++] = '\\';
            bytes[length++] = b == '\\' ? b : (byte) (b == '\t' ? 't' : 'n');
          }
          case 0 -> {
            bytes[length++] = '\\';
            bytes[length++] = '0';
          }
          default -> bytes[length++] = b;
        }
      }
    }
  }
}
