package yemble.jdbc.mariadb;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What SHOW CREATE TABLE says, mended where the server's own words would make another table, or
 * none: it writes names of foreign keys as they are, backquotes and all, and defaults of bytes as
 * bytes among its text.
 */
final class CreatedTables {
  private final Session session;

  /** Tables with defaults of bytes. */
  private final Set<String> ofBytes = new HashSet<>();

  /** Names of foreign keys that hold backquotes, by table. */
  private final Map<String, List<String>> keys = new HashMap<>();

  CreatedTables(Session session) throws SQLException {
    this.session = session;
    session.query(
        "SELECT DISTINCT table_name FROM information_schema.columns"
            + " WHERE table_schema = database() AND data_type IN ('binary', 'varbinary')"
            + " AND column_default IS NOT NULL",
        row -> ofBytes.add(row.getString(1)));
    session.query(
        "SELECT table_name, constraint_name FROM information_schema.referential_constraints"
            + " WHERE constraint_schema = database() AND constraint_name LIKE '%`%'",
        row ->
            keys.computeIfAbsent(row.getString(1), table -> new ArrayList<>())
                .add(row.getString(2)));
  }

  /** The statement that makes a table. */
  String statement(Storage storage) throws SQLException {
    String table = storage.table().name().name();
    String created = ofBytes.contains(table) ? ofBytes(storage) : ofText(storage);
    for (String key : keys.getOrDefault(table, List.of())) {
      created =
          created.replace(
              "CONSTRAINT `" + key + "` FOREIGN KEY",
              "CONSTRAINT " + Sql.quoted(key) + " FOREIGN KEY");
    }
    return created;
  }

  private String ofText(Storage storage) throws SQLException {
    String[] created = new String[1];
    session.query("SHOW CREATE TABLE " + storage.relation(), row -> created[0] = row.getString(2));
    return created[0];
  }

  private String ofBytes(Storage storage) throws SQLException {
    byte[][] created = new byte[1][];
    session.execute("SET SESSION character_set_results = NULL");
    try {
      session.query("SHOW CREATE TABLE " + storage.relation(), row -> created[0] = row.getBytes(2));
    } finally {
      session.execute("SET SESSION character_set_results = utf8mb4");
    }
    return text(created[0]);
  }

  /** A statement as text, in which literals of bytes that are none stand in hexadecimal. */
  static String text(byte[] statement) {
    StringBuilder text = new StringBuilder();
    ByteArrayOutputStream plain = new ByteArrayOutputStream();
    for (int at = 0; at < statement.length; ) {
      int end = statement[at] == '\'' ? literalEnd(statement, at) : at + 1;
      if (statement[at] == '`') {
        end = at + 1;
        while (end < statement.length && statement[end] != '`') {
          end++;
        }
        end = Math.min(end + 1, statement.length);
      }
      byte[] part = java.util.Arrays.copyOfRange(statement, at, end);
      if (statement[at] == '\'' && !isText(part)) {
        text.append(plain.toString(StandardCharsets.UTF_8));
        plain.reset();
        text.append("x'").append(HexFormat.of().formatHex(unescaped(part))).append("'");
      } else {
        plain.writeBytes(part);
      }
      at = end;
    }
    return text.append(plain.toString(StandardCharsets.UTF_8)).toString();
  }

  /**
   * Where a literal ends that begins at a quote; quotes in it are doubled or behind a backslash.
   */
  private static int literalEnd(byte[] text, int from) {
    for (int at = from + 1; at < text.length; at++) {
      if (text[at] == '\\') {
        at++;
      } else if (text[at] == '\'') {
        if (at + 1 < text.length && text[at + 1] == '\'') {
          at++;
        } else {
          return at + 1;
        }
      }
    }
    return text.length;
  }

  private static boolean isText(byte[] part) {
    try {
      StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(part));
      return true;
    } catch (CharacterCodingException bytes) {
      return false;
    }
  }

  private static byte[] unescaped(byte[] literal) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    for (int at = 1; at < literal.length - 1; at++) {
      byte c = literal[at];
      if (c == '\\' && at + 1 < literal.length - 1) {
        c = literal[++at];
        bytes.write(
            switch (c) {
              case '0' -> 0;
              case 'n' -> '\n';
              case 'r' -> '\r';
              case 't' -> '\t';
              case 'b' -> '\b';
              case 'Z' -> 0x1a;
              default -> c;
            });
      } else {
        if (c == '\'' && literal[at + 1] == '\'' && at + 1 < literal.length - 1) {
          at++;
        }
        bytes.write(c);
      }
    }
    return bytes.toByteArray();
  }
}
