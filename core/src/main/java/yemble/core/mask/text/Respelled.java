package yemble.core.mask.text;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;
import yemble.core.vocabulary.Vocabularies;

/**
 * Finds a value of a row where a text spells it otherwise than the row does, and replaces it by
 * what it becomes, in the text's own spelling: telephone numbers in national form or with other
 * separators, days with the day first or the month in words, street addresses with the house number
 * on the other side or the last word of the street cut short.
 */
final class Respelled {
  private static final Pattern PHONE =
      Pattern.compile("(?<![\\p{L}0-9])[+(]{0,2}[0-9](?:[()/ .-]{0,3}[0-9]){6,19}(?![0-9])");
  private static final int PHONE_LEAST = 7;
  private static final int PHONE_TELLING = 9;

  private static final Pattern ISO = Pattern.compile("([0-9]{4})-?([0-9]{2})-?([0-9]{2})(?![0-9])");
  private static final Pattern NUMBERS =
      Pattern.compile(
          "(?<![\\p{L}0-9])([0-9]{1,4})([./ -]{1,2})([0-9]{1,2})\\2([0-9]{2,4})(?![0-9])");
  private static final List<String> ORDERS = List.of("YMD", "DMY", "MDY");
  private static final Pattern DAY_FIRST =
      Pattern.compile(
          "(?<![\\p{L}0-9])([0-9]{1,2})((?:st|nd|rd|th|\\.|º)?(?: of| de)? )(\\p{L}{3,12})"
              + "(\\.?,?(?: de)? )([0-9]{4})(?![0-9])");
  private static final Pattern MONTH_FIRST =
      Pattern.compile(
          "(?<![\\p{L}0-9])(\\p{L}{3,12})(\\.? )([0-9]{1,2})((?:st|nd|rd|th)?,? )([0-9]{4})(?![0-9])");

  private static final Pattern NUMBER_FIRST =
      Pattern.compile(
          "([0-9]+ ?[a-zA-Z]?)(?![\\p{L}0-9])[, ]+(\\p{L}[^,\\n]*?)\\s*(?:[,\\n].*)?",
          Pattern.DOTALL);
  private static final Pattern NUMBER_LAST =
      Pattern.compile(
          "(\\p{L}[^,\\n0-9]*?)[, ]+([0-9]+ ?[a-zA-Z]?)(?![\\p{L}0-9]).*", Pattern.DOTALL);
  private static final Pattern TOKEN = Pattern.compile("[\\p{L}\\p{M}0-9'’-]+");

  private static final List<String[]> MONTHS =
      Vocabularies.lines("months").stream().map(line -> line.split(" ")).toList();
  private static final Map<String, String> STREET_FORMS = streetForms();
  private static final int FEWEST_STREET_LETTERS = 4;

  private Respelled() {}

  private static Map<String, String> streetForms() {
    Map<String, String> forms = new HashMap<>();
    for (String line : Vocabularies.lines("street-forms")) {
      String[] words = line.split(" ");
      for (String word : words) {
        forms.putIfAbsent(word, words[0]);
      }
    }
    return Map.copyOf(forms);
  }

  /** Replaces a value of a row in a text, wherever it is spelled otherwise. */
  static void replace(Draft draft, Mentions.Value value, Mask mask) {
    switch (value.kind()) {
      case "phone" -> phone(draft, value.text(), mask);
      case "birth-date" -> date(draft, value.text(), mask);
      case "street-address" -> address(draft, value.text(), mask);
      default -> {}
    }
  }

  private static String digits(String text) {
    StringBuilder digits = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      if (isDigit(text.charAt(i))) {
        digits.append(text.charAt(i));
      }
    }
    return digits.toString();
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  /**
   * A number is the same if its last nine digits are, or all of one that has fewer. What is before
   * the digits that both have in common stays as the text writes it.
   */
  private static void phone(Draft draft, String value, Mask mask) {
    String own = digits(value);
    if (own.length() < PHONE_LEAST) {
      return;
    }
    String masked = digits(mask.apply(value));
    String end = own.substring(own.length() - Math.min(PHONE_TELLING, own.length()));
    Matcher found = PHONE.matcher(draft.text());
    while (masked.length() == own.length() && found.find()) {
      String there = digits(found.group());
      if (!there.endsWith(end) || !draft.isFree(found.start(), found.end())) {
        continue;
      }
      int common = 0;
      while (common < Math.min(there.length(), own.length())
          && there.charAt(there.length() - 1 - common) == own.charAt(own.length() - 1 - common)) {
        common++;
      }
      StringBuilder out = new StringBuilder(found.group());
      int taken = 0;
      for (int i = out.length() - 1; i >= 0 && taken < common; i--) {
        if (isDigit(out.charAt(i))) {
          out.setCharAt(i, masked.charAt(masked.length() - 1 - taken++));
        }
      }
      draft.replace(found.start(), found.end(), out.toString());
    }
  }

  private static LocalDate day(String year, String month, String day) {
    try {
      return LocalDate.of(Integer.parseInt(year), Integer.parseInt(month), Integer.parseInt(day));
    } catch (DateTimeException | NumberFormatException e) {
      return null;
    }
  }

  /** The day that a value is, if it is written as ISO 8601 does. */
  private static LocalDate iso(String value) {
    Matcher iso = ISO.matcher(value);
    return iso.lookingAt() ? day(iso.group(1), iso.group(2), iso.group(3)) : null;
  }

