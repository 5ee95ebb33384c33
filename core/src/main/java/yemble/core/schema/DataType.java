package yemble.core.schema;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.core.StreamWriteFeature;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.json.JsonMapper;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.List;
import java.util.Locale;

/**
 * What a column's values are, whatever engine holds them.
 *
 * @param length of a text in characters, of a binary value in bytes, of a whole number in bits, of
 *     a decimal in digits; 0 where there is no limit
 * @param scale a decimal's digits behind the point; -1 where there is no limit
 * @param unsigned whether a whole number is never negative
 * @param labels of an enumeration or a set
 */
public record DataType(Base base, int length, int scale, boolean unsigned, List<String> labels) {
  private static final JsonFactory STRICT =
      JsonFactory.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  private static final ObjectMapper JSON =
      JsonMapper.builder()
          .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
          .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
          .enable(SerializationFeature.ORDER_MAP_ENTRIES_BY_KEYS)
          // One spelling of a number: 1e2, 100.0 and 100 are the same.
          .enable(StreamWriteFeature.WRITE_BIGDECIMAL_AS_PLAIN)
          .build();

  /** The sorts of values that engines agree on. */
  public enum Base {
    BOOLEAN,
    WHOLE,
    DECIMAL,
    /** Four bytes. */
    FLOAT,
    /** Eight bytes. */
    DOUBLE,
    TEXT,
    BINARY,
    DATE,
    TIME,
    /** A day and a time of no zone. */
    MOMENT,
    /** A moment of the world's time, read and written in UTC. */
    INSTANT,
    UUID,
    JSON,
    ENUM,
    SET,
    /** Whatever a value happens to be. */
    ANY,
    /** A type that other engines lack: carried as the text that its engine makes of it. */
    OTHER
  }

  public DataType {
    labels = List.copyOf(labels);
  }

  /** A type that needs no more than its base. */
  public static DataType of(Base base) {
    return new DataType(base, 0, -1, false, List.of());
  }

  public static DataType of(Base base, int length) {
    return new DataType(base, length, -1, false, List.of());
  }

  public static DataType decimal(int digits, int scale) {
    return new DataType(Base.DECIMAL, digits, scale, false, List.of());
  }

  /** Whether values are texts to whoever reads them. */
  public boolean isText() {
    return switch (base) {
      case TEXT, ENUM, SET, ANY, OTHER -> true;
      default -> false;
    };
  }

  /**
   * The one form of a value of this type, whichever engine it was read from: two values are the
   * same if and only if their forms are equal. A value that is none of the type stays what it is.
   *
   * @param value as a reader gives it; may be null
   */
  public Object normal(Object value) {
    if (value == null || value instanceof byte[]) {
      return value;
    }
    return switch (base) {
      case BOOLEAN -> truth(value);
      case WHOLE -> whole(value);
      case DECIMAL -> decimal(value);
      case FLOAT, DOUBLE -> floating(value);
      case DATE, TIME, MOMENT, INSTANT -> moment(value.toString());
      case UUID -> value.toString().toLowerCase(Locale.ROOT);
      case JSON -> json(value.toString());
      default -> plain(value);
    };
  }

  private static Object truth(Object value) {
    return switch (value.toString().toLowerCase(Locale.ROOT)) {
      case "t", "true", "1", "yes", "on" -> 1L;
      case "f", "false", "0", "no", "off" -> 0L;
      default -> value;
    };
  }

  private static Object whole(Object value) {
    if (value instanceof Long) {
      return value;
    }
    try {
      BigInteger number = new BigDecimal(value.toString()).toBigIntegerExact();
      return number.bitLength() < Long.SIZE ? (Object) number.longValue() : number.toString();
    } catch (NumberFormatException | ArithmeticException e) {
      return value;
    }
  }

  private static Object decimal(Object value) {
    try {
      BigDecimal number = new BigDecimal(value.toString());
      return number.signum() == 0 ? "0" : number.stripTrailingZeros().toPlainString();
    } catch (NumberFormatException e) {
      return value.toString();
    }
  }

  private Object floating(Object value) {
    try {
      String digits = value.toString();
      return base == Base.FLOAT
          ? Double.valueOf(Float.toString(Float.parseFloat(digits)))
          : Double.valueOf(digits);
    } catch (NumberFormatException e) {
      return value;
    }
  }

  /** With a space between day and time, seconds, and no more of their fraction than is needed. */
  private String moment(String written) {
    String text = written;
    if (text.length() > 10 && text.charAt(10) == 'T') {
      text = text.substring(0, 10) + " " + text.substring(11);
    }
    if (base == Base.INSTANT) {
      text = text.replaceFirst("(Z|\\+00(:?00)?)$", "");
    }
    if (base == Base.MOMENT || base == Base.INSTANT) {
      text = text.matches("-?\\d{4,}-\\d\\d-\\d\\d") ? text + " 00:00:00" : text;
    }
    if (base != Base.DATE && text.matches(".*\\d\\d:\\d\\d") && !text.matches(".*:\\d\\d:\\d\\d")) {
      text += ":00";
    }
    return text.matches(".*:\\d\\d\\.\\d+") ? text.replaceFirst("\\.?0+$", "") : text;
  }

  private static String json(String text) {
    try {
      JsonNode tree = JSON.readTree(text);
      return JSON.writeValueAsString(JSON.treeToValue(tree, Object.class));
    } catch (JsonProcessingException e) {
      return text;
    }
  }

  /** Whether a text is one JSON value, and nothing else. */
  static boolean isJson(String text) {
    return parses(text, new JsonFactory());
  }

  /** Whether an object in a JSON text has two keys of one name. */
  public static boolean namesTwice(String text) {
    return isJson(text) && !parses(text, STRICT);
  }

  private static boolean parses(String text, JsonFactory factory) {
    try (JsonParser parser = factory.createParser(text)) {
      if (parser.nextToken() == null) {
        return false;
      }
      parser.skipChildren();
      return parser.nextToken() == null;
    } catch (IOException e) {
      return false;
    }
  }

  private static Object plain(Object value) {
    if (value instanceof Double number && !number.isInfinite() && !number.isNaN()) {
      BigDecimal digits = new BigDecimal(number.toString());
      return number % 1 == 0 ? digits.toBigInteger().toString() : digits.toPlainString();
    }
    return value.toString();
  }
}
