package yemble.core.plan;

import java.math.BigDecimal;
import java.time.LocalDate;
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

  private static final Pattern NUMBER = Pattern.compile("-?[0-9]+(?:\\.[0-9]+)?");
  private static final Pattern DAY = Pattern.compile("'?([0-9]{4}-[0-9]{2}-[0-9]{2})'?");
  private static final Pattern COMPARED =
      Pattern.compile("(?s)(\\S+|'[^']*')\\s*(>=|<=|>|<)\\s*(\\S+|'[^']*')");
  private static final Pattern AND = Pattern.compile("(?i)\\s+AND\\s+");
  private static final Pattern BETWEEN =
      Pattern.compile("(?is)(\\S+)\\s+BETWEEN\\s+(\\S+)\\s+AND\\s+(\\S+)");
  private static final Pattern UNSURE = Pattern.compile("(?i)\\b(?:OR|NOT|CASE|SELECT)\\b");

  /** What conditions call a value of their type. */
  private static final String VALUE_NAME = "VALUE";

  private Domains() {}

  /**
   * Between which numbers or days all values of a column lie, as plain conditions say it.
   *
   * @param least written as in the condition; empty for none
   * @param most the same
   */
  record Bounds(String least, String most) {
    static final Bounds NONE = new Bounds("", "");

    Bounds and(Bounds other) {
      return new Bounds(
          least.isEmpty() || (!other.least.isEmpty() && isLess(least, other.least))
              ? other.least
              : least,
          most.isEmpty() || (!other.most.isEmpty() && isLess(other.most, most))
              ? other.most
              : most);
    }

    private static boolean isLess(String one, String other) {
      boolean numbers = NUMBER.matcher(one).matches() && NUMBER.matcher(other).matches();
      return numbers
          ? new BigDecimal(one).compareTo(new BigDecimal(other)) < 0
          : one.compareTo(other) < 0;
    }
  }

  /** Between what all values of a column lie, by the conditions of its table and its type. */
  static Bounds bounds(TableOutline table, Column column) {
    ColumnOutline outline = table.columns().get(column.name());
    Bounds bounds = Bounds.NONE;
    if (outline == null) {
      return bounds;
    }
    int scale = Math.max(0, outline.type().scale());
    for (String check : table.checks()) {
      bounds = bounds.and(bounds(check, column.name(), scale));
    }
    for (String check : outline.conditions()) {
      bounds = bounds.and(bounds(check, VALUE_NAME, scale));
    }
    return bounds;
  }

  /**
   * Between what a condition says that a column lies.
   *
   * @param scale how many digits behind the point numbers of the column have
   */
  static Bounds bounds(String check, String column, int scale) {
    String bare = bare(CAST.matcher(check).replaceAll("")).strip().replaceAll("\\s+", " ");
    if (UNSURE.matcher(bare).find()) {
      return Bounds.NONE;
    }
    String compared = BETWEEN.matcher(bare).replaceAll("$1 >= $2 AND $1 <= $3");
    Bounds bounds = Bounds.NONE;
    for (String part : AND.split(compared)) {
      Matcher found = COMPARED.matcher(part.strip());
      if (found.matches()) {
        bounds = bounds.and(bound(found.group(1), found.group(2), found.group(3), column, scale));
      }
    }
    return bounds;
  }

  private static Bounds bound(String left, String sign, String right, String column, int scale) {
    boolean turned = right.equalsIgnoreCase(column);
    String value = turned ? left : right;
    if (!turned && !left.equalsIgnoreCase(column)) {
      return Bounds.NONE;
    }
    boolean least = turned ? sign.startsWith("<") : sign.startsWith(">");
    boolean itself = sign.endsWith("=");
    Matcher day = DAY.matcher(value);
    String end;
    if (day.matches()) {
      LocalDate of = LocalDate.parse(day.group(1));
      end = (itself ? of : of.plusDays(least ? 1 : -1)).toString();
    } else if (NUMBER.matcher(value).matches()) {
      BigDecimal number = new BigDecimal(value);
      BigDecimal step = BigDecimal.ONE.scaleByPowerOfTen(-Math.max(scale, number.scale()));
      end = (itself ? number : least ? number.add(step) : number.subtract(step)).toPlainString();
    } else {
      return Bounds.NONE;
    }
    return least ? new Bounds(end, "") : new Bounds("", end);
  }

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
