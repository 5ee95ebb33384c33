package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.google.i18n.phonenumbers.PhoneNumberUtil;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import org.apache.commons.validator.routines.checkdigit.LuhnCheckDigit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kinds;
import yemble.core.mask.text.FreeText;
import yemble.core.mask.text.JsonText;
import yemble.core.mask.text.Mentions;
import yemble.core.vocabulary.Vocabularies;

/** What the masks of numbers, places, credentials, text and JSON promise. */
class MoreMasksTest {
  private static Masks said(String kind, Settings settings, String... countries) {
    MaskRule rule = new MaskRule(List.of(), "", "", "", null, settings, List.of(), Set.of(), null);
    SecretKey key = SecretKey.random();
    return new Masks(
        new Masks.Terms(
            key, key, LocalDate.EPOCH, Kinds.BUILT_IN, Map.of(kind, rule), Set.of(countries)));
  }

  /** Held against libphonenumber itself, which the mask does not ask. */
  @ParameterizedTest
  @CsvSource({
    "+44 7911 123456, GB", "020 7123 4567, GB", "+1 212-736-5000, US", "+33 6 12 34 56 78, FR",
    "089 12345678, DE", "+49 1512 3456789, DE", "+61 2 6123 4567, AU", "+39 06 6982 1234, IT",
    "+353 1 234 5678, IE", "+34 612 345 678, ES", "+48 512 345 678, PL", "+81 90 1234 5678, JP",
    "+86 139 1234 5678, CN", "+91 98765 43210, IN", "+55 11 91234 5678, BR", "+31 6 12345678, NL",
    "0049 30 901820, DE", "+46 70 123 45 67, SE", "+420 601 123 456, CZ", "+30 694 123 4567, GR"
  })
  void aNumberThatIsNobodysKeepsItsShapeAndIsKeptFreeOrDoesNotExist(String number, String country)
      throws Exception {
    PhoneNumberUtil numbers = PhoneNumberUtil.getInstance();
    Settings nobodys = new Settings(null, "", "", false, 0);
    Pattern film =
        Pattern.compile(
            "\\+(1...55501..|44(1632960|1134960|1144960|1154960|1164960|1174960|1184960|1214960"
                + "|1314960|1414960|1514960|1614960|1914980|2079460|2896496|2920180|3069990|7700900"
                + "|8081570|9098790)...|33(19900|26191|35301|46571|53649|63998)....|49(3023125"
                + "|6990009|4066969|2214710|8999998)...|61[2378](5550|7010)....|46(3139006|4062804"
                + "|8465004|9803192)..|3532091.....)");
    assertThat(numbers.isValidNumber(numbers.parse(number, country))).isTrue();
    for (int i = 0; i < 20; i++) {
      Masks masks = said("phone", nobodys, country);
      String masked = masks.of("phone").apply(number);
      assertThat(masked).isNotEqualTo(number);
      assertThat(masked.replaceAll("[0-9]", "0")).isEqualTo(number.replaceAll("[0-9]", "0"));
      var parsed = numbers.parse(masked, country);
      boolean kept =
          film.matcher(numbers.format(parsed, PhoneNumberUtil.PhoneNumberFormat.E164)).matches();
      assertThat(kept || !numbers.isValidNumber(parsed)).as(masked).isTrue();
      assertThat(masked.replaceAll("[^0-9]", "")).doesNotMatch("(112|911|999|000|110|119).*");
      // In both forms alike, and in texts.
      String both = numbers.format(parsed, PhoneNumberUtil.PhoneNumberFormat.E164);
      String other =
          numbers.format(numbers.parse(number, country), PhoneNumberUtil.PhoneNumberFormat.E164);
      assertThat(masks.of("phone").apply(other)).isEqualTo(both);
      assertThat(masks.text().apply("Call " + other + " now.")).contains(both);
    }
  }

