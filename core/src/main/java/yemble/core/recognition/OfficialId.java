package yemble.core.recognition;

import java.util.function.Function;
import java.util.regex.Pattern;

/**
 * A number by which a state, a tax office or a health service knows a person.
 *
 * @param country its code of ISO 3166
 * @param name what people call it
 * @param sort what it is for
 * @param form what its digits and letters look like, in capitals, without anything between them
 * @param written how it is usually written; a value is looked at only if it is written so
 * @param check why a text of the form is none, in words without the text; null if it is one
 */
record OfficialId(
    String country,
    String name,
    Sort sort,
    Pattern form,
    Pattern written,
    Function<String, String> check) {
  /** What a number is for. */
  enum Sort {
    NATIONAL,
    TAX,
    HEALTH
  }

  /** Null if a compact text (capitals and digits alone) is one; why not if it is of the form. */
  String refusal(String compact) {
    return form.matcher(compact).matches() ? check.apply(compact) : "";
  }

  /** The least and the greatest number of digits and letters that it has. */
  int[] lengths() {
    int least = 0;
    int most = 0;
    String pattern = form.pattern();
    int at = 0;
    while (at < pattern.length()) {
      int end = at + 1;
      int[] one = {1, 1};
      if (pattern.charAt(at) == '[') {
        end = pattern.indexOf(']', at) + 1;
      } else if (pattern.charAt(at) == '(') {
        end = pattern.indexOf(')', at) + 1;
        one[0] = Integer.MAX_VALUE;
        one[1] = 0;
        for (String choice : pattern.substring(at + 3, end - 1).split("\\|")) {
          int length = choice.replaceAll("\\[[^]]*]\\{[0-9]+}", "00").length();
          one[0] = Math.min(one[0], length);
          one[1] = Math.max(one[1], length);
        }
      }
      int[] times = {1, 1};
      if (end < pattern.length() && pattern.charAt(end) == '?') {
        times[0] = 0;
        end++;
      } else if (end < pattern.length() && pattern.charAt(end) == '{') {
        int close = pattern.indexOf('}', end);
        String[] bounds = pattern.substring(end + 1, close).split(",");
        times[0] = Integer.parseInt(bounds[0]);
        times[1] = Integer.parseInt(bounds[bounds.length - 1]);
        end = close + 1;
      }
      least += one[0] * times[0];
      most += one[1] * times[1];
      at = end;
    }
    return new int[] {least, most};
  }
}
