package yemble.demo;

import java.time.LocalDate;
import java.util.Locale;
import java.util.Random;
import org.apache.commons.validator.routines.checkdigit.CheckDigitException;
import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;

/**
 * Makes up people. All names are invented; a person is a function of a number, so that nobody has
 * to be remembered and the same number is the same person in every table.
 */
final class Folk {
  private static final String[] WOMEN =
      words(
          """
      Orla Mirel Senna Ilvane Yselle Elowyn Thessaly Aldith Tamsel Velda Hesper Nerys Fenna
      Isolde Wenna Sable Lowenna Kerensa Tressa Demelza Morwenna Elestren Bryluen Zennora
      Maris
      """);
  private static final String[] MEN =
      words(
          """
      Tavin Kesto Brannoc Dovan Marisk Corvan Rhune Perran Lisk Oswen Jorrin Caddoc Ondrel
      Gorran Talek Ruan Idris Piran Maddern Ennis Jago Cador Gerens Hedrek Casworon
      """);
  private static final String[] FAMILY_HEAD =
      words(
          """
      Quill Harrow Tide Skerr Pell Marr Gull Storr Venn Lorr Kelp Brine Salt Drift Shoal Reef
      Cray Petr Orm Sunn Wrack Fjall Torr Hask Ness
      """);
  private static final String[] FAMILY_TAIL =
      words(
          """
      ane mere wick owan ister ack idge andry evan oway ask ily ennick orran und ivar aster
      omb elly urk
      """);
  private static final String[] SITES = {
    "tidepost.example", "orlimail.example", "skerrynet.example", "islandpost.example"
  };
  private static final String[] STREETS = {
    "Harbour Road",
    "Skerry Lane",
    "Lantern Street",
    "Net Loft Row",
    "Upper Quay",
    "Heron Way",
    "Saltpan Close",
    "Old Ropewalk",
    "Beacon Hill",
    "Gannet Avenue"
  };
  private static final String[] TOWNS = {
    "Orlisay",
    "Skerrow",
    "Vennick",
    "Tarnholm",
    "Quillhaven",
    "Marrowby",
    "Pellsund",
    "Gullness",
    "Little Skerrow",
    "Tarn-on-Sound"
  };

  private static String[] words(String text) {
    return text.strip().split("\\s+");
  }

  private final long seed;

  Folk(long seed) {
    this.seed = seed;
  }

  /** A person as several tables may know them. */
  record Person(
      int number,
      String given,
      String family,
      char gender,
      String email,
      String phone,
      LocalDate born,
      String nationalId) {
    boolean isChild() {
      return born.isAfter(LocalDate.of(2008, 1, 1));
    }
  }

  /** The random numbers of one person or thing. */
  Random random(int number) {
    return new Random((seed + number) * 0x9E3779B97F4A7C15L);
  }

  /** The person of a number, always the same. */
  Person person(int number) {
    Random random = random(number);
    boolean woman = random.nextBoolean();
    String given = skewed(random, woman ? WOMEN : MEN);
    String family = skewed(random, FAMILY_HEAD) + pick(random, FAMILY_TAIL);
    LocalDate born = LocalDate.of(1938, 1, 1).plusDays(random.nextInt(31_000));
    char gender = random.nextInt(40) == 0 ? 'X' : woman ? 'F' : 'M';
    return new Person(
        number,
        given,
        family,
        gender,
        email(random, given, family, number),
        phone(random),
        born,
        nationalId(random));
  }

  private static String email(Random random, String given, String family, int number) {
    String local =
        switch (random.nextInt(8)) {
          case 0, 1, 2 -> given + "." + family + number;
          case 3, 4 -> given.charAt(0) + "." + family + number;
          case 5 -> family + "_" + given + number;
          case 6 -> given + number;
          default -> given + "-" + family + number;
        };
    return local.toLowerCase(Locale.ROOT) + "@" + pick(random, SITES);
  }

