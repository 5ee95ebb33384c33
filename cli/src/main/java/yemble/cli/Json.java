package yemble.cli;

import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import yemble.core.project.Database;

/**
 * What {@code --json} prints: maps, lists, texts, numbers, truths and null, as {@code docs/json}
 * has them. Names are in snake_case; durations are milliseconds and end in {@code _ms}.
 */
final class Json {
  private Json() {}

  /** An object of names and values, in this order. */
  static Map<String, Object> object(Object... namesAndValues) {
    Map<String, Object> object = new LinkedHashMap<>();
    for (int i = 0; i < namesAndValues.length; i += 2) {
      object.put((String) namesAndValues[i], namesAndValues[i + 1]);
    }
    return object;
  }

  /** A list of what becomes of each of some things. */
  static <T> List<Object> list(Iterable<T> things, Function<T, Object> each) {
    List<Object> list = new ArrayList<>();
    things.forEach(thing -> list.add(each.apply(thing)));
    return list;
  }

  /** A database as every output names it. */
  static Map<String, Object> database(Database database) {
    return object("name", database.name(), "environment", database.environment().toString());
  }

  /** A text; null where there is none. */
  static String text(String text) {
    return text == null || text.isEmpty() ? null : text;
  }

  /** A share, to three places. */
  static double share(double share) {
    return Math.round(share * 1000) / 1000.0;
  }

  /** A value of the data. Of bytes only their number is told; JSON has no infinite numbers. */
  static Object value(Object value) {
    if (value instanceof Double number && !Double.isFinite(number)) {
      return value.toString();
    }
    return value == null || value instanceof Number || value instanceof Boolean
        ? value
        : value instanceof byte[] bytes ? object("bytes", bytes.length) : String.valueOf(value);
  }

  static void write(JsonGenerator json, Object value) throws IOException {
    if (value == null) {
      json.writeNull();
    } else if (value instanceof Map<?, ?> object) {
      json.writeStartObject();
      for (Map.Entry<?, ?> field : object.entrySet()) {
        json.writeFieldName((String) field.getKey());
        write(json, field.getValue());
      }
      json.writeEndObject();
    } else if (value instanceof Collection<?> list) {
      json.writeStartArray();
      for (Object item : list) {
        write(json, item);
      }
      json.writeEndArray();
    } else if (value instanceof Integer || value instanceof Long) {
      json.writeNumber(((Number) value).longValue());
    } else if (value instanceof Number number) {
      json.writeNumber(number.toString());
    } else if (value instanceof Boolean truth) {
      json.writeBoolean(truth);
    } else {
      json.writeString(value.toString());
    }
  }
}
