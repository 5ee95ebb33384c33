package yemble.core.recognition;

import com.google.i18n.phonenumbers.NumberParseException;
import com.google.i18n.phonenumbers.PhoneNumberUtil;
import com.google.i18n.phonenumbers.Phonenumber.PhoneNumber;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.mask.Vocabulary;
import yemble.core.official.NumberForm;
import yemble.core.official.NumberForms;
import yemble.core.official.Vin;

/** Checks of numbers and codes, by check digits and forms. */
final class NumberLooks {
  private static final PhoneNumberUtil PHONES = PhoneNumberUtil.getInstance();
  private static final List<String> USUAL_REGIONS =
      List.of("DE", "GB", "FR", "ES", "IT", "PT", "NL", "PL", "TR", "US", "AT", "CH");
  private static final Pattern PHONE =
      Pattern.compile(
          "[+(0-9][0-9()/ .\\-\\u2013]{4,24}[0-9](?: ?(?:x|ext\\.?|Durchwahl) ?[0-9]{1,5})?");
  private static final Pattern DATE_TIME = Pattern.compile("(?:19|20)[0-9]{2}-[0-9]{2}-[0-9]{2}.*");
  private static final Pattern CARD = Pattern.compile("[0-9]{4}(?:[ -]?[0-9]){8,15}");
  private static final Pattern BIC =
      Pattern.compile("[A-Z]{4}([A-Z]{2})[A-Z0-9]{2}(?:[A-Z0-9]{3})?");
  private static final Pattern EXPIRY =
      Pattern.compile("(?:0[1-9]|1[0-2])[/-](?:20)?[2-4][0-9]|20[2-4][0-9]-(?:0[1-9]|1[0-2])");
  private static final Pattern PLATE =
      Pattern.compile(
          "[A-ZÄÖÜ]{1,3}[ -][A-Z]{1,2}[ -]?[0-9]{1,4}[EH]?|[A-Z]{2}[- ]?[0-9]{3}[- ]?[A-Z]{2}"
              + "|[A-Z]{2}[0-9]{2} ?[A-Z]{3}|[0-9]{4} ?[BCDFGHJKLMNPRSTVWXYZ]{3}"
              + "|[0-9]{2}[- ]?[A-Z]{1,3}[- ]?[0-9]{2,4}|[A-Z]{2,3}[ -]?[0-9A-Z]{4,5}"
              + "|[A-Z]{1,2}-[0-9]{1,3}-[A-Z]{1,3}|[0-9]{1,2}-[A-Z]{2,3}-[0-9]{1,2}"
              + "|[A-Z]{1,3}[ -]?[0-9]{1,4}[ -]?[A-Z]{1,3}");
  private static final Pattern ENCLOSED = Pattern.compile("[A-Z]{1,2}[0-9]{2,3}[A-Z]{2,3}");
  private static final Pattern POSTCODE =
      Pattern.compile(
          "[0-9]{4,5}|[0-9]{5}-[0-9]{3,4}|[0-9]{4} ?[A-Z]{2}|[0-9]{2}-[0-9]{3}|[0-9]{4}-[0-9]{3}"
              + "|[0-9]{3} [0-9]{2}|[A-Z]{1,2}[0-9][A-Z0-9]? ?[0-9][A-Z]{2}"
              + "|[A-Z][0-9][A-Z] ?[0-9][A-Z][0-9]|[A-Z]{1,3}[0-9]{1,2}[A-Z]? ?[0-9][A-Z]{2}"
              + "|[A-Z]{1,2}-[0-9]{4,5}");
  private static final Pattern PASSPORT =
      Pattern.compile(
          "[A-Z]{1,3}[0-9]{5,8}[A-Z]?|[CFGHJKLMNPRTVWXYZ0-9]{9}|[0-9]{8,9}|[0-9]{2}[A-Z]{2}[0-9]{5}");
  private static final Pattern ICD =
      Pattern.compile("[A-TV-Z][0-9][0-9AB](?:\\.[0-9A-TV-Z]{1,4})?[*+!]?");
  private static final Pattern NATIONAL_FORM =
      Pattern.compile("[A-Z]{0,4}[ -]?[0-9][0-9A-Z .\\-/]{3,16}[0-9A-Z]");
  private static final Pattern CODE_FORM =
      Pattern.compile("[A-Z]{0,4}[ -]?[0-9][0-9A-Z .\\-/]{4,20}");
  private static final Set<String> COUNTRIES = Set.of(java.util.Locale.getISOCountries());

  private static final int MOST_SPACES_OF_A_NAME = 6;

  private NumberLooks() {}

  /** Telephone numbers, national ones after the rules of some countries. */
  static Look phone(Collection<String> countries) {
    List<String> regions = countries.isEmpty() ? USUAL_REGIONS : new ArrayList<>(countries);
    return (value, hits) -> hits.add(phone(value, regions));
  }

