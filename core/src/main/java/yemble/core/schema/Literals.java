package yemble.core.schema;

import java.util.ArrayList;
import java.util.List;

/**
 * The texts inside an SQL statement: its string literals and its comments, those within a quoted
 * body included. Names, quoted or not, are none of them.
 */
public final class Literals {
  private final String sql;
  private final List<String> found = new ArrayList<>();
  private int at;

  private Literals(String sql) {
    this.sql = sql;
  }

  /** The texts of a statement, in their order, without quotes. */
  public static List<String> of(String sql) {
    Literals literals = new Literals(sql);
    while (literals.at < sql.length()) {
      literals.step();
    }
    return literals.found;
  }

  private void step() {
    char c = sql.charAt(at);
    if (c == '\'') {
      found.add(quoted('\''));
    } else if (c == '"' || c == '`') {
      quoted(c);
    } else if (sql.startsWith("--", at)) {
      found.add(upTo("\n", 2));
    } else if (sql.startsWith("/*", at)) {
      found.add(upTo("*/", 2));
    } else if (c == '$') {
      body();
    } else {
      at++;
    }
  }

  /** What stands between two quotes; a doubled one stands for itself. */
  private String quoted(char quote) {
    StringBuilder text = new StringBuilder();
    at++;
    while (at < sql.length()) {
      char c = sql.charAt(at++);
      if (c == quote && (at == sql.length() || sql.charAt(at) != quote)) {
        break;
      }
      if (c == quote) {
        at++;
      }
      text.append(c);
    }
    return text.toString();
  }

  private String upTo(String end, int skip) {
    int to = sql.indexOf(end, at + skip);
    String text = sql.substring(at + skip, to < 0 ? sql.length() : to).strip();
    at = to < 0 ? sql.length() : to + end.length();
    return text;
  }

  /** A body between two equal tags, {@code $tag$ … $tag$}, is a statement of its own. */
  private void body() {
    int tagEnd = sql.indexOf('$', at + 1);
    String tag = tagEnd < 0 ? "" : sql.substring(at, tagEnd + 1);
    int end = tag.matches("\\$[\\p{L}0-9_]*\\$") ? sql.indexOf(tag, tagEnd + 1) : -1;
    if (end < 0) {
      at++;
      return;
    }
    found.addAll(of(sql.substring(tagEnd + 1, end)));
    at = end + tag.length();
  }
}
