package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.vocabulary.Vocabularies;

/** What the masks of all kinds promise, and what those of numbers, lists and nets keep. */
class EveryKindTest {
  private static final LocalDate AS_OF = LocalDate.of(2026, 1, 1);
  private final SecretKey key = SecretKey.random();
  private final Masks masks = new Masks(key, AS_OF);
  private final Random random = new Random(5);

  private String masked(String kind, String value) {
    return masks.of(kind).apply(value);
  }

  @Test
  void aKindIsMaskedTheSameEachTimeAndOtherwiseUnderAnotherKey() {
    Masks again = new Masks(key, AS_OF);
    List<Masks> others =
        java.util.stream.Stream.generate(() -> new Masks(SecretKey.random(), AS_OF))
            .limit(24)
            .toList();
    for (Kind kind : Kinds.BUILT_IN.all()) {
      int changed = 0;
      int same = 0;
      for (String sample : kind.samples()) {
        String masked = masked(kind.name(), sample);
        assertThat(masked).as(kind.name() + " " + sample).isNotEmpty();
        assertThat(again.of(kind.name()).apply(sample)).isEqualTo(masked);
        // Of so many, chance lets no half agree, not even among four words.
        int keys = kind.original().among() < 200 ? others.size() : 5;
        for (Masks other : others.subList(0, keys)) {
          changed += masked.equals(sample) ? 0 : 1;
          boolean coincides = other.of(kind.name()).apply(sample).equals(masked);
          same += coincides && !masked.equals(sample) ? 1 : 0;
        }
      }
      assertThat(kind.samples()).as(kind.name()).hasSizeGreaterThanOrEqualTo(5);
      boolean ofOnePassword = kind.name().equals("password-hash");
      if (!kind.mask().equals("stays") && !ofOnePassword) {
        assertThat(changed).as(kind.name()).isPositive();
        assertThat(same).as(kind.name()).isLessThanOrEqualTo(changed / 2);
      }
    }
  }

  @Test
  void anAgeStaysInItsDecadeAndOnItsSideOfEighteen() {
    Set<String> seen = new HashSet<>();
    for (int age = 0; age < 130; age++) {
      int masked = Integer.parseInt(masked("age", Integer.toString(age)));
      assertThat(masked / 10).isEqualTo(age / 10);
      assertThat(masked >= 18).isEqualTo(age >= 18);
      assertThat(seen.add(Integer.toString(masked))).isTrue();
    }
  }

  @Test
  void aCardStaysValidIntoTheSameYear() {
    for (int year = 2024; year < 2040; year++) {
      Set<String> months = new HashSet<>();
      for (int month = 1; month <= 12; month++) {
        String masked = masked("card-expiry", String.format("%02d/%d", month, year % 100));
        assertThat(masked).matches("(0[1-9]|1[0-2])/" + year % 100);
        assertThat(months.add(masked)).isTrue();
        assertThat(masked("card-expiry", String.format("%d-%02d", year, month)))
            .isEqualTo(year + "-" + masked.substring(0, 2));
      }
    }
  }

  private String address() {
    return (11 + random.nextInt(80))
        + "."
        + random.nextInt(256)
        + "."
        + random.nextInt(256)
        + "."
        + random.nextInt(256);
  }

  private static int shared(String one, String other) {
    String[] a = one.split("\\.");
    String[] b = other.split("\\.");
    int shared = 0;
    while (shared < 4 && a[shared].equals(b[shared])) {
      shared++;
    }
    return shared;
  }

  @Test
  void addressesOfOneNetworkStayTogether() {
    Set<String> seen = new HashSet<>();
    Set<String> masked = new HashSet<>();
    for (int i = 0; i < 2_000; i++) {
      String one = address();
      String[] parts = one.split("\\.");
      int kept = random.nextInt(4);
      for (int part = kept; part < 4; part++) {
        parts[part] = Integer.toString(part == 0 ? 11 + random.nextInt(80) : random.nextInt(256));
      }
      String other = String.join(".", parts);
      assertThat(shared(masked("ip-address", one), masked("ip-address", other)))
          .isEqualTo(shared(one, other));
      if (seen.add(one)) {
        assertThat(masked.add(masked("ip-address", one))).isTrue();
      }
    }
  }

  @ParameterizedTest
  @CsvSource({
    "10.1.2.3, 10\\..*",
    "192.168.4.5, 192\\.168\\..*",
    "172.16.9.9, 172\\.16\\..*",
    "127.0.0.1, 127\\..*",
    "203.0.113.17:8080, [0-9.]+:8080",
    "203.0.113.0/24, [0-9.]+/24",
    "2001:db8::17, 2001:[0-9a-f]{3}::[0-9a-f]{2}"
  })
  void aNetworkStaysWhatItIs(String address, String form) {
    assertThat(masked("ip-address", address)).matches(form);
    for (int i = 0; i < 300; i++) {
      assertThat(masked("ip-address", address()))
          .doesNotMatch("(0|10|127|169|172|192|22[4-9]|2[3-5][0-9])\\..*");
    }
  }

