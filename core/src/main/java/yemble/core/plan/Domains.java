package yemble.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.schema.Column;
import yemble.core.schema.DataType;
import yemble.core.schema.Outline.ColumnOutline;
import yemble.core.schema.Outline.TableOutline;

/**
 * The values that are all a column can hold: the labels of its type, or those that a condition of
 * its table lists. Of conditions only the plainest are understood, in the words in which engines
 * give them back; of any other nothing is said.
 */
final class Domains {
  private static final Pattern CAST =
      Pattern.compile("::(?:character varying|\"?[a-z_]+\"?)(?:\\([0-9]+\\))?(?:\\[])?");

  private static final Pattern LISTED =
      Pattern.compile(
          "(?is)(.+?)\\s*(?:IN|=\\s*ANY\\s*ARRAY\\[)\\s*((?:'(?:[^']|'')*'|-?[0-9]+|[,\\s])+)]?");

  private static final Pattern VALUE = Pattern.compile("'((?:[^']|'')*)'|(-?[0-9]+)");

  private Domains() {}

  /** All that a column can hold, in the order of the schema; empty if that is not known. */
  static List<String> of(TableOutline table, Column column) {
    ColumnOutline outline = table.columns().get(column.name());
    if (outline != null && outline.type().base() == DataType.Base.ENUM) {
      return outline.type().labels();
    }
    for (String check : table.checks()) {
      List<String> values = listed(check, column.name());
      if (!values.isEmpty()) {
        return values;
      }
    }
    return List.of();
  }

  /** The values of a condition that says no more than that a column is one of them. */
  static List<String> listed(String check, String column) {
    List<String> values = new ArrayList<>();
    Matcher listed = LISTED.matcher(bare(CAST.matcher(check).replaceAll("")).strip());
    if (listed.matches() && listed.group(1).strip().equalsIgnoreCase(column)) {
      Matcher value = VALUE.matcher(listed.group(2));
      while (value.find()) {
        values.add(value.group(1) == null ? value.group(2) : value.group(1).replace("''", "'"));
      }
    }
    return values;
  }

  /** Without brackets and the quotes of names, but for what stands in texts. */
  private static String bare(String check) {
    StringBuilder out = new StringBuilder(check.length());
    boolean text = false;
    for (char c : check.toCharArray()) {
      text ^= c == '\'';
      if (text || "()`\"".indexOf(c) < 0) {
        out.append(c);
      } else if (c == '(' || c == ')') {
        out.append(' ');
      }
    }
    return out.toString();
  }
}
