package yemble.bench;

import java.util.List;
import java.util.Locale;
import java.util.Random;

/** Made-up values of kinds, as tables hold them. */
final class MaskValues {
  private static final List<String> GIVEN =
      List.of("Orla", "Tavin", "Mirel", "Senna", "Piran", "Isolde", "Anne-Marie", "Rufus", "Wilma");
  private static final List<String> FIRST =
      List.of("Tide", "Sker", "Venn", "Marr", "Shoal", "Salt", "Orm", "Quill", "Gull", "Storr");
  private static final List<String> SECOND =
      List.of("wick", "rack", "ask", "orran", "away", "ily", "ivar", "urk", "mere", "holm");

  private final Random random;

  MaskValues(Random random) {
    this.random = random;
  }

  private String of(List<String> list) {
    return list.get(random.nextInt(list.size()));
  }

  private String given() {
    return of(GIVEN) + (random.nextInt(3) == 0 ? "" + (char) ('a' + random.nextInt(26)) : "");
  }

  private String family() {
    return of(FIRST) + of(SECOND) + (char) ('a' + random.nextInt(26));
  }

  private String digits(int length) {
    StringBuilder digits = new StringBuilder(length);
    for (int i = 0; i < length; i++) {
      digits.append((char) ('0' + random.nextInt(10)));
    }
    return digits.toString();
  }

  private String date() {
    return String.format(
        Locale.ROOT,
        "%d-%02d-%02d",
        1935 + random.nextInt(85),
        1 + random.nextInt(12),
        1 + random.nextInt(28));
  }

  private String card() {
    String body = "4000" + digits(11);
    int sum = 0;
    for (int i = 0; i < body.length(); i++) {
      int digit = (body.charAt(body.length() - 1 - i) - '0') * (i % 2 == 0 ? 2 : 1);
      sum += digit / 10 + digit % 10;
    }
    return body + (10 - sum % 10) % 10;
  }

  /** Mobile and fixed lines of three countries. */
  private String phone() {
    return switch (random.nextInt(3)) {
      case 0 -> "+44 7400 " + digits(6);
      case 1 -> "+49 30 2" + digits(6);
      default -> "+1 (212) 5" + digits(2) + "-" + digits(4);
    };
  }

  /** A value of a kind. */
  String value(String kind) {
    return switch (kind) {
      case "given-name" -> given();
      case "family-name" -> family();
      case "full-name" -> given() + " " + family();
      case "birth-date" -> date();
      case "email" ->
          (given() + "." + family()).toLowerCase(Locale.ROOT)
              + digits(3)
              + "@"
              + of(FIRST).toLowerCase(Locale.ROOT)
              + ".example";
      case "username" -> (given() + "_" + family()).toLowerCase(Locale.ROOT) + digits(3);
      case "phone" -> phone();
      case "card-number" -> card();
      case "iban" -> "QO" + digits(2) + "ORLI" + digits(13);
      case "national-id" -> "OR" + digits(8);
      case "street-address" -> (1 + random.nextInt(300)) + " " + family() + " Road";
      case "city", "city alone" -> of(FIRST) + of(SECOND);
      case "postcode" -> "OR" + digits(1) + " " + digits(1) + "QX";
      case "ip-address" ->
          random.nextInt(224) + "." + random.nextInt(256) + "." + random.nextInt(256) + ".7";
      case "vehicle-plate" -> "OA-" + digits(3) + "-BC";
      case "note" ->
          "Mr "
              + family()
              + " called about booking OF"
              + digits(6)
              + " and asked to be rung back on +44 7700 "
              + digits(6)
              + ", or by mail to "
              + value("email")
              + ". The car has been moved to the lower deck since.";
      case "json" ->
          "{\"user\":{\"name\":\""
              + given()
              + "\",\"mail\":\""
              + value("email")
              + "\"},\"visits\":"
              + digits(2).replaceFirst("^0", "1")
              + ",\"pages\":[\"/\",\"/timetable\",\"/booking\"]}";
      default -> digits(4) + "-" + family();
    };
  }
}
