package yemble.core.survey;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.mask.Recognition;
import yemble.core.store.Values;

/**
 * What the sampled values of one column say: for each kind, how many of them it would accept.
 * Counts alone are kept, and digests of values to see how many are different.
 */
final class ValueEvidence {
  private static final Pattern CODE = Pattern.compile("[A-Za-z0-9 ._/-]{1,20}");
  private static final int MANY_DIFFERENT = 100_000;

  private final Map<String, Integer> hits = new LinkedHashMap<>();
  private final Map<String, Map<String, Integer>> refusals = new HashMap<>();
  private final Set<Integer> different = new HashSet<>();
  private int values;
  private int texts;
  private int codes;
  private int givenNames;
  private long words;

  void add(Object value) {
    if (value == null || value instanceof byte[]) {
      return;
    }
    String text = Values.text(value).strip();
    if (text.isEmpty()) {
      return;
    }
    values++;
    texts += value instanceof String ? 1 : 0;
    codes += CODE.matcher(text).matches() ? 1 : 0;
    givenNames += Recognition.isKnownGivenName(text) ? 1 : 0;
    words += text.split("\\s+").length;
    if (different.size() < MANY_DIFFERENT) {
      different.add(text.hashCode());
    }
    for (Recognition recognition : Recognition.ALL) {
      String refusal = recognition.refusal(text);
      if (refusal == null) {
        hits.merge(recognition.kind(), 1, Integer::sum);
      } else if (!refusal.isEmpty()) {
        refusals
            .computeIfAbsent(recognition.kind(), k -> new LinkedHashMap<>())
            .merge(refusal, 1, Integer::sum);
      }
    }
  }

  /** How many values there were, empty ones left out. */
  int values() {
    return values;
  }

  int hits(String kind) {
    return hits.getOrDefault(kind, 0);
  }

  /** The share of the values that a kind accepts; 0 without values. */
  double share(String kind) {
    return values == 0 ? 0 : (double) hits(kind) / values;
  }

  /** Why values that nearly were of a kind were refused, with how many. */
  Map<String, Integer> refusals(String kind) {
    return refusals.getOrDefault(kind, Map.of());
  }

  int different() {
    return different.size();
  }

  boolean hasTexts() {
    return texts > 0;
  }

  /** Whether all values are short and few different ones come again and again. */
  boolean isCodes() {
    return values > 0
        && codes == values
        && different() <= 15
        && different() <= Math.max(1, values / 4);
  }

  /** The share of the values that are given names of the vocabulary. */
  double givenNames() {
    return values == 0 ? 0 : (double) givenNames / values;
  }

  double wordsEach() {
    return values == 0 ? 0 : (double) words / values;
  }
}