  @Test
  void hexadecimalCodesStayHexadecimal() {
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 3_000; i++) {
      String code = String.format("%032x", new java.math.BigInteger(124, random));
      String uuid = code.replaceFirst("(.{8})(.{4})(.{4})(.{4})(.{12})", "$1-$2-$3-$4-$5");
      assertThat(seen.add(masked("device-id", uuid))).isTrue();
      assertThat(masked("device-id", uuid))
          .matches("[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")
          .isNotEqualTo(uuid);
    }
    assertThat(masked("mac-address", "00:00:5E:00:53:AF")).matches("([0-9A-F]{2}:){5}[0-9A-F]{2}");
  }

  @Test
  void aPlaceStaysWithinItsDegree() {
    for (int i = 0; i < 500; i++) {
      String degrees =
          (random.nextBoolean() ? "-" : "")
              + random.nextInt(90)
              + "."
              + (100_000 + random.nextInt(900_000));
      String masked = masked("latitude", degrees);
      assertThat(masked).hasSameSizeAs(degrees);
      assertThat(masked.substring(0, masked.indexOf('.')))
          .isEqualTo(degrees.substring(0, degrees.indexOf('.')));
    }
    assertThat(masked("latitude", "58")).isEqualTo("58");
  }

  @Test
  void whatComesFromAListIsOnItAndKeepsItsCase() {
    List<String> jobs = Vocabularies.lines("job-titles");
    for (int i = 0; i < 500; i++) {
      String job = "occupation number " + i;
      assertThat(jobs).contains(masked("job-title", job));
      assertThat(masked("job-title", job.toUpperCase()))
          .isEqualTo(masked("job-title", job).toUpperCase());
    }
    assertThat(masked("nationality", "NO")).matches("[A-Z]{2}");
    assertThat(masked("union-membership", "yes")).isEqualTo("yes");
    assertThat(masks.values("union-membership").apply(1L)).isEqualTo(1L);
  }

  @Test
  void oneKindMaskedAsAnotherAgreesWithIt() {
    Kind locker = Kind.own("locker", Category.IDENTITY, "a locker", "yemble.yaml:1:1");
    Kinds kinds =
        Kinds.BUILT_IN.with(
            List.of(
                locker.masked("vehicle-plate", "a plate", "yemble.yaml:2:1"),
                Kind.own("badge", Category.IDENTITY, "a badge", "yemble.yaml:3:1")
                    .masked("own-shape", "its shape", "yemble.yaml:4:1")));
    Masks own = new Masks(key, AS_OF, kinds);
    assertThat(own.of("locker").apply("OA-123-BC")).isEqualTo(masked("vehicle-plate", "OA-123-BC"));
    assertThat(own.of("badge").apply("OA-123-BC"))
        .matches("[A-Z]{2}-[0-9]{3}-[A-Z]{2}")
        .isNotEqualTo(masked("vehicle-plate", "OA-123-BC"));
    assertThat(masked("birth-place", "Skerrow")).isEqualTo(masked("city", "Skerrow"));
  }

  @Test
  void aDayOfNoKindBecomesAnotherDayOfItsCentury() {
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 5_000; i++) {
      LocalDate day = LocalDate.of(1900, 1, 1).plusDays(i * 7L);
      LocalDate masked = LocalDate.parse(masks.of("").apply(day.toString()));
      assertThat(masked.getYear() / 100).isEqualTo(day.getYear() / 100);
      assertThat(seen.add(masked.toString())).isTrue();
    }
    for (int i = 0; i < 500; i++) {
      String time = String.format("2024-03-01 %02d:%02d:07.120", i % 24, i % 60);
      String masked = masks.of("").apply(time);
      assertThat(java.time.LocalDateTime.parse(masked.replace(' ', 'T'))).isNotNull();
      assertThat(masked).hasSameSizeAs(time);
    }
    assertThat(masks.of("").apply("2024-03-01T10:20+02:00")).matches("20.{8}T..:..\\+02:00");
    assertThat(masks.of("").apply("2024-02-31")).doesNotMatch("2024-.*");
  }

  @Test
  void aTelephoneNumberStaysOneOfItsPlan() {
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 5_000; i++) {
      String digits = String.format("%07d", i * 1_999);
      String masked = masked("phone", "+1 415 " + digits);
      assertThat(masked.charAt(7) < '2').isEqualTo(digits.charAt(0) < '2');
      assertThat(seen.add(masked)).isTrue();
      assertThat(masked("phone", "415" + digits)).endsWith(masked.substring(7));
    }
  }
}