  private static Verdict phone(Value value, List<String> regions) {
    if (value.digits() < 5
        || value.letters() > 9
        || !PHONE.matcher(value.text()).matches()
        || DATE_TIME.matcher(value.text()).matches()
        || value.letters() == 0 && value.others() == 2 && TextLooks.date(value.text()) != null) {
      return Verdict.NO;
    }
    boolean international = value.first() == '+' || value.text().startsWith("00");
    boolean written =
        international || value.first() == '0' || value.first() == '(' || value.spaces() > 0;
    if (value.digits() == value.length() && !international && value.first() != '0') {
      return Verdict.possibleIf(value.digits() >= 7 && value.digits() <= 12);
    }
    if (value.text().chars().filter(c -> c >= '0' && c <= '9').distinct().count() == 1) {
      return Verdict.refused("one digit only");
    }
    if (value.text().indexOf('.') > 0 && value.others() == 1 && value.spaces() == 0) {
      return Verdict.NO;
    }
    if (international) {
      String text = value.first() == '+' ? value.text() : "+" + value.text().substring(2);
      return phone(text, "ZZ", true);
    }
    if (value.digits() < 7) {
      return Verdict.possibleIf(written && value.digits() >= 6);
    }
    for (String region : regions) {
      Verdict verdict = phone(value.text(), region, false);
      if (verdict.grade() == Verdict.Grade.KNOWN) {
        return value.first() == '0' || value.first() == '(' ? Verdict.KNOWN : Verdict.POSSIBLE;
      }
    }
    return Verdict.possibleIf(written && value.digits() <= 15);
  }

  private static Verdict phone(String text, String region, boolean international) {
    try {
      PhoneNumber number = PHONES.parse(text, region);
      if (PHONES.isValidNumber(number)) {
        return Verdict.KNOWN;
      }
      return switch (PHONES.isPossibleNumberWithReason(number)) {
        case IS_POSSIBLE, IS_POSSIBLE_LOCAL_ONLY -> Verdict.POSSIBLE;
        case TOO_SHORT -> Verdict.refused("too short");
        case TOO_LONG -> Verdict.refused("too long");
        case INVALID_COUNTRY_CODE -> Verdict.refused("no such country code");
        default -> Verdict.refused("no such length");
      };
    } catch (NumberParseException e) {
      return international
              && e.getErrorType() == NumberParseException.ErrorType.INVALID_COUNTRY_CODE
          ? Verdict.refused("no such country code")
          : Verdict.NO;
    }
  }

  /** Numbers of cards: Luhn, and a beginning that some network issues (ISO/IEC 7812). */
  static Verdict card(Value value) {
    if (value.digits() < 12
        || value.digits() > 19
        || value.letters() > 0
        || !CARD.matcher(value.text()).matches()) {
      return Verdict.NO;
    }
    String digits = value.compact();
    boolean grouped = value.length() > digits.length();
    if (!issued(digits)) {
      return grouped ? Verdict.refused("no card begins so") : Verdict.NO;
    }
    if (!Vocabulary.isCard(digits)) {
      return Verdict.refused("check digit is wrong");
    }
    return Verdict.KNOWN;
  }

  private static boolean issued(String digits) {
    int two = Integer.parseInt(digits.substring(0, 2));
    int four = Integer.parseInt(digits.substring(0, 4));
    int length = digits.length();
    if (digits.charAt(0) == '4') {
      return length == 13 || length == 16 || length == 19;
    }
    if ((two >= 51 && two <= 55) || (four >= 2221 && four <= 2720)) {
      return length == 16;
    }
    if (two == 34 || two == 37) {
      return length == 15;
    }
    if (two == 36 || two == 38 || two == 39 || (four >= 3000 && four <= 3059)) {
      return length >= 14 && length <= 19;
    }
    if (four >= 3528 && four <= 3589) {
      return length >= 16;
    }
    boolean others = four == 6011 || two == 62 || two == 64 || two == 65 || two == 81;
    boolean debit = two == 50 || (two >= 56 && two <= 63) || two == 67;
    return others ? length >= 16 : debit && length >= 12;
  }

  /** ISO 13616. */
  static Verdict iban(Value value) {
    if (value.digits() < 6 || value.letters() < 2 || !Vocabulary.looksLikeIban(value.text())) {
      return Verdict.NO;
    }
    if (!COUNTRIES.contains(value.compact().substring(0, 2)) && !Vocabulary.isIban(value.text())) {
      return Verdict.NO;
    }
    return Vocabulary.isIban(value.text())
        ? Verdict.KNOWN
        : Verdict.refused("check digits are wrong");
  }

  /** ISO 9362. */
  static Verdict bic(Value value) {
    if (value.length() != 8 && value.length() != 11) {
      return Verdict.possibleIf(
          value.digits() == value.length() && value.length() <= 9 && value.length() >= 5
              || value.digits() == 6 && value.others() == 2);
    }
    var bic = BIC.matcher(value.text());
    if (!bic.matches()) {
      return Verdict.possibleIf(value.digits() == value.length());
    }
    return COUNTRIES.contains(bic.group(1)) ? Verdict.KNOWN : Verdict.refused("no such country");
  }

