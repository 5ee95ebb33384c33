package yemble.core.schema;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Why values do not fit types: what engines that look at values have in common. */
public final class Misfit {
  private static final Pattern DAY = Pattern.compile("(\\d{4})-(\\d\\d)-(\\d\\d)");
  private static final Pattern CLOCK = Pattern.compile("(\\d\\d):(\\d\\d):(\\d\\d)(\\.\\d{1,6})?");

  private Misfit() {}

  /**
   * Why a value is none of a type's; empty if it is one.
   *
   * @param value in the type's normal form, not null
   */
  public static String of(DataType type, Object value) {
    if (value instanceof byte[] bytes) {
      if (type.base() == DataType.Base.BINARY
          && type.length() > 0
          && bytes.length > type.length()) {
        return "longer than the column's " + type.length() + " bytes";
      }
      return type.base() == DataType.Base.BINARY || type.base() == DataType.Base.ANY
          ? ""
          : "binary";
    }
    return switch (type.base()) {
      case BOOLEAN -> value.equals(0L) || value.equals(1L) ? "" : "neither true nor false";
      case WHOLE -> whole(type, value);
      case DECIMAL -> decimal(type, value);
      case FLOAT, DOUBLE -> value instanceof Double ? "" : "no number";
      case DATE -> isDay(value.toString()) ? "" : "no day of the calendar";
      case TIME -> isClock(value.toString()) ? "" : "no time of day";
      case MOMENT, INSTANT -> isMoment(value.toString()) ? "" : "no moment of the calendar";
      case UUID ->
          value.toString().matches("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}") ? "" : "no UUID";
      case TEXT -> text(type, value.toString());
      case ENUM -> type.labels().contains(value.toString()) ? "" : "none of the labels";
      case SET ->
          value.equals("") || type.labels().containsAll(Arrays.asList(value.toString().split(",")))
              ? ""
              : "none of the labels";
      case BINARY -> "a text, not binary";
      case JSON -> DataType.isJson(value.toString()) ? "" : "no JSON";
      case ANY, OTHER -> "";
    };
  }

  private static String whole(DataType type, Object value) {
    if (!(value instanceof Long number)) {
      boolean large = value.toString().matches("-?\\d+");
      return !large
          ? "no whole number"
          : type.unsigned() && type.length() == 64 && !value.toString().startsWith("-")
              ? ""
              : "too large a number";
    }
    int bits = type.length() == 0 ? 64 : type.length();
    if (type.unsigned()) {
      return number >= 0 && (bits >= 63 || number >>> bits == 0) ? "" : "too large a number";
    }
    int used = 65 - Long.numberOfLeadingZeros(number < 0 ? ~number : number);
    return used <= bits ? "" : "too large a number";
  }

  private static String decimal(DataType type, Object value) {
    BigDecimal number;
    try {
      number = new BigDecimal(value.toString());
    } catch (NumberFormatException e) {
      return value.equals("NaN") ? "not a number" : "no number";
    }
    int behind = Math.max(0, number.scale());
    int before = number.signum() == 0 ? 0 : number.precision() - number.scale();
    boolean fits =
        (type.scale() < 0 || behind <= type.scale())
            && (type.length() == 0 || before <= type.length() - Math.max(0, type.scale()));
    return fits ? "" : "more digits than the column has";
  }

  private static String text(DataType type, String text) {
    return type.length() > 0 && text.codePointCount(0, text.length()) > type.length()
        ? "longer than the column's " + type.length() + " characters"
        : "";
  }

  private static boolean isDay(String text) {
    Matcher day = DAY.matcher(text);
    if (!day.matches()) {
      return false;
    }
    try {
      int year = Integer.parseInt(day.group(1));
      LocalDate.of(year, Integer.parseInt(day.group(2)), Integer.parseInt(day.group(3)));
      return year > 0;
    } catch (DateTimeException e) {
      return false;
    }
  }

  private static boolean isClock(String text) {
    Matcher clock = CLOCK.matcher(text);
    return clock.matches()
        && Integer.parseInt(clock.group(1)) < 24
        && Integer.parseInt(clock.group(2)) < 60
        && Integer.parseInt(clock.group(3)) < 60;
  }

  private static boolean isMoment(String text) {
    return text.length() > 11
        && text.charAt(10) == ' '
        && isDay(text.substring(0, 10))
        && isClock(text.substring(11));
  }
}
