package yemble.core.mask;

import java.util.ArrayList;
import java.util.List;

/**
 * What a rule says of the masks that it is made of, beside its steps.
 *
 * @param followNames whether the names in an address or a login become what the names of the row
 *     become; null if nothing is said
 * @param least no number or day becomes less; empty if nothing is said
 * @param most no number or day becomes more; empty if nothing is said
 * @param dialable whether telephone numbers may be anybody's; null if nothing is said
 * @param loginLength how many characters a login, or the part of an address before the {@code @},
 *     has at most; 0 if nothing is said
 */
public record Settings(
    Boolean followNames, String least, String most, Boolean dialable, int loginLength) {
  /** Nothing said. */
  public static final Settings NONE = new Settings(null, "", "", null, 0);

  /** These, and where they say nothing the other ones. */
  Settings or(Settings other) {
    return new Settings(
        followNames == null ? other.followNames : followNames,
        least.isEmpty() ? other.least : least,
        most.isEmpty() ? other.most : most,
        dialable == null ? other.dialable : dialable,
        loginLength == 0 ? other.loginLength : loginLength);
  }

  /** The same, saying another thing of the row's names. */
  public Settings following(Boolean names) {
    return new Settings(names, least, most, dialable, loginLength);
  }

  /** Whether it says between what numbers and days stay. */
  public boolean isBounded() {
    return !least.isEmpty() || !most.isEmpty();
  }

  /** Whether telephone numbers must be nobody's. */
  public boolean isUndialable() {
    return Boolean.FALSE.equals(dialable);
  }

  /** What it says but for the row's names, in a few words. */
  List<String> words() {
    List<String> words = new ArrayList<>();
    if (!least.isEmpty()) {
      words.add("at least " + least);
    }
    if (!most.isEmpty()) {
      words.add("at most " + most);
    }
    if (isUndialable()) {
      words.add("not dialable");
    }
    if (loginLength > 0) {
      words.add("up to " + loginLength + " characters");
    }
    return words;
  }
}
