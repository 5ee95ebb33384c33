package yemble.core.mask.person;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import yemble.core.crypto.Permutation;
import yemble.core.crypto.Permutations;
import yemble.core.crypto.Prf;
import yemble.core.official.NumberForms;
import yemble.core.official.Permuted;

/**
 * Turns official numbers into others of the same form. A day of birth in one becomes what the mask
 * of birth dates makes of it, the gender stays, the other digits are permuted, under that day; then
 * check digits are computed, and made as wrong as those of the original were. A permutation walked
 * along its cycle until the result is right in the very forms that the original is right in: so
 * different numbers stay different, and a number that is right in several countries stays right in
 * each of them, whichever its column is of. Where a day leaves too few numbers for that, those
 * forms count that hold no day, else its own alone.
 */
public final class OfficialNumbers {
  private static final int MOST_STEPS = 5_000;
  private static final int MOST_DAYS = 60_000;
  private static final int TWEAKS = 128;
  private static final int FEW_TWEAKS = 4;
  private static final int LARGE = 5_000;

  /** The last rank of forms that hardly any number is of by chance. */
  private static final int RARE = 8;

  private final List<List<Permuted>> forms = new ArrayList<>();
  private final UnaryOperator<LocalDate> births;
  private final boolean named;
  private final Permutations permutations;
  private final Map<String, long[]> ofDays = new HashMap<>();

  /**
   * @param countries whose numbers there are, by their codes of ISO 3166; empty for all: then a few
   *     numbers of one country are taken for another's
   * @param births the mask of birth dates
   */
  public OfficialNumbers(
      Prf prf, LocalDate asOf, Set<String> countries, UnaryOperator<LocalDate> births) {
    for (Permuted form : NumberForms.permuted(asOf)) {
      if (countries.isEmpty() || countries.contains(form.country())) {
        while (forms.size() <= form.length()) {
          forms.add(new ArrayList<>());
        }
        forms.get(form.length()).add(form);
      }
    }
    this.births = births;
    this.named = !countries.isEmpty();
    this.permutations = new Permutations(prf);
  }

  /** Those of a text's length. */
  private List<Permuted> of(String text) {
    return text.length() < forms.size() ? forms.get(text.length()) : List.of();
  }

  /** The form of which a compact text is a right number; null if there is none. */
  private Permuted right(String text) {
    for (Permuted form : of(text)) {
      if (form.isRight(text)) {
        return form;
      }
    }
    return null;
  }

  /** Whether a compact text is right in some form that has check characters or days. */
  public boolean isRight(String text) {
    return right(text) != null;
  }

  /**
   * Whether a compact text is a right number and hardly any number would be one by chance, as it
   * holds a day of birth or much else that must fit; or its country is one of those that were
   * named.
   */
  public boolean isTelling(String text) {
    Permuted form = right(text);
    return form != null && (named || form.birth() != null || form.rank() <= RARE);
  }

  /**
   * Whether a text is right in some forms of its length, and in no other; those are looked at
   * first.
   */
  private boolean isRightIn(String text, long bits) {
    List<Permuted> ofLength = of(text);
    for (int i = ofLength.size() - 1; i >= 0; i--) {
      if ((bits >>> i & 1) != 0 && !ofLength.get(i).isRight(text)) {
        return false;
      }
    }
    for (int i = 0; i < ofLength.size(); i++) {
      if ((bits >>> i & 1) == 0 && ofLength.get(i).isRight(text)) {
        return false;
      }
    }
    return true;
  }

  /** In which forms a result must be right or wrong as the original is. */
  private enum Alike {
    EVERYWHERE,
    UNDATED,
    OWN,
    /** The same, off the cycle: it may hold no number of another day. */
    ANY;

    Alike less() {
      return this == ANY ? null : values()[ordinal() + 1];
    }
  }

  /** The forms of its length that a text is right in, a bit each. */
  private long rightIn(String text, Alike alike) {
    List<Permuted> ofLength = of(text);
    long bits = 0;
    for (int i = 0; i < ofLength.size(); i++) {
      boolean counts = alike == Alike.EVERYWHERE || ofLength.get(i).birth() == null;
      bits |= counts && ofLength.get(i).isRight(text) ? 1L << i : 0;
    }
    return bits;
  }

  /** What people call the form of a compact text, and its country; null if it has none. */
  public String describe(String text) {
    Permuted form = form(text);
    return form == null ? null : form.country() + " " + form.name();
  }

  private Permuted form(String text) {
    Permuted right = right(text);
    if (right != null) {
      return right;
    }
    for (Permuted form : of(text)) {
      if (form.checks().length > 0 && form.fits(text)) {
        return form;
      }
    }
    return null;
  }

  /**
   * The mask of a number.
   *
   * @param text capitals and digits, and a sign where the form has one
   * @return null if it is of no form, or its form has no room for another one
   */
  public String masked(String text) {
    Permuted form = form(text);
    if (form == null) {
      return null;
    }
    String rightText = form.checked().apply(text);
    if (rightText == null) {
      return null;
    }
    LocalDate birth = form.birth() == null ? null : births.apply(form.birth().read(text));
    String base = birth == null ? text : form.birth().write(text, birth);
    if (form.gaps()) {
      return ranked(form, text, rightText, base, birth);
    }
    String masked = null;
    for (Alike alike = Alike.EVERYWHERE; masked == null && alike != null; alike = alike.less()) {
      masked = walked(form, text, rightText, base, birth, alike);
    }
    return masked;
  }

