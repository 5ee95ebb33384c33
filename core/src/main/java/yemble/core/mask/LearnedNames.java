package yemble.core.mask;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.contact.LocalPart;
import yemble.core.mask.person.KnownNames;

/**
 * Names that a project has learned from its source beside those of the vocabularies, so that
 * addresses and logins are taken apart by the value alone: fingerprints of their normal forms under
 * the project's key, in generations. The earliest generation that knows all names of a value
 * decides, so what a later one brings changes no value that was understood before.
 */
public final class LearnedNames {
  /** Nothing learned. */
  public static final LearnedNames NONE = new LearnedNames(List.of());

  private static final String SCOPE = "learned-names";

  private final List<Generation> generations;

  /**
   * What was learned at one time.
   *
   * @param given fingerprints of given names, in ascending order
   * @param family the same of family names
   */
  public record Generation(String day, long[] given, long[] family) {}

  /**
   * @param generations in the order in which they were learned
   */
  public LearnedNames(List<Generation> generations) {
    this.generations = List.copyOf(generations);
  }

  /** In the order in which they were learned. */
  public List<Generation> generations() {
    return generations;
  }

  /** The same with one more. */
  public LearnedNames and(Generation last) {
    List<Generation> all = new ArrayList<>(generations);
    all.add(last);
    return new LearnedNames(all);
  }

  public boolean isEmpty() {
    return generations.isEmpty();
  }

  /** The function that makes fingerprints. */
  public static Prf prints(SecretKey key) {
    return key.prf(SCOPE);
  }

  /** The fingerprint of a normal form: 64 bits. */
  public static long print(Prf prints, String form) {
    byte[] bytes = prints.of(form);
    long print = 0;
    for (int i = 0; i < Long.BYTES; i++) {
      print = print << 8 | bytes[i] & 0xff;
    }
    return print;
  }

  /** Whether a normal form is known as a name, by a vocabulary or as learned. */
  public boolean isKnown(Prf prints, String form, boolean family) {
    return family && KnownNames.isFamily(form)
        || !family && KnownNames.isGiven(form)
        || isLearned(generations.size(), print(prints, form), family);
  }

  private boolean isLearned(int first, long print, boolean family) {
    for (Generation generation : generations.subList(0, first)) {
      long[] names = family ? generation.family() : generation.given();
      if (Arrays.binarySearch(names, print) >= 0) {
        return true;
      }
    }
    return false;
  }

  /** What is known with each generation; the vocabularies alone where there is none. */
  public List<LocalPart.Known> known(Prf prints) {
    List<LocalPart.Known> known = new ArrayList<>();
    for (int first = 1; first <= generations.size(); first++) {
      known.add(known(prints, first));
    }
    return known.isEmpty() ? List.of(LocalPart.Known.VOCABULARIES) : known;
  }

  private LocalPart.Known known(Prf prints, int first) {
    return new LocalPart.Known() {
      @Override
      public boolean isGiven(String form) {
        return KnownNames.isGiven(form) || isLearned(first, print(prints, form), false);
      }

      @Override
      public boolean isFamily(String form) {
        return KnownNames.isFamily(form) || isLearned(first, print(prints, form), true);
      }
    };
  }
}
