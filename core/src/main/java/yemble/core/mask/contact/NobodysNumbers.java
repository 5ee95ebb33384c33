package yemble.core.mask.contact;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.Draw;
import yemble.core.crypto.Prf;
import yemble.core.vocabulary.Vocabularies;

/**
 * Telephone numbers that nobody can have: those that a country's authority keeps free for films and
 * books, of as many digits as the original; where it keeps none of that length, numbers that begin
 * as no number of the country does, by its {@link NumberingPlan}, or if numbers begin with
 * everything, such as do not exist. Digits that may differ are drawn from the national number, so
 * its national and its international form agree. Not reversible, and many fall together.
 */
final class NobodysNumbers {
  private static final Map<Integer, List<String>> KEPT_FREE = new HashMap<>();

  static {
    for (String line : Vocabularies.lines("nobodys-numbers")) {
      String[] parts = line.split(" ");
      KEPT_FREE.merge(
          Integer.valueOf(parts[0]),
          List.of(parts[1]),
          (some, more) -> java.util.stream.Stream.concat(some.stream(), more.stream()).toList());
    }
  }

  private static final int MOST_TRIES = 10_000;

  private final Prf prf;

  NobodysNumbers(Prf prf) {
    this.prf = prf;
  }

  /** Puts such a number in the place of a national number. */
  void replace(NumberingPlan plan, char[] digits, int from, int to) {
    if (from >= to) {
      return;
    }
    String number = new String(digits, from, to - from);
    String form = keptFree(plan.code(), number);
    if (form.isEmpty()) {
      form = plan.beginningOfNone(to - from);
    }
    Draw draw = prf.draw(plan.code() + number);
    int tries = form.isEmpty() ? MOST_TRIES : 1;
    do {
      for (int i = from; i < to; i++) {
        char c = i - from < form.length() ? form.charAt(i - from) : 'x';
        if (c == 'x') {
          // None begins as those of emergency calls do.
          digits[i] = (char) (i == from ? '2' + draw.below(7) : '0' + draw.below(10));
        } else if (c != '.') {
          digits[i] = c;
        }
      }
    } while (--tries > 0 && plan.sort(digits, from, to) > 0);
    if (form.isEmpty() && to - from > 2 && plan.sort(digits, from, to) > 0) {
      digits[from] = '1';
      digits[from + 1] = '9';
    }
  }

  /** The form with most first digits in common; empty if there is none of this length. */
  private static String keptFree(int code, String number) {
    String best = "";
    int most = -1;
    for (String form : KEPT_FREE.getOrDefault(code, List.of())) {
      int common = 0;
      while (common < form.length()
          && common < number.length()
          && (form.charAt(common) == '.' || form.charAt(common) == number.charAt(common))) {
        common++;
      }
      if (form.length() == number.length() && common > most) {
        most = common;
        best = form;
      }
    }
    return best;
  }
}
