package yemble.core.kind;

import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * A sort of personal data, defined in one place: a line of {@code kinds.yaml}, or of the project's
 * own kinds.
 *
 * @param name what the register calls it; also the scope of its mask
 * @param holds what a column of the kind holds, in a few words
 * @param becomes what the mask makes of a value, in a few words
 * @param alike what two spellings of one value have in common (the normal form), in a few words
 * @param mask the name of its mask; empty for an own kind that has none yet
 * @param samples made-up values
 * @param look how its values speak for it
 * @param also the sorts of types that can hold it beside text
 * @param original how the proof looks for its originals
 * @param person whether it is personal only if the table is about people: the city of a passenger,
 *     not that of a warehouse
 * @param traits what else is asked of it
 * @param origin where it is defined, as messages write it; empty for what ships with the tool
 */
public record Kind(
    String name,
    Category category,
    String holds,
    String becomes,
    String alike,
    String mask,
    List<String> samples,
    Look look,
    Set<TypeSort> also,
    Original original,
    boolean person,
    Traits traits,
    String origin) {
  /** What a mask's name begins with that takes values of a list that ships with the tool. */
  public static final String LIST = "list: ";

  /** The name of the mask that a rule of the project puts together. */
  public static final String BY_RULE = "by rule";

  public Kind {
    also = Set.copyOf(also);
    samples = List.copyOf(samples);
  }

  /**
   * How values speak for a kind.
   *
   * @param name of the check that values are put to; empty for none
   * @param telling the confidence, from 0 to 1, if the check knows every value of a column
   * @param likely the same if it holds every value for possible only
   * @param without what is left of the name's evidence if the check accepts no value, from 0 to 1
   * @param named whether values count only if the name speaks for the kind, too
   * @param many whether a column has many different values, so that few tell of codes and tests
   * @param longTexts whether long texts are put to its check, too
   * @param said what it means of values that the check accepts them, as the end of a sentence
   */
  public record Look(
      String name,
      double telling,
      double likely,
      double without,
      boolean named,
      boolean many,
      boolean longTexts,
      String said) {
    /** What is said of values that a check of one's own accepts. */
    public static final String HAVE_FORM = "have the form";

    static final Look NONE = new Look("", 0, 0, 1, false, false, false, HAVE_FORM);
  }

  /**
   * How the proof looks for originals of a kind where none may be left.
   *
   * @param form what two spellings of one original have in common; {@link Form#NONE} for values
   *     that many people share, which prove nothing alone
   * @param among about how many values a mask chooses from, at the least: what chance explains
   * @param stays whether its mask leaves values as they are, by design
   */
  public record Original(Form form, long among, boolean stays) {
    /** The usual: nothing that tells a person, out of a short list. */
    public static final Original PLAIN = new Original(Form.NONE, 20, false);
  }

  /** What is compared of an original. */
  public enum Form {
    NONE,
    /** The text without its case: mail addresses. */
    ADDRESS,
    /** The text without its case, from six characters: what somebody signs in with. */
    LOGIN,
    /** The digits, from seven on, and the last nine of them: telephone numbers. */
    PHONE,
    /** The digits, from nine on: card numbers. */
    DIGITS,
    /** Letters and digits, from seven on, four digits among them: official numbers, accounts. */
    CODE,
    /** Two words or more: names. */
    NAME,
    /** The text itself, from sixteen characters: tokens, hashes. */
    TEXT
  }

  /** A kind of the user's own, which has no mask yet. */
  public static Kind own(String name, Category category, String holds, String origin) {
    return new Kind(
        name,
        category,
        holds,
        "no mask yet",
        "the text",
        "",
        List.of(),
        Look.NONE,
        EnumSet.allOf(TypeSort.class),
        Original.PLAIN,
        false,
        Traits.PLAIN,
        origin);
  }

  /** The same kind with another mask, as somebody has said at a place. */
  public Kind masked(String newMask, String newBecomes, String where) {
    return new Kind(
        name,
        category,
        holds,
        newBecomes,
        alike,
        newMask,
        samples,
        look,
        also,
        original,
        person,
        traits,
        where);
  }

  /** Whether a column of a sort of types can hold it. */
  public boolean suits(TypeSort sort) {
    return sort == TypeSort.TEXT || also.contains(sort);
  }
}