  static Verdict expiry(Value value) {
    if (value.length() <= 2) {
      return Verdict.possibleIf(
          value.digits() == value.length() && Integer.parseInt(value.text()) <= 12);
    }
    if (value.length() == 4 && value.digits() == 4) {
      int number = Integer.parseInt(value.text());
      return Verdict.possibleIf(
          (number >= 2015 && number <= 2050) || (number / 100 >= 1 && number / 100 <= 12));
    }
    return EXPIRY.matcher(value.text()).matches() ? Verdict.KNOWN : Verdict.NO;
  }

  /** Known if the check character is right, which some countries do not ask for. */
  static Verdict vin(Value value) {
    if (value.length() != 17
        || value.digits() < 3
        || value.letters() < 2
        || !Vin.matches(value.text())) {
      return Verdict.NO;
    }
    char check = Vin.check(value.text());
    return value.text().charAt(Vin.CHECK) == check ? Verdict.KNOWN : Verdict.POSSIBLE;
  }

  static Verdict plate(Value value) {
    boolean plate =
        value.length() <= 12
            && value.length() >= 5
            && value.digits() > 0
            && value.letters() > 0
            && value.capitals() == value.letters()
            && PLATE.matcher(value.text()).matches();
    return !plate
        ? Verdict.NO
        : value.others() + value.spaces() > 0 || ENCLOSED.matcher(value.text()).matches()
            ? Verdict.KNOWN
            : Verdict.POSSIBLE;
  }

  static Verdict postcode(Value value) {
    return Verdict.possibleIf(
        value.length() <= 10 && value.digits() >= 2 && POSTCODE.matcher(value.text()).matches());
  }

  static Verdict passport(Value value) {
    return Verdict.possibleIf(
        value.length() <= 12 && value.digits() >= 3 && PASSPORT.matcher(value.text()).matches());
  }

  /** ICD-10, or a word of an illness. */
  static Look diagnosis() {
    Look words = NameLooks.oneOf("illnesses", true);
    return (value, hits) -> {
      if (value.length() <= 8 && ICD.matcher(value.text()).matches()) {
        hits.add(value.text().indexOf('.') > 0 ? Verdict.KNOWN : Verdict.POSSIBLE);
      } else if (value.spaces() <= MOST_SPACES_OF_A_NAME) {
        words.at(value, hits);
      }
    };
  }

  /** Official numbers of one sort, of some countries or all. */
  static Look official(NumberForm.Sort sort, Collection<String> countries) {
    List<NumberForm> ids =
        NumberForms.ALL.stream()
            .filter(id -> id.sort() == sort)
            .filter(id -> countries.isEmpty() || countries.contains(id.country()))
            .toList();
    Pattern anyForm = sort == NumberForm.Sort.NATIONAL ? NATIONAL_FORM : CODE_FORM;
    Map<Integer, List<NumberForm>> byLength = new HashMap<>();
    for (NumberForm id : ids) {
      int[] lengths = id.lengths();
      for (int length = lengths[0]; length <= lengths[1]; length++) {
        byLength.computeIfAbsent(length, l -> new ArrayList<>()).add(id);
      }
    }
    return (value, hits) -> {
      if (value.digits() < 3
          || value.length() > 24
          || value.length() < 7
          || !value.onlyWith(" -./()+")) {
        return;
      }
      String compact = value.compact();
      for (NumberForm id : byLength.getOrDefault(compact.length(), List.of())) {
        if (!id.form().matcher(compact).matches()
            || !id.written().matcher(value.text()).matches()) {
          continue;
        }
        String refusal = id.check().apply(compact);
        String sortName = id.country() + " " + id.name();
        hits.add(refusal == null ? Verdict.known(sortName) : Verdict.refused(sortName, refusal));
      }
      if (anyForm.matcher(value.text()).matches()) {
        hits.add(new Verdict(Verdict.Grade.POSSIBLE, "", "any form"));
      }
    };
  }

  static Verdict age(Value value) {
    return Verdict.possibleIf(
        value.digits() == value.length()
            && value.length() <= 3
            && Integer.parseInt(value.text()) <= 115);
  }

  static Look degrees(int most) {
    return Look.of(
        value -> {
          if (value.letters() > 0 || value.digits() < 3 || value.text().indexOf('.') < 0) {
            return Verdict.NO;
          }
          try {
            return Verdict.possibleIf(Math.abs(Double.parseDouble(value.text())) <= most);
          } catch (NumberFormatException e) {
            return Verdict.NO;
          }
        });
  }

  static Verdict salary(Value value) {
    if (value.digits() == value.length() && value.length() <= 2) {
      return Verdict.POSSIBLE; // A class of incomes.
    }
    if (value.letters() > 3 || value.digits() < 3 || value.digits() > 11) {
      return Verdict.NO;
    }
    return Verdict.possibleIf(value.onlyWith(" .,'€$£"));
  }

  static Verdict account(Value value) {
    return Verdict.possibleIf(
        value.digits() >= 5
            && value.digits() <= 26
            && value.letters() <= 2
            && value.onlyWith(" -./"));
  }

  static Verdict codeWithDigits(Value value) {
    return Verdict.possibleIf(
        value.digits() >= 3
            && value.length() <= 24
            && value.spaces() <= 4
            && value.onlyWith(" -./"));
  }
}
