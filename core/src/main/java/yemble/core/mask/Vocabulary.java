package yemble.core.mask;

import java.util.Set;
import yemble.core.digits.CheckDigits;
import yemble.core.mask.money.Iban;
import yemble.core.mask.person.GivenNames;
import yemble.core.mask.place.Places;
import yemble.core.mask.place.Postcode;
import yemble.core.vocabulary.Vocabularies;

/** What the masks' own lists say of words, for those who look for personal data. */
public final class Vocabulary {
  private Vocabulary() {}

  /** All given names of the lists, in lower case. */
  public static Set<String> givenNames() {
    return GivenNames.known();
  }

  /** Words of every day, and given names that are such: in a text they are no names alone. */
  public static Set<String> ordinary() {
    return Vocabularies.words("ordinary", "names-and-words");
  }

  /** Particles of family names, in lower case. */
  public static Set<String> particles() {
    return Vocabularies.words("particles");
  }

  /** Whether a text holds a word that says what sort of street it is. */
  public static boolean namesStreet(String text) {
    return Places.namesStreet(text);
  }

  /** The area that a postal code lies in; a text itself that is none. */
  public static String postalArea(String text) {
    return Postcode.area(text);
  }

  /** Whether a text is a bank account number with right check digits, spaces left out. */
  public static boolean isIban(String text) {
    return Iban.looksLikeOne(text) && Iban.isValid(Iban.normal(text));
  }

  /** Whether a text has the form of such a number, right or wrong. */
  public static boolean looksLikeIban(String text) {
    return Iban.looksLikeOne(text);
  }

  /** Whether digits are a card's, check digit included. */
  public static boolean isCard(String digits) {
    return CheckDigits.luhn(digits);
  }
}