  /**
   * Walks along a cycle of a permutation until the result is one that the form has.
   *
   * @param alike in which forms it must be as the text is
   */
  private String walked(
      Permuted form, String text, String rightText, String base, LocalDate birth, Alike alike) {
    boolean right = text.equals(rightText);
    long rightIn = right && alike.compareTo(Alike.OWN) < 0 ? rightIn(text, alike) : 0;
    long size = size(form, base);
    Permutation permutation =
        permutations.walking(
            size,
            form.country() + form.name() + size + (birth == null ? "" : "/" + tweak(birth, size)));
    long number = number(form, base);
    boolean anyCycle = alike == Alike.ANY;
    for (int step = 0; step < Math.min(MOST_STEPS, size); step++) {
      number = permutation.of(anyCycle ? (number + 1) % size : number);
      String made = checked(form, spelled(form, base, number), text, rightText);
      if (made != null
          && form.fits(made)
          && form.alike().test(text, made)
          && (birth == null || birth.equals(form.birth().read(made)))
          && isAsRight(form, made, right, alike, rightIn)) {
        return made;
      }
    }
    return null;
  }

  private boolean isAsRight(Permuted form, String made, boolean right, Alike alike, long rightIn) {
    if (!right) {
      return form(made) == form && !form.isRight(made);
    }
    return switch (alike) {
      case EVERYWHERE -> isRightIn(made, rightIn);
      case UNDATED -> right(made) == form && rightIn(made, alike) == rightIn;
      case OWN, ANY -> right(made) == form;
    };
  }

  /**
   * Where some numbers of a day have no check characters, others than on another day: the one of
   * the same rank among those of the masked day, permuted. Days have a few numbers more or less, so
   * the last ones of a day may meet others.
   */
  private String ranked(
      Permuted form, String text, String rightText, String base, LocalDate birth) {
    long[] from = numbers(form, text, form.birth().read(text));
    long[] to = numbers(form, base, birth);
    int rank = java.util.Arrays.binarySearch(from, number(form, text));
    if (rank < 0 || to.length == 0) {
      return null;
    }
    long moved =
        permutations
            .of(to.length, form.country() + to.length + "/" + tweak(birth, to.length))
            .of(rank % to.length);
    return checked(form, spelled(form, base, to[(int) moved]), text, rightText);
  }

  /** The numbers of free places, in order, that a day can have beside what stays in a text. */
  private long[] numbers(Permuted form, String text, LocalDate day) {
    String key = form.country() + day + form.kept().apply(text);
    long[] numbers = ofDays.get(key);
    if (numbers == null) {
      numbers =
          java.util.stream.LongStream.range(0, size(form, text))
              .filter(number -> isOne(form, text, spelled(form, text, number), day))
              .toArray();
      if (ofDays.size() >= MOST_DAYS) {
        ofDays.clear();
      }
      ofDays.put(key, numbers);
    }
    return numbers;
  }

  private static boolean isOne(Permuted form, String text, String made, LocalDate day) {
    String good = form.checked().apply(made);
    return good != null
        && form.fits(good)
        && form.alike().test(text, good)
        && day.equals(form.birth().read(good));
  }

  /** Days have permutations of their own, but fewer of them where each is a large table. */
  private static long tweak(LocalDate birth, long size) {
    return Math.floorMod(birth.toEpochDay(), size <= LARGE ? TWEAKS : FEW_TWEAKS);
  }

  /** Right check characters, moved as far as those of the original are from its right ones. */
  private static String checked(Permuted form, String made, String original, String right) {
    String good = form.checked().apply(made);
    if (good == null || original.equals(right)) {
      return good;
    }
    char[] out = good.toCharArray();
    for (int at : form.checks()) {
      String letters = form.letters();
      int by = letters.indexOf(original.charAt(at)) - letters.indexOf(right.charAt(at));
      out[at] = letters.charAt(Math.floorMod(letters.indexOf(out[at]) + by, letters.length()));
    }
    return new String(out);
  }

  private static int alphabet(char c) {
    return c >= '0' && c <= '9' ? 10 : "AEIOU".indexOf(c) >= 0 ? 5 : 21;
  }

  private static long size(Permuted form, String text) {
    long size = 1;
    for (int at : form.free()) {
      size *= alphabet(text.charAt(at));
    }
    return size;
  }

  private static final String CONSONANTS = "BCDFGHJKLMNPQRSTVWXYZ";
  private static final String VOWELS = "AEIOU";

  private static String letters(char c) {
    return c >= '0' && c <= '9' ? Permuted.DIGITS : VOWELS.indexOf(c) >= 0 ? VOWELS : CONSONANTS;
  }

  private static long number(Permuted form, String text) {
    long number = 0;
    for (int at : form.free()) {
      String letters = letters(text.charAt(at));
      number = number * letters.length() + letters.indexOf(text.charAt(at));
    }
    return number;
  }

  private static String spelled(Permuted form, String text, long number) {
    char[] out = text.toCharArray();
    long rest = number;
    for (int i = form.free().length - 1; i >= 0; i--) {
      String letters = letters(text.charAt(form.free()[i]));
      out[form.free()[i]] = letters.charAt((int) (rest % letters.length()));
      rest /= letters.length();
    }
    return new String(out);
  }
}
