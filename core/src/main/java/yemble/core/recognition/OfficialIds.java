package yemble.core.recognition;

import static yemble.core.digits.CheckDigits.day;
import static yemble.core.digits.CheckDigits.digit;
import static yemble.core.digits.CheckDigits.luhn;
import static yemble.core.digits.CheckDigits.mod1110;
import static yemble.core.digits.CheckDigits.mod112;
import static yemble.core.digits.CheckDigits.number;
import static yemble.core.digits.CheckDigits.verhoeff;
import static yemble.core.digits.CheckDigits.weighted;
import static yemble.core.digits.CheckDigits.wrongUnless;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.regex.Pattern;
import yemble.core.recognition.OfficialId.Sort;

/**
 * The official numbers of people that survey knows, with the rules by which each is checked: those
 * that the states themselves publish, each cited at its line.
 */
final class OfficialIds {
  private static final String NO_DAY = "the day in it does not exist";
  private static final String NEVER_ISSUED = "prefix never issued";
  private static final String ELEVEN = "[0-9]{11}";
  private static final List<OfficialId> ALL = new ArrayList<>();

  private OfficialIds() {}

  static List<OfficialId> all() {
    return ALL;
  }

  private static void id(
      String country,
      String name,
      Sort sort,
      String form,
      String written,
      Function<String, String> check) {
    ALL.add(
        new OfficialId(
            country, name, sort, Pattern.compile(form), Pattern.compile(written), check));
  }

  private static void national(
      String country, String name, String form, String written, Function<String, String> check) {
    id(country, name, Sort.NATIONAL, form, written, check);
  }

  private static void tax(
      String country, String name, String form, String written, Function<String, String> check) {
    id(country, name, Sort.TAX, form, written, check);
  }

  private static void health(
      String country, String name, String form, String written, Function<String, String> check) {
    id(country, name, Sort.HEALTH, form, written, check);
  }

