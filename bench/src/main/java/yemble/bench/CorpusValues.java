package yemble.bench;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.text.Normalizer;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Random;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import yemble.core.project.Project;
import yemble.core.recognition.Looks;

/** Makes up values for the columns of the corpus, the same ones each time. */
final class CorpusValues {
  private static final Pattern SLOT = Pattern.compile("\\{([a-z0-9]+(?::[A-Za-z0-9]+)?)}");
  private static final LocalDate TODAY = LocalDate.of(2026, 1, 1);
  private static final String LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ";
  private static final String TOKEN =
      "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789";

  private final Random random;
  private final Looks looks = new Looks(java.util.List.of(), Project.DEFAULT_AS_OF);

  CorpusValues(long seed) {
    random = new Random(seed);
  }

  private String of(String list) {
    String[] entries = CorpusWords.list(list);
    return entries[random.nextInt(entries.length)];
  }

  private int between(int from, int to) {
    return from + random.nextInt(to - from + 1);
  }

  private String digits(int length) {
    StringBuilder digits = new StringBuilder();
    for (int i = 0; i < length; i++) {
      digits.append(random.nextInt(10));
    }
    return digits.toString();
  }

  private String text(int length, String alphabet) {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < length; i++) {
      text.append(alphabet.charAt(random.nextInt(alphabet.length())));
    }
    return text.toString();
  }

  private String hex(int length) {
    return text(length, "0123456789abcdef");
  }

  /** A value by the name of what makes it, with what stands behind the colon; row from 1. */
  Object value(String maker, String by, int row) {
    return switch (maker) {
      case "serial" -> (long) row;
      case "int" -> (long) between(range(by)[0], range(by)[1]);
      case "dec" -> (between(range(by)[0], range(by)[1]) * 100 + random.nextInt(100)) / 100.0;
      case "bool" -> (long) random.nextInt(2);
      case "date" -> day(range(by)).toString();
      case "ts" -> moment(range(by));
      case "birth" -> TODAY.minusDays(between(18 * 365, 88 * 365)).toString();
      case "birthchild" -> TODAY.minusDays(between(10 * 365, 19 * 365)).toString();
      case "pick" -> by.split("\\|")[random.nextInt(by.split("\\|").length)];
      case "code" -> code(by);
      case "digits" -> digits(Integer.parseInt(by));
      case "hex" -> hex(Integer.parseInt(by));
      case "token" -> text(Integer.parseInt(by), TOKEN);
      case "luhn" -> luhn("7" + digits(Integer.parseInt(by) - 2));
      case "initial" -> text(1, LETTERS);
      case "full" -> of("given:" + by) + " " + of("family:" + by);
      case "fullcaps" -> (of("given:" + by) + " " + of("family:" + by)).toUpperCase(Locale.ROOT);
      case "drname" -> "Dr " + of("given:" + by) + " " + of("family:" + by);
      case "family2" -> of("family:" + by) + " " + of("family:" + by);
      case "email" -> email();
      case "phone" -> phone(by);
      case "street" -> street(by);
      case "streetonly" -> of("street:" + by);
      case "houseno" -> between(1, 180) + (random.nextInt(8) == 0 ? "a" : "");
      case "postcode" -> postcode(by);
      case "lat" -> Math.round((36 + random.nextDouble() * 20) * 1e6) / 1e6;
      case "lon" -> Math.round((-9 + random.nextDouble() * 40) * 1e6) / 1e6;
      case "username" -> login(by);
      case "agent" ->
          "Mozilla/5.0 ("
              + of("model").split(" ")[0]
              + "; rv:"
              + between(60, 130)
              + ".0) Engine/"
              + between(10, 90)
              + "."
              + between(0, 9);
      case "ip" ->
          between(11, 126) + "." + between(0, 255) + "." + between(0, 255) + "." + between(1, 254);
      case "ipprivate" -> "192.168." + between(0, 20) + "." + between(2, 254);
      case "mac" -> hex(12).replaceAll("(..)(?!$)", "$1:");
      case "uuid" -> (hex(8) + "-" + hex(4) + "-4" + hex(3) + "-a" + hex(3) + "-" + hex(12));
      case "imei" -> luhn("35" + digits(12));
      case "version" -> between(0, 9) + "." + between(0, 20) + "." + between(0, 99);
      case "version4" ->
          between(0, 9) + "." + between(0, 20) + "." + between(0, 9) + "." + between(100, 900);
      case "url" -> "https://shop.example/img/" + hex(8) + ".jpg";
      case "filename" -> "/photos/" + hex(6) + ".png";
      case "profile" -> "https://network.example/in/" + login("de");
      case "handle" -> "@" + login("en").replace('.', '_');
      case "md5" -> md5("pw" + row);
      case "bcrypt" -> "$2b$12$" + text(53, TOKEN + "./");
      case "json" -> json();
      case "form" -> filled(by, row);
      default -> official(maker, by, row);
    };
  }

  private Object official(String maker, String by, int row) {
    return switch (maker) {
      case "ean" -> ean("40" + digits(10));
      case "isbn" -> ean("978" + digits(9));
      case "card" ->
          random.nextInt(3) == 0
              ? grouped(luhn("4000" + digits(11)))
              : luhn((random.nextBoolean() ? "4000" : "5100") + digits(11));
      case "expiry" -> String.format("%02d/%02d", between(1, 12), between(26, 31));
      case "iban" -> iban(by);
      case "bic" ->
          text(4, LETTERS)
              + new String[] {"DE", "FR", "NL", "AT"}[random.nextInt(4)]
              + text(2, LETTERS)
              + (random.nextBoolean() ? "XXX" : "");
      case "sortcode" -> digits(2) + "-" + digits(2) + "-" + digits(2);
      case "salary" -> between(1400, 9000) + random.nextInt(100) / 100.0;
      case "ssn" -> between(100, 665) + "-" + between(10, 99) + "-" + between(1000, 9999);
      case "passport" -> text(2, LETTERS) + digits(7);
      case "plate" -> plate(by);
      case "vin" -> text(17, "ABCDEFGHJKLMNPRSTUVWXYZ0123456789");
      case "icd" -> text(1, "ABCEFGIJKMN") + digits(2) + "." + digits(1);
      case "ine" -> digits(10) + text(1, LETTERS);
      case "nhs" ->
          valid("insurance-number", "GB", () -> digits(3) + " " + digits(3) + " " + digits(4));
      case "kvnr" -> valid("insurance-number", "DE", () -> text(1, LETTERS) + digits(9));
      case "steuerid" -> valid("tax-number", "DE", () -> between(10, 99) + digits(9));
      case "nif" -> valid("tax-number", "PT", () -> "2" + digits(8));
      case "nip" -> valid("tax-number", "PL", () -> between(100, 999) + digits(7));
      case "partitaiva" -> luhn("0" + digits(9));
      case "nir" ->
          valid(
              "national-id",
              "FR",
              () ->
                  between(1, 2)
                      + digits(2)
                      + String.format("%02d", between(1, 12))
                      + between(10, 90)
                      + digits(8));
      case "dni" -> valid("national-id", "ES", () -> digits(8) + text(1, LETTERS));
      case "bsn" -> valid("national-id", "NL", () -> digits(9));
      case "pesel" ->
          valid(
              "national-id",
              "PL",
              () ->
                  between(40, 99)
                      + String.format("%02d%02d", between(1, 12), between(1, 28))
                      + digits(5));
      case "tckn" -> valid("national-id", "TR", () -> between(10, 99) + digits(9));
      case "rvnr" ->
          valid(
              "national-id",
              "DE",
              () ->
                  digits(2)
                      + String.format("%02d%02d", between(1, 28), between(1, 12))
                      + digits(2)
                      + text(1, LETTERS)
                      + digits(3));
      case "codicefiscale" -> codice();
      default -> sentence(maker + (by.isEmpty() ? "" : ":" + by), row);
    };
  }

  private String sentence(String list, int row) {
    if (!CorpusWords.has(list)) {
      throw new IllegalArgumentException("nothing makes " + list + ", row " + row);
    }
    return filled(of(list), row);
  }

  /** A text with what its slots make in their places. */
  private String filled(String form, int row) {
    Matcher slot = SLOT.matcher(form);
    StringBuilder text = new StringBuilder();
    while (slot.find()) {
      String[] made = slot.group(1).split(":");
      slot.appendReplacement(
          text,
          Matcher.quoteReplacement(value(made[0], made.length > 1 ? made[1] : "", row).toString()));
    }
    return slot.appendTail(text).toString();
  }

  private static int[] range(String by) {
    String[] ends = by.split("-");
    return new int[] {Integer.parseInt(ends[0]), Integer.parseInt(ends[1])};
  }

  private LocalDate day(int[] years) {
    return LocalDate.of(between(years[0], years[1]), between(1, 12), between(1, 28));
  }

  private String moment(int[] years) {
    LocalDateTime at = day(years).atTime(between(0, 23), between(0, 59), between(0, 59));
    return at.toString().replace('T', ' ');
  }

  /** The letters of a code, and as many digits as the number behind them says. */
  private String code(String by) {
    String letters = by.replaceAll("[0-9]", "");
    return letters + digits(Integer.parseInt(by.replaceAll("[^0-9]", "")) - 1);
  }

  private static String luhn(String digits) {
    try {
      return digits + LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(digits);
    } catch (org.apache.commons.validator.routines.checkdigit.CheckDigitException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String grouped(String digits) {
    return digits.replaceAll("(....)(?!$)", "$1 ");
  }

  private static String ean(String twelve) {
    int sum = 0;
    for (int i = 0; i < 12; i++) {
      sum += (twelve.charAt(i) - '0') * (i % 2 == 0 ? 1 : 3);
    }
    return twelve + (10 - sum % 10) % 10;
  }

  private String iban(String country) {
    String account =
        switch (country) {
          case "DE" -> digits(18);
          case "FR" -> digits(23);
          case "NL" -> text(4, LETTERS) + digits(10);
          case "GB" -> text(4, LETTERS) + digits(14);
          case "IT" -> text(1, LETTERS) + digits(22);
          default -> throw new IllegalArgumentException(country);
        };
    try {
      String check =
          org.apache.commons.validator.routines.checkdigit.IBANCheckDigit.IBAN_CHECK_DIGIT
              .calculate(country + "00" + account);
      return country + check + account;
    } catch (org.apache.commons.validator.routines.checkdigit.CheckDigitException e) {
      throw new IllegalStateException(e);
    }
  }

  /** A number of the right form, drawn until its check digit is right. */
  private String valid(String look, String country, java.util.function.Supplier<String> form) {
    while (true) {
      String number = form.get();
      if (looks.verdict(look, number).hint().startsWith(country)) {
        return number;
      }
    }
  }

  private String codice() {
    String consonants = "BCDFGLMNPRSTV";
    return valid(
        "national-id",
        "IT",
        () ->
            text(6, consonants)
                + between(40, 99)
                + text(1, "ABCDEHLMPRST")
                + between(10, 28)
                + text(1, "ADFHL")
                + between(100, 999)
                + text(1, LETTERS));
  }

  private static String plain(String text) {
    return Normalizer.normalize(text.toLowerCase(Locale.ROOT), Normalizer.Form.NFD)
        .replaceAll("[^a-z]", "");
  }

  private String email() {
    String[] languages = {"en", "de", "fr", "es", "it", "pt", "nl", "pl", "tr"};
    String language = languages[random.nextInt(languages.length)];
    String local =
        plain(of("given:" + language))
            + (random.nextBoolean() ? "." : "_")
            + plain(of("family:" + language));
    return local
        + (random.nextInt(3) == 0 ? digits(2) : "")
        + "@"
        + new String[] {"mail", "post", "web"}[random.nextInt(3)]
        + ".example";
  }

  private String login(String language) {
    return switch (random.nextInt(3)) {
      case 0 ->
          plain(of("given:" + language)).charAt(0) + plain(of("family:" + language)) + digits(1);
      case 1 -> plain(of("given:" + language)) + "." + plain(of("family:" + language)) + digits(2);
      default -> plain(of("given:" + language)) + between(40, 99);
    };
  }

  private String phone(String country) {
    return switch (country) {
      case "GB" -> random.nextBoolean() ? "07700 900" + digits(3) : "020 7946 0" + digits(3);
      case "DE" -> random.nextBoolean() ? "+49 151 " + digits(8) : "030 23125" + digits(3);
      case "FR" -> "06 39 98 " + digits(2) + " " + digits(2);
      case "ES" -> random.nextBoolean() ? "6" + digits(8) : "+34 91 " + digits(3) + " " + digits(4);
      case "NL" -> "06-" + between(10, 59) + digits(6);
      case "US" -> "(" + between(201, 989) + ") 555-01" + digits(2);
      case "IT" -> "+39 3" + between(20, 49) + " " + digits(7);
      case "PT" -> "9" + between(1, 6) + digits(1) + " " + digits(3) + " " + digits(3);
      case "PL" -> "+48 " + between(500, 799) + " " + digits(3) + " " + digits(3);
      case "TR" -> "+90 5" + digits(2) + " " + digits(3) + " " + digits(2) + " " + digits(2);
      default -> throw new IllegalArgumentException(country);
    };
  }

  private String street(String language) {
    String street = of("street:" + language);
    int number = between(1, 180);
    return switch (language) {
      case "en", "fr" -> number + (random.nextInt(9) == 0 ? " bis" : "") + " " + street;
      case "it", "es" -> street + ", " + number;
      case "pt" -> street + " n.º " + number + (random.nextBoolean() ? ", 2.º Esq." : "");
      case "tr" -> street + " No:" + number;
      default -> street + " " + number;
    };
  }

  private String postcode(String language) {
    return switch (language) {
      case "en" -> text(2, LETTERS) + digits(1) + " " + digits(1) + text(2, LETTERS);
      case "nl" -> between(1000, 9999) + " " + text(2, LETTERS);
      case "pl" -> digits(2) + "-" + digits(3);
      case "pt" -> between(1000, 9999) + "-" + digits(3);
      default -> String.format("%05d", between(1000, 99999));
    };
  }

  private String plate(String country) {
    return switch (country) {
      case "de" -> text(2, "BHKMWSF") + "-" + text(2, LETTERS) + " " + between(10, 9999);
      case "es" -> digits(4) + " " + text(3, "BCDFGHJKLMNPRSTVWXYZ");
      case "it" -> text(2, LETTERS) + digits(3) + text(2, LETTERS);
      case "pt" -> digits(2) + "-" + text(2, LETTERS) + "-" + digits(2);
      default -> between(10, 81) + " " + text(2, LETTERS) + " " + digits(3);
    };
  }

  private String json() {
    return "{\"step\":"
        + between(1, 9)
        + ",\"items\":[{\"sku\":\"A"
        + digits(6)
        + "\",\"qty\":"
        + between(1, 5)
        + "}]}";
  }

  private static String md5(String text) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("MD5").digest(text.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