  @Test
  void noCountryHasAValidNumberLeft() {
    PhoneNumberUtil numbers = PhoneNumberUtil.getInstance();
    Masks masks = said("phone", new Settings(null, "", "", false, 0), "IE");
    int looked = 0;
    for (String region : numbers.getSupportedRegions()) {
      for (var type : PhoneNumberUtil.PhoneNumberType.values()) {
        var example = numbers.getExampleNumberForType(region, type);
        if (example != null
            && !List.of(1, 33, 44, 46, 49, 61, 353).contains(example.getCountryCode())) {
          String number = numbers.format(example, PhoneNumberUtil.PhoneNumberFormat.E164);
          String masked = masks.of("phone").apply(number);
          assertThat(isValid(masked)).as(region + " " + type + " " + masked).isFalse();
          looked++;
        }
      }
    }
    assertThat(looked).isGreaterThan(500);
  }

  private static boolean isValid(String number) {
    try {
      return PhoneNumberUtil.getInstance()
          .isValidNumber(PhoneNumberUtil.getInstance().parse(number, "ZZ"));
    } catch (com.google.i18n.phonenumbers.NumberParseException e) {
      return false;
    }
  }

  @ParameterizedTest
  @CsvSource({"username, 10", "username, 4", "username, 20", "email, 10", "email, 6", "email, 24"})
  void loginsAreAsLongAsTheProjectSays(String kind, int longest) {
    Masks masks = said(kind, new Settings(null, "", "", null, longest));
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 300; i++) {
      String login = "corvan.vennask-pellane" + i + (kind.equals("email") ? "@site.example" : "");
      String masked = masks.of(kind).apply(login);
      String local = masked.replaceAll("@.*", "");
      assertThat(local.length()).as(masked).isBetween(Math.min(longest, 4), longest);
      assertThat(local).matches("[a-z0-9]+([._-][a-z0-9]+)*");
      seen.add(masked);
    }
    assertThat(seen).hasSizeGreaterThan(298);
  }

  private final Masks masks = new Masks(SecretKey.random(), LocalDate.of(2026, 1, 1));
  private final Random random = new Random(11);

  private String digits(int length) {
    StringBuilder digits = new StringBuilder();
    for (int i = 0; i < length; i++) {
      digits.append(random.nextInt(10));
    }
    return digits.toString();
  }

  private static int wrongBy(String digits) throws Exception {
    String body = digits.substring(0, digits.length() - 1);
    int right = Integer.parseInt(LuhnCheckDigit.LUHN_CHECK_DIGIT.calculate(body));
    return Math.floorMod(digits.charAt(digits.length() - 1) - '0' - right, 10);
  }

  @ParameterizedTest
  @CsvSource({
    "4, 16, 1",
    "51, 16, 2",
    "37, 15, 2",
    "6011, 16, 4",
    "2221, 16, 4",
    "3530, 16, 4",
    "4, 13, 1"
  })
  void aCardKeepsBrandLengthAndTheStateOfItsCheckDigit(String brand, int length, int kept)
      throws Exception {
    Map<String, String> seen = new HashMap<>();
    for (int i = 0; i < 2_000; i++) {
      String card = brand + digits(length - brand.length());
      String masked = masks.of("card-number").apply(card);
      assertThat(masked).hasSize(length).startsWith(card.substring(0, kept)).containsOnlyDigits();
      assertThat(wrongBy(masked)).isEqualTo(wrongBy(card));
      String before = seen.put(masked, card);
      assertThat(before == null || before.equals(card)).isTrue();
    }
  }

  @Test
  void aCardMasksAlikeInEveryGrouping() {
    Mask mask = masks.of("card-number");
    String plain = mask.apply("4000001234567899");
    assertThat(mask.apply("4000 0012 3456 7899").replace(" ", "")).isEqualTo(plain);
    assertThat(mask.apply("4000-0012-3456-7899")).matches("[0-9]{4}-[0-9]{4}-[0-9]{4}-[0-9]{4}");
  }

  @ParameterizedTest
  @ValueSource(strings = {"QO", "QM", "XZ"})
  void anIbanKeepsItsCountryAndTheStateOfItsCheckDigits(String country) throws Exception {
    Map<String, String> seen = new HashMap<>();
    for (int i = 0; i < 2_000; i++) {
      String account = "ABCD" + digits(12);
      String check = IBANCheckDigit.IBAN_CHECK_DIGIT.calculate(country + "00" + account);
      String right = country + check + account;
      String masked = masks.of("iban").apply(right);
      assertThat(IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(masked)).as(masked).isTrue();
      assertThat(masked).matches(country + "[0-9]{2}[A-Z]{4}[0-9]{12}");
      String before = seen.put(masked, right);
      assertThat(before == null || before.equals(right)).isTrue();
      int wrong = 2 + (Integer.parseInt(check) + 5) % 97;
      String bad = country + String.format("%02d", wrong) + account;
      boolean stillWrong = !IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(masks.of("iban").apply(bad));
      assertThat(stillWrong).isEqualTo(!IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(bad));
    }
    assertThat(masks.of("iban").apply("QO14 ORLI 1234 5678"))
        .matches("QO[0-9]{2} [A-Z]{4} [0-9]{4} [0-9]{4}");
  }

  @Test
  void aNationalIdKeepsItsLettersAndTheStateOfItsCheckDigit() throws Exception {
    for (int i = 0; i < 2_000; i++) {
      String digits = digits(8);
      String masked = masks.of("national-id").apply("OR" + digits);
      assertThat(masked).matches("OR[0-9]{8}");
      assertThat(wrongBy(masked.substring(2))).isEqualTo(wrongBy(digits));
    }
    assertThat(masks.of("national-id").apply("AB 12 34 56 C"))
        .matches("[A-Z]{2} [0-9]{2} [0-9]{2} [0-9]{2} [A-Z]");
  }

  @Test
  void anAddressKeepsWhatSortOfStreetItIs() {
    Mask street = masks.of("street-address");
    assertThat(street.apply("12 Harbour Road")).matches("[1-9][0-9] [A-Z][a-z]+ Road");
    assertThat(street.apply("Flat 3, 12 HARBOUR ROAD"))
        .matches("Flat [1-9], [1-9][0-9] [A-Z]+ ROAD");
    assertThat(street.apply("8 Upper Quay"))
        .as("made of words that usually stay")
        .matches("[1-9] [A-Z][a-z]+ Quay")
        .doesNotContain("Upper");
    assertThat(masks.of("city").apply("Little Skerrow")).matches("[A-Z][a-z]+");
    assertThat(masks.of("city").apply("LITTLE  SKERROW"))
        .isEqualTo(masks.of("city").apply("Little Skerrow").toUpperCase());
    assertThat(masks.of("postcode").apply("OR5 2QX")).matches("[A-Z]{2}[1-9] [0-9][A-Z]{2}");
  }

  @Test
  void loginsStayApartAndAgreeWithoutRegardToCase() {
    Mask username = masks.of("username");
    assertThat(username.apply("ORLA_T17")).isEqualTo(username.apply("orla_t17").toUpperCase());
    assertThat(username.apply("orla.tidewick@site.example"))
        .isEqualTo(masks.of("email").apply("orla.tidewick@site.example"));
    assertThat(username.apply("orla_t17")).isNotEqualTo(username.apply("orla_t18"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "$2b$06$abcdefghijklmnopqrstuuE1b2c3d4e5f6g7h8i9j0k1l2m3n4o5p | \\$2b\\$06\\$.{53}",
        "$argon2id$v=19$m=65536,t=3,p=4$c29tZXNhbHQ$RdescudvJCsgt3ub | \\$argon2id\\$v=19\\$m=65536,t=3,p=4\\$.+",
        "$pbkdf2-sha256$29000$c2FsdHNhbHQ$aGFzaGhhc2g | \\$pbkdf2-sha256\\$29000\\$.+",
        "0cc175b9c0f1b6a831c399e269772661 | [0-9a-f]{32}",
        "{SSHA}abcdefghijklmnopqrstuvwx | \\{SSHA}.{24}",
      })
  void aPasswordHashKeepsItsSchemeAndCost(String hash, String pattern) {
    String masked = masks.of("password-hash").apply(hash);
    assertThat(masked).matches(pattern).hasSameSizeAs(hash).isNotEqualTo(hash);
  }

  @Test
  void textLosesWhatItsRowKnows() {
    Mentions row = new Mentions();
    row.add("given-name", "Orla");
    row.add("family-name", "Tidewick");
    row.add("username", "orla_t17");
    String masked =
        ((FreeText) masks.of("note"))
            .apply("orla called; Mrs Tidewick's login is orla_t17. TIDEWICK!", row);
    String family = masks.of("family-name").apply("Tidewick");
    assertThat(masked)
        .isEqualTo(
            masks.of("given-name").apply("orla")
                + " called; Mrs "
                + family
                + "'s login is "
                + masks.of("username").apply("orla_t17")
                + ". "
                + family.toUpperCase()
                + "!");
  }

  @Test
  void textLosesTheWordsOfFullNamesWithTitlesAndParticles() {
    Mentions row = new Mentions();
    row.add("full-name", "Dr Orla van der Tidewick");
    row.add("full-name", "SALTMERE, Piran");
    row.add("full-name", "Mirel Ormask-Gullily");
    assertThat(((FreeText) masks.of("note")).apply("orla, tidewick, piran, ormask van tea", row))
        .isEqualTo(
            "%s, %s, %s, %s van tea",
            masks.of("given-name").apply("orla"),
            masks.of("family-name").apply("tidewick"),
            masks.of("given-name").apply("piran"),
            masks.of("family-name").apply("ormask"));
  }

  @Test
  void textLosesWhatLooksPersonalAndKeepsTheRest() {
    FreeText note = (FreeText) masks.of("note");
    assertThat(note.apply("Mail ann.lee@site.example now"))
        .isEqualTo("Mail " + masks.of("email").apply("ann.lee@site.example") + " now");
    assertThat(note.apply("call +44 7700 900123."))
        .isEqualTo("call " + masks.of("phone").apply("+44 7700 900123") + ".");
    assertThat(note.apply("card 4000001234567899?")).doesNotContain("4000001234567899");
    assertThat(note.apply("spoke with Brannoc Shoalurk; Brannoc agreed"))
        .doesNotContain("Brannoc", "Shoalurk")
        .matches("spoke with [A-Z][a-z]+ [A-Z][a-z]+; [A-Z][a-z]+ agreed");
    String harmless = "The ferry left at 06:30 on 2025-06-01, 12 minutes late. Paid 300 in cash.";
    assertThat(note.apply(harmless)).isEqualTo(harmless);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "Quillevan reported a missing bag.| [A-Z][a-z]+ reported a missing bag\\.",
        "Please seat Morwennol next to the aisle.| Please seat [A-Z][a-z]+ next to the aisle\\.",
        "The key is with Agnes now.| The key is with [A-Z][a-z]+ now\\.",
        "Skerrane's wife rang; Shoalmask says no.| Skerrane's wife rang; [A-Z][a-z]+ says no\\.",
      })
  void textLosesWhoIsSpokenOfAsAPerson(String text, String pattern) {
    String masked = ((FreeText) masks.of("note")).apply(text);
    assertThat(masked).matches(pattern);
    assertThat(masked).doesNotContain("Quillevan", "Morwennol", "Agnes", "Shoalmask");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "Passenger reported a missing bag.",
        "Security said no. Nobody asked. Call Monday. Ask Reception in May.",
        "The ferry Skerrane left for Victoria in June with Grace.",
        "Refund promised. Fire reported on deck 3. Booking confirmed by mail.",
        "They asked for Deck B; it reports to Head Office.",
      })
  void textKeepsPartsDaysAndPlaces(String text) {
    assertThat(((FreeText) masks.of("note")).apply(text)).isEqualTo(text);
  }

  @Test
  void textLosesWebAddressesAndOfficialNumbers() {
    FreeText note = (FreeText) masks.of("note");
    String site = masks.of("email").apply("x@harbour.example").replaceAll(".*@", "");
    assertThat(note.apply("see https://www.harbour.example/people/orla-t17?id=45."))
        .matches(
            "see https://www\\." + site + "/[a-z]{6}/[a-z]{4}-[a-z][1-9][0-9]\\?[a-z]{2}=..\\.")
        .doesNotContain("orla");
    String polish = "44051401359";
    assertThat(note.apply("PESEL " + polish + " was checked"))
        .isEqualTo("PESEL " + masks.of("national-id").apply(polish) + " was checked");
    String finnish = "131052-308T";
    assertThat(note.apply("He showed " + finnish + "."))
        .isEqualTo("He showed " + masks.of("national-id").apply(finnish) + ".");
    String harmless = "Booking 44051401358 and invoice 2025-0033-17 stay.";
    assertThat(note.apply(harmless)).isEqualTo(harmless);
  }

  @Test
  void jsonIsMaskedByPathAndKeepsEverythingElse() {
    String json =
        "{ \"user\" : {\"mail\":\"ann.lee@site.example\", \"n\": [1, 22.5]},\n \"ok\":true, \"x\":null, \"k\\u00e9\":\"a\\\"b\" }";
    ValueMask mask =
        masks.values(
            masks.json(
                Map.of("$.user.mail", masks.of("email"), "$.user.n[*]", Masks.staying()), null));
    String masked = (String) mask.apply(json);
    assertThat(masked)
        .startsWith(
            "{ \"user\" : {\"mail\":\""
                + masks.of("email").apply("ann.lee@site.example")
                + "\", \"n\": [1, 22.5]},\n \"ok\":true, \"x\":null, \"k\\u00e9\":\"")
        .matches("(?s).*\"[a-z]\\\\\"[a-z]\" }");
    assertThat((String) mask.apply("{not json")).matches("\\{[a-z]{3} [a-z]{4}");
    assertThat((String) mask.apply("{\"z\": 12345}")).matches("\\{\"z\": [1-9][0-9]{4}}");
  }

  @Test
  void unknownPathsMayStop() {
    JsonText json =
        masks.json(
            Map.of("$.a", masks.of("email"), "$.n", Masks.staying()),
            () -> new IllegalStateException("unknown"));
    assertThat(json.apply("{\"a\":\"x@site.example\",\"n\":7}")).contains("\"n\":7}");
    assertThatThrownBy(() -> json.apply("{\"a\":\"x@site.example\",\"b\":true,\"c\":1}"))
        .hasMessage("unknown");
  }

  @ParameterizedTest
  @CsvSource({
    "OR5 2QX, 3",
    "SW1A 1AA, 4",
    "K1A 0B1, 3",
    "12345, 2",
    "00-950, 2",
    "123 45, 2",
    "01310-100, 3",
    "100-0001, 3",
    "12345-6789, 5",
    "1010, 2"
  })
  void codesOfOneAreaStayTogetherAndInTheirShape(String code, int area) {
    Mask postcode = masks.of("postcode");
    String masked = postcode.apply(code);
    assertThat(masked.replaceAll("[A-Z]", "A").replaceAll("[0-9]", "0"))
        .isEqualTo(code.replaceAll("[A-Z]", "A").replaceAll("[0-9]", "0"));
    assertThat(postcode.apply(code.replaceAll("[ -]", "").toLowerCase()))
        .isEqualTo(masked.replaceAll("[ -]", "").toLowerCase());
    String compact = code.replaceAll("[ -]", "");
    Set<String> heads = new HashSet<>();
    Set<String> all = new HashSet<>();
    for (char c = '0'; c <= '9'; c++) {
      int place = compact.length() - 1;
      while (compact.charAt(place) > '9') {
        place--;
      }
      String other = compact.substring(0, place) + c + compact.substring(place + 1);
      all.add(postcode.apply(other));
      heads.add(postcode.apply(other).substring(0, area));
    }
    assertThat(heads).hasSize(1);
    assertThat(all).hasSize(10);
  }

  @ParameterizedTest
  @CsvSource({
    "marital-status, verheiratet, ledig verheiratet geschieden verwitwet getrennt getrennt|lebend",
    "marital-status, MARIÉE, MARIÉE DIVORCÉE VEUVE SÉPARÉE PACSÉE",
    "marital-status, mariee, mariee divorcee veuve separee pacsee",
    "marital-status, W, S M D W",
    "marital-status, Div, Sin Mar Div Wid Sep",
    "sexual-orientation, GAY, GAY LES BIS HET ASE PAN STR",
    "sexual-orientation, gay, straight gay lesbian bisexual asexual pansexual queer",
    "religion, Evangelisch, Katholisch Evangelisch Orthodox Muslimisch Jüdisch Buddhistisch Hinduistisch Konfessionslos",
    "blood-group, AB+, A+ A- B+ B- AB+ AB-",
    "blood-group, o+, o+ o-",
    "blood-group, B POS, A|POS A|NEG B|POS B|NEG AB|POS AB|NEG",
    "blood-group, A Rh−, A|Rh+ A|Rh− B|Rh+ B|Rh− AB|Rh+ AB|Rh−"
  })
  void aWordOfAClosedListBecomesAnotherOfItInItsSpelling(String kind, String word, String list) {
    List<String> entries =
        Stream.of(list.split(" ")).map(entry -> entry.replace('|', ' ')).toList();
    Set<String> all = new HashSet<>();
    for (int i = 0; i < 20; i++) {
      String masked = new Masks(SecretKey.random(), LocalDate.EPOCH).of(kind).apply(word);
      assertThat(entries).contains(masked);
      all.add(masked);
    }
    assertThat(all).doesNotContain(word).hasSizeGreaterThan(entries.size() > 2 ? 1 : 0);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = ';',
      value = {
        "52000; [4-6][0-9]000",
        "1,234.00; (9[0-9]{2}|1,[0-9]{3}).00",
        "€ 3.410,50; € [2-4]\\.[0-9]{3},[0-9]{2}",
        "48 750 kr; [3-5][0-9] [0-9]{3} kr",
        "0; 0"
      })
  void payMovesByAFifthAtTheMostAndStaysRounded(String pay, String form) {
    double before =
        Double.parseDouble(
            pay.replaceAll("[.](?=[0-9]{3})|[^0-9.,]|,(?=[0-9]{3})", "").replace(',', '.'));
    for (int i = 0; i < 50; i++) {
      String masked = new Masks(SecretKey.random(), LocalDate.EPOCH).of("salary").apply(pay);
      assertThat(masked).matches(form);
      double after =
          Double.parseDouble(
              masked.replaceAll("[.](?=[0-9]{3})|[^0-9.,]|,(?=[0-9]{3})", "").replace(',', '.'));
      assertThat(Math.abs(after - before)).isLessThanOrEqualTo(before * 0.2);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "mac-address, 00005E0053AF, 00005E[0-9A-F]{6}",
    "ip-address, ::ffff:203.0.113.17, ::ffff:[0-9.]+",
    "ip-address, 64:ff9b::203.0.113.17, 64:ff9b::[0-9.]+",
    "ip-address, 2001:DB8::A7, 2001:[0-9A-F]{3}::[0-9A-F]{2}",
    "ip-address, fe80::a1b2%eth0, fe80::[0-9a-f]{4}%eth0",
    "ip-address, 2001:db8::a7/64, 2001:[0-9a-f]{3}::[0-9a-f]{2}/64"
  })
  void addressesOfMachinesKeepWhatSaysWhatTheyAre(String kind, String address, String form) {
    String masked = masks.of(kind).apply(address);
    assertThat(masked).matches(form).isNotEqualTo(address);
    if (address.startsWith("::ffff:")) {
      assertThat(masked).endsWith(":" + masks.of(kind).apply(address.substring(7)));
    }
  }

  @ParameterizedTest
  @CsvSource({"marital-status, 'M    '", "city, 'Skerrow '", "email, 'o@site.example '"})
  void blanksBehindAValueStay(String kind, String padded) {
    String masked = (String) masks.values(kind).apply(padded);
    String alone = (String) masks.values(kind).apply(padded.strip());
    assertThat(masked).startsWith(alone).endsWith(" ");
    int blanks = padded.length() - padded.strip().length();
    assertThat(masked.length())
        .isEqualTo(blanks > 1 ? Math.max(padded.length(), alone.length()) : alone.length() + 1);
  }

  @Test
  void aCodeOfAnIllnessStaysInItsChapterAndIsABijection() {
    Mask diagnosis = masks.of("diagnosis");
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 100; i++) {
      String code = String.format("J%02d", i);
      String masked = diagnosis.apply(code + ".1");
      assertThat(masked).matches("J[0-9]{2}\\.1");
      assertThat(seen.add(masked)).isTrue();
    }
    assertThat(diagnosis.apply("e11")).matches("e[0-9]{2}");
    assertThat(diagnosis.apply("250.00")).matches("2[4-7][0-9]\\.00");
  }

  @Test
  void aCountryCodeBecomesThatOfAnotherCountryInBothLengths() {
    Mask country = masks.of("nationality");
    Set<String> all = new HashSet<>();
    for (String code : Vocabularies.load("country-codes")) {
      String two = country.apply(code.substring(0, 2));
      String three = country.apply(code.substring(2));
      assertThat(Vocabularies.load("country-codes")).contains(two + three);
      assertThat(masks.of("country").apply(code)).isEqualTo(code);
      assertThat(country.apply(code.substring(0, 2).toLowerCase())).isEqualTo(two.toLowerCase());
      all.add(two);
    }
    assertThat(all).hasSize(Vocabularies.load("country-codes").size());
    assertThat(country.apply("QQ")).matches("[A-Z]{2}").isNotIn(all);
  }

  @Test
  void noTwoPostcodesMeet() {
    Mask postcode = masks.of("postcode");
    Set<String> all = new HashSet<>();
    for (int i = 0; i < 100_000; i++) {
      all.add(postcode.apply(String.format("%05d", i)));
    }
    assertThat(all).hasSize(100_000);
    assertThat(postcode.apply("1234 AB").substring(0, 4))
        .isEqualTo(postcode.apply("1234XY").substring(0, 4));
    assertThat(postcode.apply("12345-6789")).startsWith(postcode.apply("12345") + "-");
  }

  @Test
  void unknownPathsAreCountedAndLoseAllButTheirShape() {
    JsonText json = masks.json(Map.of("$.a", masks.of("email")), null);
    assertThat(json.apply("{\"a\":\"x@site.example\",\"b\":\"Orla\",\"c\":{\"d\":[17,\"x\"]}}"))
        .contains("\"b\":\"")
        .doesNotContain("Orla");
    json.apply("{\"b\":\"again\"}");
    assertThat(json.unknownValues()).isEqualTo(4);
    assertThat(json.unknownPaths()).isEqualTo(2);
  }

  @Test
  void aTextLosesEveryWordOfANameAndNamesThatItsAddressesHold() {
    Mask note = masks.of("note");
    String given = masks.of("given-name").apply("Senna");
    String family = masks.of("family-name").apply("Haskister");
    assertThat(note.apply("Passenger Senna Haskister slipped on deck two."))
        .isEqualTo("Passenger " + given + " " + family + " slipped on deck two.");
    assertThat(note.apply("Mrs Haskister and Senna Haskister came."))
        .isEqualTo("Mrs " + family + " and " + given + " " + family + " came.");
    assertThat(note.apply("Spoke to Mr Haskister. He is well. Ask Mrs Haskister Monday."))
        .isEqualTo("Spoke to Mr " + family + ". He is well. Ask Mrs " + family + " Monday.");
    String quillister = masks.of("family-name").apply("Quillister");
    assertThat(note.apply("Refund promised to Quillister, answer to k.quillister27@post.example."))
        .startsWith("Refund promised to " + quillister + ", answer to ")
        .doesNotContain("quillister");
  }
}