  private static void date(Draft draft, String value, Mask mask) {
    LocalDate own = iso(value);
    LocalDate masked = own == null ? null : iso(mask.apply(value));
    if (masked == null) {
      return;
    }
    Matcher numbers = NUMBERS.matcher(draft.text());
    while (numbers.find()) {
      String between = numbers.group(2);
      for (String order : ORDERS) {
        String[] parts = parts(own, order, numbers);
        if (parts != null
            && String.join(between, parts).equals(numbers.group())
            && draft.isFree(numbers.start(), numbers.end())) {
          String[] other = parts(masked, order, numbers);
          draft.replace(numbers.start(), numbers.end(), String.join(between, other));
        }
      }
    }
    Matcher day = DAY_FIRST.matcher(draft.text());
    while (day.find()) {
      words(draft, day, new int[] {1, 3, 5}, own, masked);
    }
    Matcher month = MONTH_FIRST.matcher(draft.text());
    while (month.find()) {
      words(draft, month, new int[] {3, 1, 5}, own, masked);
    }
  }

  /**
   * A day in numbers, each as long as what was found in its place.
   *
   * @param order of the fields: Y, M and D
   * @return null if what was found cannot be a day in this order
   */
  private static String[] parts(LocalDate day, String order, Matcher found) {
    String[] parts = {found.group(1), found.group(3), found.group(4)};
    for (int i = 0; i < parts.length; i++) {
      int length = parts[i].length();
      boolean year = order.charAt(i) == 'Y';
      if (year ? length != 4 && (length != 2 || i == 0) : length > 2) {
        return null;
      }
      int number =
          switch (order.charAt(i)) {
            case 'Y' -> length == 4 ? day.getYear() : day.getYear() % 100;
            case 'M' -> day.getMonthValue();
            default -> day.getDayOfMonth();
          };
      parts[i] = String.format(Locale.ROOT, "%0" + length + "d", number);
    }
    return parts;
  }

  private static void words(
      Draft draft, Matcher found, int[] groups, LocalDate own, LocalDate masked) {
    String month = found.group(groups[1]);
    String lower = Letters.lower(month);
    for (String[] months : MONTHS) {
      if (months[own.getMonthValue() - 1].equals(lower)
          && Integer.parseInt(found.group(groups[0])) == own.getDayOfMonth()
          && Integer.parseInt(found.group(groups[2])) == own.getYear()
          && draft.isFree(found.start(), found.end())) {
        String[] instead = new String[6];
        for (int i = 1; i <= 5; i++) {
          instead[i] = found.group(i);
        }
        instead[groups[0]] = Integer.toString(masked.getDayOfMonth());
        instead[groups[1]] = like(month, months[masked.getMonthValue() - 1]);
        instead[groups[2]] = Integer.toString(masked.getYear());
        StringBuilder out = new StringBuilder();
        for (int i = 1; i <= 5; i++) {
          out.append(instead[i]);
        }
        draft.replace(found.start(), found.end(), out.toString());
      }
    }
  }

  /** A word with the capitals of another. */
  private static String like(String model, String word) {
    if (Letters.isAllCapitals(model)) {
      return word.toUpperCase(Locale.ROOT);
    }
    boolean capital = Letters.lower(model.charAt(0)) != model.charAt(0);
    return capital ? Character.toTitleCase(word.charAt(0)) + word.substring(1) : word;
  }

  private static void address(Draft draft, String value, Mask mask) {
    Matcher first = NUMBER_FIRST.matcher(value);
    Matcher last = NUMBER_LAST.matcher(value);
    String street;
    String house;
    if (first.matches()) {
      house = first.group(1);
      street = first.group(2);
    } else if (last.matches()) {
      house = last.group(2);
      street = last.group(1);
    } else {
      return;
    }
    List<String> words = new ArrayList<>();
    Matcher word = TOKEN.matcher(street);
    while (word.find()) {
      words.add(canonical(word.group()));
    }
    if (street.strip().length() < FEWEST_STREET_LETTERS || words.isEmpty()) {
      return;
    }
    String number = Letters.lower(house.replace(" ", ""));
    List<int[]> tokens = new ArrayList<>();
    List<String> texts = new ArrayList<>();
    Matcher token = TOKEN.matcher(draft.text());
    while (token.find()) {
      tokens.add(new int[] {token.start(), token.end()});
      texts.add(token.group());
    }
    for (int i = 0; i + words.size() <= tokens.size(); i++) {
      int end = i + words.size();
      if (!isStreet(texts.subList(i, end), words)) {
        continue;
      }
      boolean before = i > 0 && Letters.lower(texts.get(i - 1)).equals(number);
      boolean numbered = i > 0 && isDigit(texts.get(i - 1).charAt(0));
      boolean behind =
          !numbered && end < tokens.size() && Letters.lower(texts.get(end)).equals(number);
      if (before || behind) {
        int from = tokens.get(before ? i - 1 : i)[0];
        int to = tokens.get(before ? end - 1 : end)[1];
        if (to - from <= street.length() + house.length() + 8 && draft.isFree(from, to)) {
          draft.replace(from, to, mask.apply(value));
        }
      }
    }
  }

  private static boolean isStreet(List<String> found, List<String> words) {
    for (int i = 0; i < words.size(); i++) {
      if (!canonical(found.get(i)).equals(words.get(i))) {
        return false;
      }
    }
    return true;
  }

  private static String canonical(String word) {
    String lower = Letters.lower(word).replaceFirst("(?:straße|strasse)$", "str");
    return STREET_FORMS.getOrDefault(lower, lower);
  }
}