  static {
    // Social Security Administration, "Social Security Number Randomization" (2011): no check
    // digit; areas 000, 666 and 900-999, group 00 and serial 0000 are never issued.
    national(
        "US",
        "social security number",
        "[0-9]{9}",
        "[0-9]{3}[- ][0-9]{2}[- ][0-9]{4}",
        s ->
            s.startsWith("000") || s.startsWith("666") || s.charAt(0) == '9'
                ? NEVER_ISSUED
                : s.startsWith("00", 3) || s.endsWith("0000") ? "part of zeros" : null);
    // HM Revenue & Customs, National Insurance Manual NIM39110.
    national(
        "GB",
        "national insurance number",
        "[A-Z]{2}[0-9]{6}[A-D]?",
        "[A-Z]{2} ?[0-9]{2} ?[0-9]{2} ?[0-9]{2} ?[A-D]?",
        s ->
            "DFIQUV".indexOf(s.charAt(0)) >= 0
                    || "DFIOQUV".indexOf(s.charAt(1)) >= 0
                    || List.of("BG", "GB", "KN", "NK", "NT", "TN", "ZZ").contains(s.substring(0, 2))
                ? NEVER_ISSUED
                : null);
    // NHS Data Dictionary, "NHS number": modulus 11, weights 10 to 2.
    health(
        "GB",
        "NHS number",
        "[0-9]{10}",
        "[0-9]{3} [0-9]{3} [0-9]{4}",
        s -> wrongUnless((11 - weighted(s, 10, 9, 8, 7, 6, 5, 4, 3, 2) % 11) % 11 == digit(s, 9)));
    // Bundeszentralamt für Steuern: ISO 7064 MOD 11,10; one digit comes two or three times.
    tax(
        "DE",
        "tax identification number",
        "[1-9][0-9]{10}",
        "[0-9]{2} ?[0-9]{3} ?[0-9]{3} ?[0-9]{3}",
        s -> {
          long different = s.substring(0, 10).chars().distinct().count();
          return different < 8 || different > 9
              ? "no digit repeats as it must"
              : wrongUnless(mod1110(s));
        });
    // Deutsche Rentenversicherung: day of birth, initial, serial; check digit of cross sums.
    national(
        "DE",
        "pension insurance number",
        "[0-9]{8}[A-Z][0-9]{3}",
        "[0-9]{2} ?[0-9]{6} ?[A-Z] ?[0-9]{3}",
        OfficialIds::germanPension);
    // GKV-Spitzenverband: a letter, eight digits, check digit by Luhn's sums.
    id(
        "DE",
        "health insurance number",
        Sort.HEALTH,
        "[A-Z][0-9]{9}",
        "[A-Z][0-9]{9}",
        OfficialIds::germanHealth);
    // INSEE, numéro d'inscription au répertoire: 97 minus the remainder by 97; 2A and 2B as 19, 18.
    national(
        "FR",
        "social security number",
        "[1-478][0-9]{4}(?:[0-9]{2}|2A|2B)[0-9]{8}",
        "[1-478] ?[0-9]{2} ?[0-9]{2} ?[0-9][0-9AB] ?[0-9]{3} ?[0-9]{3} ?[0-9]{2}",
        s ->
            wrongUnless(
                97 - Long.parseLong(s.substring(0, 13).replace("2A", "19").replace("2B", "18")) % 97
                    == number(s, 13, 2)));
    // Ministero delle Finanze, D.M. 23/12/1976.
    national(
        "IT",
        "codice fiscale",
        "[A-Z]{6}[0-9LMNPQRSTUV]{2}[ABCDEHLMPRST][0-9LMNPQRSTUV]{2}[A-Z][0-9LMNPQRSTUV]{3}[A-Z]",
        "[A-Za-z]{6} ?[0-9A-Za-z]{5} ?[A-Za-z][0-9A-Za-z]{3}[A-Za-z]",
        OfficialIds::italian);
    // Ministerio del Interior: the letter at the remainder by 23; X, Y, Z of foreigners as 0, 1, 2.
    national(
        "ES",
        "DNI or NIE",
        "[0-9XYZ][0-9]{7}[A-Z]",
        "[0-9XYZ]?[ .-]?[0-9]{1,2}\\.?[0-9]{3}\\.?[0-9]{3}[ -]?[A-Z]",
        s ->
            wrongUnless(
                "TRWAGMYFPDXBNJZSQVHLCKE"
                        .charAt(
                            Integer.parseInt(
                                    s.substring(0, 8)
                                        .replace('X', '0')
                                        .replace('Y', '1')
                                        .replace('Z', '2'))
                                % 23)
                    == s.charAt(8)));
    // Autoridade Tributária: modulus 11, weights 9 to 2.
    tax(
        "PT",
        "NIF",
        "[1-35689][0-9]{8}",
        "[0-9]{3} ?[0-9]{3} ?[0-9]{3}",
        s -> {
          int rest = weighted(s, 9, 8, 7, 6, 5, 4, 3, 2) % 11;
          return wrongUnless((rest < 2 ? 0 : 11 - rest) == digit(s, 8));
        });
    // Logisch Ontwerp BSN: the test of eleven, the last digit counts negative.
    national(
        "NL",
        "citizen service number",
        "[0-9]{9}",
        "[0-9]{4}\\.?[0-9]{2}\\.?[0-9]{3}",
        s ->
            wrongUnless(
                !s.equals("000000000")
                    && (weighted(s, 9, 8, 7, 6, 5, 4, 3, 2) - digit(s, 8)) % 11 == 0));
    // Rijksregister: 97 minus the remainder by 97, from 2000 on with a 2 before.
    national(
        "BE",
        "national register number",
        ELEVEN,
        "[0-9]{2}\\.?[0-9]{2}\\.?[0-9]{2}[- ]?[0-9]{3}[.-]?[0-9]{2}",
        s -> {
          long body = Long.parseLong(s.substring(0, 9));
          int check = number(s, 9, 2);
          return number(s, 2, 2) % 20 > 12
              ? NO_DAY
              : wrongUnless(97 - body % 97 == check || 97 - (2_000_000_000L + body) % 97 == check);
        });
    // Ministerstwo Cyfryzacji: weights 1, 3, 7, 9.
    national(
        "PL",
        "PESEL",
        ELEVEN,
        ELEVEN,
        s ->
            number(s, 2, 2) % 20 < 1 || number(s, 2, 2) % 20 > 12 || number(s, 4, 2) > 31
                ? NO_DAY
                : wrongUnless(
                    (10 - weighted(s, 1, 3, 7, 9, 1, 3, 7, 9, 1, 3) % 10) % 10 == digit(s, 10)));
    // Ministerstwo Finansów: modulus 11.
    tax(
        "PL",
        "NIP",
        "[1-9][0-9]{9}",
        "[0-9]{3}-?[0-9]{3}-?[0-9]{2}-?[0-9]{2}",
        s -> wrongUnless(weighted(s, 6, 5, 7, 2, 3, 4, 5, 6, 7) % 11 == digit(s, 9)));
    // Nüfus ve Vatandaşlık İşleri.
    national(
        "TR",
        "identity number",
        "[1-9][0-9]{10}",
        ELEVEN,
        s -> {
          int odd = digit(s, 0) + digit(s, 2) + digit(s, 4) + digit(s, 6) + digit(s, 8);
          int even = digit(s, 1) + digit(s, 3) + digit(s, 5) + digit(s, 7);
          int tenth = Math.floorMod(odd * 7 - even, 10);
          return wrongUnless(
              tenth == digit(s, 9) && (odd + even + digit(s, 9)) % 10 == digit(s, 10));
        });
    // Skatteverket, SKV 704: Luhn over ten digits; coordination numbers add 60 to the day.
    national(
        "SE",
        "personal number",
        "(?:19|20)?[0-9]{10}",
        "(?:19|20)?[0-9]{6}[-+][0-9]{4}|(?:19|20)[0-9]{10}",
        s -> {
          String ten = s.substring(s.length() - 10);
          int day = number(ten, 4, 2);
          boolean exists = day(ten.substring(0, 4) + (day % 60 < 10 ? "0" : "") + day % 60, 0);
          return exists ? wrongUnless(luhn(ten)) : NO_DAY;
        });
    // Skatteetaten, fødselsnummer: two digits by modulus 11; D-numbers add 40 to the day.
    national(
        "NO",
        "birth number",
        ELEVEN,
        "[0-9]{6} ?[0-9]{5}",
        s -> {
          int day = number(s, 0, 2) % 40;
          int month = number(s, 2, 2) % 40;
          if (day < 1 || day > 31 || month < 1 || month > 12) {
            return NO_DAY;
          }
          int first = (11 - weighted(s, 3, 7, 6, 1, 8, 9, 4, 5, 2) % 11) % 11;
          int second = (11 - weighted(s, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11;
          return wrongUnless(first == digit(s, 9) && second == digit(s, 10));
        });
    // CPR-kontoret: the modulus 11 of old is not kept since 2007, so the day alone counts.
    national(
        "DK",
        "CPR number",
        "[0-9]{10}",
        "[0-9]{6}-[0-9]{4}",
        s -> day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0) ? null : NO_DAY);
    // Digi- ja väestötietovirasto: the character at the remainder by 31.
    national(
        "FI",
        "personal identity code",
        "[0-9]{6}[A-FUVWXY]?[0-9]{3}[0-9A-Y]",
        "[0-9]{6}[-+A-FU-Y][0-9]{3}[0-9A-Y]",
        s -> {
          String digits = s.substring(0, 6) + s.substring(s.length() - 4, s.length() - 1);
          char check = "0123456789ABCDEFHJKLMNPRSTUVWXY".charAt(Integer.parseInt(digits) % 31);
          return !day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
              ? NO_DAY
              : wrongUnless(check == s.charAt(s.length() - 1));
        });
    // Estonian standard EVS 585, and the Lithuanian population register, which has taken it over.
    national("EE", "personal code", "[1-8][0-9]{10}", ELEVEN, OfficialIds::baltic);
    national("LT", "personal code", "[1-69][0-9]{10}", ELEVEN, OfficialIds::baltic);
    // Pilsonības un migrācijas lietu pārvalde; numbers from 2017 on begin with 32 and have no rule.
    national(
        "LV",
        "personal code",
        ELEVEN,
        "[0-9]{6}-[0-9]{5}",
        s ->
            s.startsWith("32")
                ? null
                : !day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                    ? NO_DAY
                    : wrongUnless(
                        (1101 - weighted(s, 1, 6, 3, 7, 9, 10, 5, 8, 4, 2)) % 11 == digit(s, 10)));
    // Act 133/2000 (CZ) and 301/1995 (SK): divisible by 11; women add 50 to the month.
    for (String country : List.of("CZ", "SK")) {
      national(
          country,
          "birth number",
          "[0-9]{10}",
          "[0-9]{6}/?[0-9]{4}",
          s -> {
            int month = number(s, 2, 2) % 50 % 20;
            boolean exists =
                month >= 1 && month <= 12 && number(s, 4, 2) <= 31 && number(s, 4, 2) > 0;
            long body = Long.parseLong(s.substring(0, 9)) % 11;
            return exists ? wrongUnless(body % 10 == digit(s, 9)) : NO_DAY;
          });
    }
    // Act XX of 1996: the tenth weight digit by position, modulus 11.
    national(
        "HU",
        "personal identifier",
        "[1-8][0-9]{10}",
        "[1-8][- ]?[0-9]{6}[- ]?[0-9]{4}",
        s -> {
          int rising = weighted(s, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10) % 11;
          int falling = weighted(s, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1) % 11;
          return day(s, 1)
              ? wrongUnless(rising == digit(s, 10) || falling == digit(s, 10))
              : NO_DAY;
        });
    // Hungarian social security: weights 3 and 7 in turn.
    health(
        "HU",
        "TAJ number",
        "[0-9]{9}",
        "[0-9]{3}[- ][0-9]{3}[- ][0-9]{3}",
        s -> wrongUnless(weighted(s, 3, 7, 3, 7, 3, 7, 3, 7) % 10 == digit(s, 8)));
    // Government ordinance 97/2005: key 279146358279, modulus 11.
    national(
        "RO",
        "CNP",
        "[1-9][0-9]{12}",
        "[0-9]{13}",
        s -> {
          int rest = weighted(s, 2, 7, 9, 1, 4, 6, 3, 5, 8, 2, 7, 9) % 11;
          return day(s, 1) ? wrongUnless((rest == 10 ? 1 : rest) == digit(s, 12)) : NO_DAY;
        });
    // GRAO: months of the century before add 20, of the next one 40.
    national(
        "BG",
        "EGN",
        "[0-9]{10}",
        "[0-9]{10}",
        s -> {
          int month = number(s, 2, 2) % 20;
          return month < 1 || month > 12 || number(s, 4, 2) > 31 || number(s, 4, 2) < 1
              ? NO_DAY
              : wrongUnless(weighted(s, 2, 4, 8, 5, 10, 9, 7, 3, 6) % 11 % 10 == digit(s, 9));
        });
    // Law 3655/2008: day of birth, Luhn over all.
    national(
        "GR",
        "AMKA",
        ELEVEN,
        ELEVEN,
        s ->
            day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                ? wrongUnless(luhn(s))
                : NO_DAY);
    // Porezna uprava: ISO 7064 MOD 11,10.
    national("HR", "OIB", ELEVEN, ELEVEN, s -> wrongUnless(mod1110(s)));
    // Zakon o jedinstvenom matičnom broju (1976): modulus 11, weights 7 to 2 twice.
    for (String country : List.of("SI", "RS", "BA", "MK", "ME")) {
      national(
          country,
          "unique master citizen number",
          "[0-9]{13}",
          "[0-9]{13}",
          s -> {
            int rest = 11 - weighted(s, 7, 6, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11;
            boolean exists =
                number(s, 0, 2) >= 1
                    && number(s, 0, 2) <= 31
                    && number(s, 2, 2) >= 1
                    && number(s, 2, 2) <= 12
                    && (s.charAt(4) == '9' || s.charAt(4) == '0');
            return exists ? wrongUnless(rest % 11 == digit(s, 12) && rest != 10) : NO_DAY;
          });
    }
    // Department of Social Protection: the letter at the remainder by 23.
    national(
        "IE",
        "PPS number",
        "[0-9]{7}[A-W][A-IW]?",
        "[0-9]{7}[A-W][A-IW]?",
        s -> {
          int sum = weighted(s, 8, 7, 6, 5, 4, 3, 2);
          sum += s.length() == 9 && s.charAt(8) != 'W' ? 9 * (s.charAt(8) - 'A' + 1) : 0;
          return wrongUnless("WABCDEFGHIJKLMNOPQRSTUV".charAt(sum % 23) == s.charAt(7));
        });
    // Zentrale Ausgleichsstelle: an EAN-13 with the prefix 756.
    national(
        "CH",
        "AHV number",
        "756[0-9]{10}",
        "756\\.?[0-9]{4}\\.?[0-9]{4}\\.?[0-9]{2}",
        s -> wrongUnless(ean(s)));
    // Dachverband der Sozialversicherungsträger: weights 3 7 9 5 8 4 2 1 6, modulus 11.
    national(
        "AT",
        "insurance number",
        "[1-9][0-9]{9}",
        "[0-9]{4}[ -/]?[0-9]{6}",
        s -> {
          int sum =
              weighted(s, 3, 7, 9)
                  + 5 * digit(s, 4)
                  + 8 * digit(s, 5)
                  + 4 * digit(s, 6)
                  + 2 * digit(s, 7)
                  + digit(s, 8)
                  + 6 * digit(s, 9);
          boolean exists =
              number(s, 4, 2) >= 1
                  && number(s, 4, 2) <= 31
                  && number(s, 6, 2) >= 1
                  && number(s, 6, 2) <= 15;
          return exists ? wrongUnless(sum % 11 == digit(s, 3)) : NO_DAY;
        });
    // Þjóðskrá: weights 3 2 7 6 5 4 3 2, modulus 11; the last digit is the century.
    national(
        "IS",
        "kennitala",
        "[0-9]{9}[089]",
        "[0-9]{6}-[0-9]{4}",
        s ->
            day(s.substring(4, 6) + s.substring(2, 4) + s.substring(0, 2), 0)
                ? wrongUnless((11 - weighted(s, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11 == digit(s, 8))
                : NO_DAY);
    // Receita Federal: two digits by modulus 11.
    national(
        "BR",
        "CPF",
        ELEVEN,
        "[0-9]{3}\\.?[0-9]{3}\\.?[0-9]{3}[-/]?[0-9]{2}",
        s -> {
          int first = weighted(s, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10;
          int second = weighted(s, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) * 10 % 11 % 10;
          return s.chars().distinct().count() == 1
              ? "one digit only"
              : wrongUnless(first == digit(s, 9) && second == digit(s, 10));
        });
    // AFIP: modulus 11, weights 5 4 3 2 7 6 5 4 3 2.
    tax(
        "AR",
        "CUIT or CUIL",
        "(?:20|23|24|27|30|33|34)[0-9]{9}",
        "[0-9]{2}-?[0-9]{8}-?[0-9]",
        s ->
            wrongUnless(
                (11 - weighted(s, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11) % 11 == digit(s, 10)));
    // Registro Civil: modulus 11, the check digit may be a K.
    national(
        "CL",
        "RUT",
        "[0-9]{7,8}[0-9K]",
        "[0-9]{1,2}\\.?[0-9]{3}\\.?[0-9]{3}-[0-9Kk]",
        s -> {
          int sum = 0;
          for (int i = s.length() - 2, weight = 2;
              i >= 0;
              i--, weight = weight == 7 ? 2 : weight + 1) {
            sum += digit(s, i) * weight;
          }
          return wrongUnless("0K987654321".charAt(sum % 11) == s.charAt(s.length() - 1));
        });
    // RENAPO, Instructivo normativo CURP.
    national(
        "MX",
        "CURP",
        "[A-Z]{4}[0-9]{6}[HMX][A-Z]{5}[0-9A-Z][0-9]",
        "[A-Z]{4}[0-9]{6}[A-Z0-9]{8}",
        OfficialIds::mexican);
    // UIDAI: Verhoeff; never begins with 0 or 1.
    national(
        "IN",
        "Aadhaar number",
        "[0-9]{12}",
        "[0-9]{4} ?[0-9]{4} ?[0-9]{4}",
        s -> s.charAt(0) < '2' ? NEVER_ISSUED : wrongUnless(verhoeff(s)));
    // Income Tax Department: the fourth letter says who it is; the check letter's rule is secret.
    id(
        "IN",
        "PAN",
        Sort.TAX,
        "[A-Z]{5}[0-9]{4}[A-Z]",
        "[A-Z]{5}[0-9]{4}[A-Z]",
        s -> "ABCFGHLJPTE".indexOf(s.charAt(3)) >= 0 ? null : "no such sort of holder");
    // GB 11643-1999: ISO 7064 MOD 11-2.
    national(
        "CN",
        "resident identity number",
        "[1-9][0-9]{16}[0-9X]",
        "[0-9]{17}[0-9Xx]",
        s ->
            day(number(s, 6, 4), number(s, 10, 2), number(s, 12, 2))
                ? wrongUnless(mod112(s))
                : NO_DAY);
    // Resident Registration Act (KR): modulus 11, weights 2 to 9, 2 to 5.
    national(
        "KR",
        "resident registration number",
        "[0-9]{6}[1-8][0-9]{6}",
        "[0-9]{6}-[0-9]{7}",
        s ->
            day(s, 0)
                ? wrongUnless(
                    (11 - weighted(s, 2, 3, 4, 5, 6, 7, 8, 9, 2, 3, 4, 5) % 11) % 10
                        == digit(s, 12))
                : NO_DAY);
    // Ordinance of the Ministry of Internal Affairs 85/2014 (JP), article 5.
    national(
        "JP",
        "individual number",
        "[0-9]{12}",
        "[0-9]{4}[ -]?[0-9]{4}[ -]?[0-9]{4}",
        s -> {
          int rest = weighted(s, 6, 5, 4, 3, 2, 7, 6, 5, 4, 3, 2) % 11;
          return wrongUnless((rest <= 1 ? 0 : 11 - rest) == digit(s, 11));
        });
    // Identification Act 68 of 1997 (ZA): day of birth, citizenship, Luhn.
    national(
        "ZA",
        "identity number",
        "[0-9]{10}[012][0-9]{2}",
        "[0-9]{13}",
        s -> day(s, 0) ? wrongUnless(luhn(s)) : NO_DAY);
    // Australian Taxation Office: weights 1 4 3 7 5 8 6 9 10, modulus 11.
    tax(
        "AU",
        "tax file number",
        "[0-9]{9}",
        "[0-9]{3} ?[0-9]{3} ?[0-9]{3}",
        s -> wrongUnless(weighted(s, 1, 4, 3, 7, 5, 8, 6, 9, 10) % 11 == 0));
    // Department of Human Services: weights 1 3 7 9 1 3 7 9.
    health(
        "AU",
        "Medicare number",
        "[2-6][0-9]{9}",
        "[2-6][0-9]{3} [0-9]{5} [0-9]",
        s -> wrongUnless(weighted(s, 1, 3, 7, 9, 1, 3, 7, 9) % 10 == digit(s, 8)));
    // Employment and Social Development Canada: Luhn; none begins with 8.
    national(
        "CA",
        "social insurance number",
        "[0-9]{9}",
        "[0-9]{3}[- ][0-9]{3}[- ][0-9]{3}",
        s -> s.charAt(0) == '8' ? NEVER_ISSUED : wrongUnless(luhn(s)));
    // Population Registry (IL): Luhn over nine digits.
    national("IL", "identity number", "[0-9]{9}", "[0-9]{9}", s -> wrongUnless(luhn(s)));
    // Household Registration (TW): the letter as two digits, weights 1 9 8 … 1 1.
    national(
        "TW",
        "national identification number",
        "[A-Z][1289][0-9]{8}",
        "[A-Z][0-9]{9}",
        s -> {
          int letter = "ABCDEFGHJKLMNPQRSTUVXYWZIO".indexOf(s.charAt(0)) + 10;
          int sum = letter / 10 + letter % 10 * 9;
          for (int i = 1; i < 9; i++) {
            sum += digit(s, i) * (9 - i);
          }
          return wrongUnless((sum + digit(s, 9)) % 10 == 0);
        });
    // Immigration Department (HK): modulus 11 over letters and digits.
    national(
        "HK",
        "identity card",
        "[A-Z]{1,2}[0-9]{6}[0-9A]",
        "[A-Z]{1,2}[0-9]{6}\\(?[0-9A]\\)?",
        s -> {
          String nine = s.length() == 8 ? " " + s : s;
          int sum = 0;
          for (int i = 0; i < 8; i++) {
            char c = nine.charAt(i);
            int value = c == ' ' ? 36 : c >= 'A' ? c - 'A' + 10 : c - '0';
            sum += value * (9 - i);
          }
          int check = (11 - sum % 11) % 11;
          return wrongUnless(nine.charAt(8) == (check == 10 ? 'A' : (char) ('0' + check)));
        });
    // National Registration Act (SG): weights 2 7 6 5 4 3 2, letter by the sort of number.
    national(
        "SG",
        "NRIC or FIN",
        "[STFG][0-9]{7}[A-Z]",
        "[STFG][0-9]{7}[A-Z]",
        s -> {
          int sum = weighted(s.substring(1), 2, 7, 6, 5, 4, 3, 2);
          sum += s.charAt(0) == 'T' || s.charAt(0) == 'G' ? 4 : 0;
          String letters = s.charAt(0) == 'S' || s.charAt(0) == 'T' ? "JZIHGFEDCBA" : "XWUTRQPNMLK";
          return wrongUnless(letters.charAt(sum % 11) == s.charAt(8));
        });
    // National Registration Department (MY): day of birth and place, no check digit.
    national(
        "MY",
        "identity card",
        "[0-9]{12}",
        "[0-9]{6}-[0-9]{2}-[0-9]{4}",
        s -> day(s, 0) ? null : NO_DAY);
    // Department of Provincial Administration (TH): modulus 11, weights 13 to 2.
    national(
        "TH",
        "identity number",
        "[1-8][0-9]{12}",
        "[0-9][ -]?[0-9]{4}[ -]?[0-9]{5}[ -]?[0-9]{2}[ -]?[0-9]",
        s ->
            wrongUnless(
                (11 - weighted(s, 13, 12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2) % 11) % 10
                    == digit(s, 12)));
    // State Tax Service (UA): weights -1 5 7 9 4 6 10 5 7, modulus 11.
    tax(
        "UA",
        "taxpayer card number",
        "[0-9]{10}",
        "[0-9]{10}",
        s ->
            wrongUnless(
                Math.floorMod(weighted(s, -1, 5, 7, 9, 4, 6, 10, 5, 7), 11) % 10 == digit(s, 9)));
  }

  private static boolean ean(String digits) {
    int sum = 0;
    for (int i = 0; i < digits.length(); i++) {
      sum += digit(digits, i) * ((digits.length() - i) % 2 == 0 ? 3 : 1);
    }
    return sum % 10 == 0;
  }

  private static String germanPension(String s) {
    int letter = s.charAt(8) - 'A' + 1;
    String digits = s.substring(0, 8) + (letter < 10 ? "0" : "") + letter + s.substring(9, 11);
    int[] weights = {2, 1, 2, 5, 7, 1, 2, 1, 2, 1, 2, 1};
    int sum = 0;
    for (int i = 0; i < weights.length; i++) {
      int product = digit(digits, i) * weights[i];
      sum += product / 10 + product % 10;
    }
    int month = number(s, 4, 2);
    return month < 1 || month > 12 || number(s, 2, 2) % 50 > 31
        ? NO_DAY
        : wrongUnless(sum % 10 == digit(s, 11));
  }

  private static String germanHealth(String s) {
    int letter = s.charAt(0) - 'A' + 1;
    String digits = (letter < 10 ? "0" : "") + letter + s.substring(1, 9);
    int sum = 0;
    for (int i = 0; i < digits.length(); i++) {
      int product = digit(digits, i) * (i % 2 + 1);
      sum += product / 10 + product % 10;
    }
    return wrongUnless(sum % 10 == digit(s, 9));
  }

  private static String italian(String s) {
    int[] odd = {
      1, 0, 5, 7, 9, 13, 15, 17, 19, 21, 2, 4, 18, 20, 11, 3, 6, 8, 12, 14, 16, 10, 22, 25, 24, 23
    };
    int sum = 0;
    for (int i = 0; i < 15; i++) {
      char c = s.charAt(i);
      int index = c >= 'A' ? c - 'A' : c - '0';
      sum += i % 2 == 0 ? odd[index] : index;
    }
    return wrongUnless('A' + sum % 26 == s.charAt(15));
  }

  private static String mexican(String s) {
    int sum = 0;
    for (int i = 0; i < 17; i++) {
      char c = s.charAt(i);
      int value = c >= 'A' ? c - 'A' + (c > 'N' ? 11 : 10) : c - '0';
      sum += value * (18 - i);
    }
    return wrongUnless((10 - sum % 10) % 10 == digit(s, 17));
  }

  private static String baltic(String s) {
    if (!day(s, 1)) {
      return NO_DAY;
    }
    int rest = weighted(s, 1, 2, 3, 4, 5, 6, 7, 8, 9, 1) % 11;
    if (rest == 10) {
      rest = weighted(s, 3, 4, 5, 6, 7, 8, 9, 1, 2, 3) % 11 % 10;
    }
    return wrongUnless(rest == digit(s, 10));
  }
}
