package yemble.core.wording;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apache.commons.text.StringSubstitutor;

/**
 * What was found: named values, and the wording that makes a sentence of them. No value of the data
 * is among them.
 *
 * @param about the column, table or link that it is about; empty for the whole
 * @param by by what the column is masked; empty where that does not matter
 * @param values numbers as {@code Long}, texts, lists, and other sentences within this one; what is
 *     none of these becomes its text
 */
public record Sentence(String about, String by, Wording wording, List<Object> values) {
  private static final Pattern GAP = Pattern.compile("\\$\\{(\\w+)[^}]*}");
  private static final Pattern PARTS = Pattern.compile("(\\w+)(?:([:?])([^|]*)(?:\\|(.*))?)?");

  private static final Map<Wording, List<String>> NAMES = new ConcurrentHashMap<>();

  /** Says nothing: where a part of a sentence may be missing. */
  public static final Sentence NONE = Plain.NOTHING.of();

  private enum Plain implements Wording {
    NOTHING("");

    private final String words;

    Plain(String words) {
      this.words = words;
    }

    @Override
    public String words() {
      return words;
    }
  }

  public Sentence {
    values = values.stream().map(Sentence::plain).toList();
    if (names(wording).size() != values.size()) {
      throw new IllegalArgumentException(wording + " takes " + names(wording) + ": " + values);
    }
  }

  private static Object plain(Object value) {
    return value instanceof Integer number
        ? (Object) number.longValue()
        : value instanceof List<?> list
            ? list.stream().map(Sentence::plain).toList()
            : value instanceof Long || value instanceof Sentence ? value : value.toString();
  }

  /** Looked up once for each wording: a load may say the same of every row. */
  private static List<String> names(Wording wording) {
    return NAMES.computeIfAbsent(
        wording, w -> GAP.matcher(w.words()).results().map(m -> m.group(1)).distinct().toList());
  }

  /** The same of a column, a table or a link. */
  public Sentence about(Object what) {
    return new Sentence(what.toString(), by, wording, values);
  }

  /** The same of a column that is masked by something. */
  public Sentence maskedBy(String mask) {
    return new Sentence(about, mask, wording, values);
  }

  public boolean isEmpty() {
    return wording == Plain.NOTHING;
  }

  /** The values by the names of their gaps, in their order. */
  public Map<String, Object> named() {
    Map<String, Object> named = new LinkedHashMap<>();
    List<String> names = names(wording);
    for (int i = 0; i < names.size(); i++) {
      named.put(names.get(i), values.get(i));
    }
    return named;
  }

  /** The sentence, without what it is about. */
  public String says() {
    Map<String, Object> named = named();
    StringSubstitutor words = new StringSubstitutor(gap -> filled(gap, named));
    return words.setDisableSubstitutionInValues(true).replace(wording.words());
  }

  private static String filled(String gap, Map<String, Object> named) {
    Matcher parts = PARTS.matcher(gap);
    if (!parts.matches()) {
      throw new IllegalArgumentException(gap);
    }
    Object value = named.get(parts.group(1));
    if (parts.group(2) == null) {
      return text(value);
    }
    boolean one = value.equals(1L);
    String many = parts.group(4) == null ? parts.group(3) + "s" : parts.group(4);
    String form = one ? parts.group(3) : many;
    return parts.group(2).equals("?") ? form : text(value) + " " + form;
  }

  private static String text(Object value) {
    return value instanceof Long number
        ? String.format(Locale.ROOT, "%,d", number)
        : value instanceof List<?> list
            ? list.stream().map(Sentence::text).collect(Collectors.joining(", "))
            : value.toString();
  }

  /** The whole sentence: what it is about, and what is said of it. */
  @Override
  public String toString() {
    String mask = by.isEmpty() ? "" : ", masked by " + by;
    return about.isEmpty() ? says() : about + mask + ": " + says();
  }
}