  /** A number of the islands (their country code is one that is not assigned), in five formats. */
  static String phone(Random random) {
    int area = 20 + random.nextInt(60);
    int number = 1_000_000 + random.nextInt(8_999_999);
    return switch (random.nextInt(5)) {
      case 0 -> "+990 " + area + " " + number;
      case 1 -> "00990-" + area + "-" + number;
      case 2 -> "0" + area + "/" + number;
      case 3 ->
          "(0" + area + ") " + number / 10_000 + " " + (number % 10_000 + 10_000 + "").substring(1);
      default -> "+990" + area + number;
    };
  }

  /** An id of the islands: two letters, eight digits, the last a Luhn digit; some are wrong. */
  private static String nationalId(Random random) {
    String body = String.valueOf(1_000_000 + random.nextInt(8_999_999));
    int check = luhn(body);
    int wrong = random.nextInt(25) == 0 ? 1 + random.nextInt(8) : 0;
    return "OR" + body + (check + wrong) % 10;
  }

  static int luhn(String body) {
    try {
      return Integer.parseInt(LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(body));
    } catch (CheckDigitException e) {
      throw new IllegalStateException(e);
    }
  }

  /** A card number made up behind a test prefix; some have a wrong check digit. */
  static String card(Random random) {
    String body =
        (random.nextBoolean() ? "400000" : "510000")
            + String.valueOf(1_000_000_000L + random.nextInt(1_000_000_000)).substring(1);
    int wrong = random.nextInt(20) == 0 ? 3 : 0;
    String card = body + (luhn(body) + wrong) % 10;
    return random.nextInt(3) > 0
        ? card
        : card.substring(0, 4)
            + " "
            + card.substring(4, 8)
            + " "
            + card.substring(8, 12)
            + " "
            + card.substring(12);
  }

  /** An IBAN of a country code that stands for none; some have wrong check digits. */
  static String iban(Random random) {
    String account =
        "ORLI" + String.valueOf(10_000_000_000_000L + (random.nextLong() >>> 23)).substring(1, 14);
    try {
      String check = IBANCheckDigit.IBAN_CHECK_DIGIT.calculate("QO00" + account);
      String iban = "QO" + (random.nextInt(20) == 0 ? "11" : check) + account;
      return random.nextBoolean() ? iban : iban.replaceAll("(.{4})(?=.)", "$1 ");
    } catch (CheckDigitException e) {
      throw new IllegalStateException(e);
    }
  }

  /** A full name as it is written here and there: either order, capitals, misspelt. */
  static String fullName(Random random, Person person) {
    return switch (random.nextInt(12)) {
      case 0, 1 -> person.family() + ", " + person.given();
      case 2 -> person.family().toUpperCase(Locale.ROOT) + " " + person.given();
      case 3 -> (person.given() + " " + person.family()).toUpperCase(Locale.ROOT);
      case 4 -> "Dr " + person.given() + " " + person.family();
      case 5 -> person.given() + " " + misspelt(random, person.family());
      default -> person.given() + " " + person.family();
    };
  }

  private static String misspelt(Random random, String name) {
    int at = 1 + random.nextInt(name.length() - 2);
    return name.substring(0, at) + name.charAt(at + 1) + name.charAt(at) + name.substring(at + 2);
  }

  static String street(Random random) {
    String street = 1 + random.nextInt(120) + " " + pick(random, STREETS);
    return random.nextInt(6) == 0 ? "Flat " + (1 + random.nextInt(9)) + ", " + street : street;
  }

  static String town(Random random) {
    return skewed(random, TOWNS);
  }

  static String postcode(Random random) {
    return "OR"
        + (1 + random.nextInt(9))
        + " "
        + random.nextInt(10)
        + (char) ('A' + random.nextInt(26))
        + (char) ('A' + random.nextInt(26));
  }

  static String pick(Random random, String[] from) {
    return from[random.nextInt(from.length)];
  }

  /** Some are much more frequent than others. */
  static String skewed(Random random, String[] from) {
    double r = random.nextDouble();
    return from[(int) (r * r * from.length)];
  }
}
