package yemble.core.schema;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.wording.Sentence;
import yemble.core.wording.Wording;

/** Why a value does not fit a type. */
public enum Misfit implements Wording {
  LONGER_BYTES("longer than the column's ${length} bytes"),
  LONGER("longer than the column's ${length} characters"),
  BINARY("binary"),
  BINARY_AMONG_TEXTS("binary, in a column of texts"),
  TEXT("a text, not binary"),
  NO_TRUTH("neither true nor false"),
  NO_NUMBER("no number"),
  NOT_A_NUMBER("not a number"),
  NOT_FINITE("not a finite number"),
  NEGATIVE_ZERO("a negative zero, which becomes a plain one"),
  NO_WHOLE_NUMBER("no whole number"),
  TOO_LARGE("too large a number"),
  MORE_DIGITS("more digits than the column has"),
  NO_DAY("no day of the calendar"),
  NO_TIME("no time of day"),
  NO_MOMENT("no moment of the calendar"),
  NO_UUID("no UUID"),
  NO_LABEL("none of the labels"),
  NO_JSON("no JSON"),
  KEY_TWICE("names a key of an object twice"),
  CODE_ZERO("holds a character of the code zero"),
  NO_VALUE("no value, where the column must hold one"),
  SAME_TRUTH("the same truth as another row's, in a column that holds none twice"),

  /** Of how many values of a column one of the others is true. */
  CELLS("${values:value}, ${why}");

  private static final Pattern DAY = Pattern.compile("(\\d{4})-(\\d\\d)-(\\d\\d)");
  private static final Pattern CLOCK = Pattern.compile("(\\d\\d):(\\d\\d):(\\d\\d)(\\.\\d{1,6})?");

  private final String words;

  Misfit(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }

  /**
   * Why a value is none of a type's; {@link Sentence#NONE} if it is one. What engines that look at
   * values have in common.
   *
   * @param value in the type's normal form, not null
   */
  public static Sentence why(DataType type, Object value) {
    if (value instanceof byte[] bytes) {
      if (type.base() == DataType.Base.BINARY
          && type.length() > 0
          && bytes.length > type.length()) {
        return LONGER_BYTES.of(type.length());
      }
      return type.base() == DataType.Base.BINARY || type.base() == DataType.Base.ANY
          ? Sentence.NONE
          : BINARY.of();
    }
    return switch (type.base()) {
      case BOOLEAN -> value.equals(0L) || value.equals(1L) ? Sentence.NONE : NO_TRUTH.of();
      case WHOLE -> whole(type, value);
      case DECIMAL -> decimal(type, value);
      case FLOAT, DOUBLE -> value instanceof Double ? Sentence.NONE : NO_NUMBER.of();
      case DATE -> isDay(value.toString()) ? Sentence.NONE : NO_DAY.of();
      case TIME -> isClock(value.toString()) ? Sentence.NONE : NO_TIME.of();
      case MOMENT, INSTANT -> isMoment(value.toString()) ? Sentence.NONE : NO_MOMENT.of();
      case UUID ->
          value.toString().matches("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")
              ? Sentence.NONE
              : NO_UUID.of();
      case TEXT -> text(type, value.toString());
      case ENUM -> type.labels().contains(value.toString()) ? Sentence.NONE : NO_LABEL.of();
      case SET ->
          value.equals("") || type.labels().containsAll(Arrays.asList(value.toString().split(",")))
              ? Sentence.NONE
              : NO_LABEL.of();
      case BINARY -> TEXT.of();
      case JSON -> DataType.isJson(value.toString()) ? Sentence.NONE : NO_JSON.of();
      case ANY, OTHER -> Sentence.NONE;
    };
  }

  private static Sentence whole(DataType type, Object value) {
    if (!(value instanceof Long number)) {
      boolean large = value.toString().matches("-?\\d+");
      return !large
          ? NO_WHOLE_NUMBER.of()
          : type.unsigned() && type.length() == 64 && !value.toString().startsWith("-")
              ? Sentence.NONE
              : TOO_LARGE.of();
    }
    int bits = type.length() == 0 ? 64 : type.length();
    if (type.unsigned()) {
      return number >= 0 && (bits >= 63 || number >>> bits == 0) ? Sentence.NONE : TOO_LARGE.of();
    }
    int used = 65 - Long.numberOfLeadingZeros(number < 0 ? ~number : number);
    return used <= bits ? Sentence.NONE : TOO_LARGE.of();
  }

  private static Sentence decimal(DataType type, Object value) {
    BigDecimal number;
    try {
      number = new BigDecimal(value.toString());
    } catch (NumberFormatException e) {
      return value.equals("NaN") ? NOT_A_NUMBER.of() : NO_NUMBER.of();
    }
    int behind = Math.max(0, number.scale());
    int before = number.signum() == 0 ? 0 : number.precision() - number.scale();
    boolean fits =
        (type.scale() < 0 || behind <= type.scale())
            && (type.length() == 0 || before <= type.length() - Math.max(0, type.scale()));
    return fits ? Sentence.NONE : MORE_DIGITS.of();
  }

  private static Sentence text(DataType type, String text) {
    return type.length() > 0 && text.codePointCount(0, text.length()) > type.length()
        ? LONGER.of(type.length())
        : Sentence.NONE;
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
