package yemble.demo;

import java.time.LocalDate;
import java.util.Random;

/** Makes up people. All names are invented; the same seed gives the same people. */
final class Folk {
  private static final String[] GIVEN = {
    "Orla",
    "Tavin",
    "Mirel",
    "Senna",
    "Kesto",
    "Ilvane",
    "Brannoc",
    "Yselle",
    "Dovan",
    "Marisk",
    "Elowyn",
    "Corvan",
    "Thessaly",
    "Rhune",
    "Aldith",
    "Perran",
    "Lisk",
    "Oswen",
    "Tamsel",
    "Jorrin",
    "Velda",
    "Hesper",
    "Caddoc",
    "Nerys",
    "Ondrel",
    "Fenna",
    "Gorran",
    "Isolde",
    "Merrin",
    "Talek",
    "Wenna",
    "Ruan",
    "Sable",
    "Idris",
    "Lowenna",
    "Piran",
    "Zennor",
    "Kerensa",
    "Maddern",
    "Ennis",
    "Tressa",
    "Jago",
    "Demelza",
    "Cador",
    "Morwenna",
    "Gerens",
    "Elestren",
    "Hedrek",
    "Bryluen",
    "Casworon"
  };
  private static final String[] FAMILY_HEAD = {
    "Quill", "Harrow", "Tide", "Skerr", "Pell", "Marr", "Gull", "Storr", "Venn", "Lorr", "Kelp",
    "Brine", "Salt", "Drift", "Shoal", "Reef", "Cray", "Petr", "Orm", "Sunn", "Wrack", "Fjall",
    "Torr", "Hask", "Ness"
  };
  private static final String[] FAMILY_TAIL = {
    "ane", "mere", "wick", "owan", "ister", "ack", "idge", "andry", "evan", "oway", "ask", "ily",
    "ennick", "orran", "und", "ivar", "aster", "omb", "elly", "urk"
  };
  private static final String[] SITES = {
    "tidepost.example", "orlimail.example", "skerrynet.example", "islandpost.example"
  };

  private final Random random;

  Folk(Random random) {
    this.random = random;
  }

  /** A person as several tables may know them. */
  record Person(String given, String family, String email, String phone, LocalDate born) {}

  /** Somebody new; {@code number} makes the e-mail address unique. */
  Person person(int number) {
    String given = skewed(GIVEN);
    String family = skewed(FAMILY_HEAD) + pick(FAMILY_TAIL);
    LocalDate born = LocalDate.of(1938, 1, 1).plusDays(random.nextInt(31_000));
    return new Person(given, family, email(given, family, number), phone(), born);
  }

  private String email(String given, String family, int number) {
    String local =
        switch (random.nextInt(4)) {
          case 0 -> given + "." + family + number;
          case 1 -> given.charAt(0) + "." + family + number;
          case 2 -> family + "_" + given + number;
          default -> given + number + "." + family;
        };
    return local.toLowerCase(java.util.Locale.ROOT) + "@" + pick(SITES);
  }

  /** A number of the islands (their country code is one that is not assigned), in some format. */
  String phone() {
    int area = 20 + random.nextInt(60);
    int number = 1_000_000 + random.nextInt(8_999_999);
    return switch (random.nextInt(5)) {
      case 0 -> String.format("+990 %d %07d", area, number);
      case 1 -> String.format("00990-%d-%07d", area, number);
      case 2 -> String.format("0%d/%07d", area, number);
      case 3 -> String.format("(0%d) %03d %04d", area, number / 10_000, number % 10_000);
      default -> String.format("+990%d%07d", area, number);
    };
  }

  String pick(String[] from) {
    return from[random.nextInt(from.length)];
  }

  /** Some are much more frequent than others. */
  private String skewed(String[] from) {
    double r = random.nextDouble();
    return from[(int) (r * r * from.length)];
  }
}
