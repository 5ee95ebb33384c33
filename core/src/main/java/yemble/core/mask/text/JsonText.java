package yemble.core.mask.text;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.io.JsonStringEncoder;
import java.io.IOException;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import yemble.core.mask.Mask;
import yemble.core.mask.Stays;
import yemble.core.mask.shape.Letters;

/**
 * The mask of a text that is JSON: values at known paths are masked as their kind says or kept,
 * values at all other paths lose all but their shape. Names, true, false, null and everything
 * between the values stay byte for byte. A text that is not JSON loses all but its shape.
 */
public final class JsonText implements Mask {
  private static final JsonFactory FACTORY = new JsonFactory();
  private static final Pattern PLAIN = Pattern.compile("[A-Za-z_][A-Za-z0-9_]*");
  private static final Pattern NUMBER = Pattern.compile("-?(0|[1-9][0-9]*)(\\.[0-9]+)?");
  private static final int MOST_PATHS = 1_000;
  private final Map<String, Mask> paths;
  private final List<KeyedPath> keyed;
  private final Mask others;
  private final Supplier<RuntimeException> stop;
  private final Set<String> unknownPaths = new HashSet<>();
  private long unknownValues;

  /**
   * @param paths the mask of each known path
   * @param others the mask of all others
   * @param stop makes what is thrown at a value of another path; null if that is only counted
   */
  public JsonText(Map<String, Mask> paths, Mask others, Supplier<RuntimeException> stop) {
    this.paths = Map.copyOf(paths);
    this.keyed =
        paths.values().stream()
            .filter(KeyedPath.class::isInstance)
            .map(KeyedPath.class::cast)
            .toList();
    this.others = others;
    this.stop = stop;
  }

  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  /** Says what the free texts inside mention. */
  public void about(Mentions mentions) {
    paths.values().forEach(mask -> about(mask, mentions));
  }

  private static void about(Mask mask, Mentions mentions) {
    if (mask instanceof FreeText text) {
      text.about(mentions);
    }
  }

  /**
   * Says what the row holds that paths depend on.
   *
   * @param column the value of a column as a text, or null
   */
  public void about(UnaryOperator<String> column) {
    for (KeyedPath path : keyed) {
      if (path.isByColumn()) {
        path.tell(column.apply(path.by()));
      }
    }
  }

  /** Tells paths the first values of those that they depend on. */
  private void tell(String text) {
    if (keyed.stream().allMatch(KeyedPath::isByColumn)) {
      return;
    }
    Map<String, String> first = new HashMap<>();
    walk(text, (path, value, string, from, to) -> first.putIfAbsent(path, value));
    for (KeyedPath path : keyed) {
      if (!path.isByColumn()) {
        path.tell(first.get(path.by()));
      }
    }
  }

  /** Sees each value of a text with its path. */
  public interface Visitor {
    /**
     * @param path after RFC 9535, with {@code [*]} for the place in an array
     * @param value the value as text
     * @param from where its token begins in the text
     * @param to behind its token
     */
    void value(String path, String value, boolean string, int from, int to);
  }

  /** Walks over the strings and numbers of a text; false if it is not JSON. */
  public static boolean walk(String text, Visitor visitor) {
    try (JsonParser parser = FACTORY.createParser(text)) {
      boolean any = false;
      for (JsonToken token = parser.nextToken(); token != null; token = parser.nextToken()) {
        any = true;
        if (token == JsonToken.VALUE_STRING || token.isNumeric()) {
          String value = parser.getText();
          int from = (int) parser.currentTokenLocation().getCharOffset();
          int to = from + length(text, from, token == JsonToken.VALUE_STRING);
          visitor.value(path(parser), value, token == JsonToken.VALUE_STRING, from, to);
        }
      }
      return any;
    } catch (IOException notJson) {
      return false;
    }
  }

  /** The length of the token at a place: to its closing quote, or to the end of the number. */
  private static int length(String text, int from, boolean string) {
    int at = from + 1;
    if (string) {
      while (text.charAt(at) != '"') {
        at += text.charAt(at) == '\\' ? 2 : 1;
      }
      return at + 1 - from;
    }
    while (at < text.length() && "0123456789+-.eE".indexOf(text.charAt(at)) >= 0) {
      at++;
    }
    return at - from;
  }

  private static String path(JsonParser parser) {
    StringBuilder path = new StringBuilder();
    for (var context = parser.getParsingContext();
        !context.inRoot();
        context = context.getParent()) {
      String name = context.getCurrentName();
      String step =
          context.inArray()
              ? "[*]"
              : PLAIN.matcher(name).matches() ? "." + name : "['" + name + "']";
      path.insert(0, step);
    }
    return path.insert(0, "$").toString();
  }

  @Override
  public String apply(String text) {
    tell(text);
    StringBuilder out = new StringBuilder(text.length() + 16);
    int[] at = new int[1];
    boolean json =
        walk(
            text,
            (path, value, string, from, to) -> {
              Mask mask = paths.get(path);
              if (mask == null) {
                unknown(path);
                mask = others;
              }
              if (mask instanceof Stays || value.isEmpty()) {
                return;
              }
              String masked = mask.apply(string ? value : Letters.lower(value));
              out.append(text, at[0], from);
              out.append(masked == null ? "null" : string ? quoted(masked) : number(masked, value));
              at[0] = to;
            });
    if (!json) {
      return others.apply(text);
    }
    return out.append(text, at[0], text.length()).toString();
  }

  private void unknown(String path) {
    if (stop != null) {
      throw stop.get();
    }
    unknownValues++;
    if (unknownPaths.size() < MOST_PATHS) {
      unknownPaths.add(path);
    }
  }

  /** How many values have stood at paths that are not known. */
  public long unknownValues() {
    return unknownValues;
  }

  /** At how many different paths they stood, a thousand at the most. */
  public int unknownPaths() {
    return unknownPaths.size();
  }

  private static String quoted(String text) {
    return '"' + new String(JsonStringEncoder.getInstance().quoteAsString(text)) + '"';
  }

  /** The masked number if it is still one. */
  private static String number(String masked, String original) {
    return NUMBER.matcher(masked).matches() ? masked : original.replaceAll("[1-9]", "1");
  }
}
