package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collections;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.money.Iban;
import yemble.core.mask.person.Names;

/** What every mask promises, over thousands of values of every kind. */
class PromisesIT {
  /** So many values of each kind for each promise; more by a property. */
  private static final int MANY = Integer.getInteger("yemble.promises", 300);

  private static final LocalDate AS_OF = LocalDate.of(2026, 1, 1);

  /** Published, so that anybody can recompute what the docs show: the bytes 0 to 31. */
  private static final SecretKey PUBLISHED = published();

  private static final Path WRITTEN =
      Path.of("src/test/resources/yemble/core/mask/outputs-of-mask-version-1.txt");

  /** Kinds of few values, or whose values mostly stay: no share of changed ones is promised. */
  private static final Set<String> SMALL =
      Set.of(
          "gender",
          "country",
          "age",
          "card-expiry",
          "blood-group",
          "marital-status",
          "union-membership",
          "latitude",
          "longitude",
          // A version of one digit stays, by chance, in one of ten.
          "user-agent");

  private final SecretKey key = SecretKey.random();

  private static SecretKey published() {
    byte[] bytes = new byte[SecretKey.LENGTH];
    for (int i = 0; i < bytes.length; i++) {
      bytes[i] = (byte) i;
    }
    return SecretKey.parse(Base64.getUrlEncoder().withoutPadding().encodeToString(bytes))
        .orElseThrow();
  }

  static Stream<Kind> kinds() {
    return Kinds.BUILT_IN.all().stream();
  }

  @ParameterizedTest
  @MethodSource("kinds")
  void aValueBecomesTheSameInAnyOrderAndInAnyProcess(Kind kind) {
    List<String> values = Values.of(kind, MANY, 1);
    Mask first = new Masks(key, AS_OF).of(kind.name());
    Map<String, String> masked = new HashMap<>();
    values.forEach(value -> masked.put(value, first.apply(value)));
    List<String> shuffled = new ArrayList<>(values);
    Collections.shuffle(shuffled, new Random(2));
    Mask second = new Masks(key, AS_OF).of(kind.name());
    for (String value : shuffled) {
      assertThat(second.apply(value)).as(value).isEqualTo(masked.get(value)).isNotEmpty();
    }
  }

  @ParameterizedTest
  @MethodSource("kinds")
  void aMaskedValueDiffersFromItsOriginalButForAFewThatAreCounted(Kind kind) {
    List<String> values =
        Values.of(kind, MANY, 3).stream()
            .filter(value -> !Names.saysNothing(value) && value.length() > 3)
            .toList();
    Mask mask = new Masks(key, AS_OF).of(kind.name());
    long same = values.stream().filter(value -> mask.apply(value).equals(value)).count();
    boolean free =
        kind.mask().equals("note") || kind.mask().equals("json") || kind.name().equals("json");
    if (!SMALL.contains(kind.name()) && !free) {
      assertThat(same)
          .as(kind.name() + ": " + same + " of " + values.size())
          .isLessThanOrEqualTo(values.size() / 15);
    }
  }

  @ParameterizedTest
  @MethodSource("kinds")
  void whatIsABijectionLetsNoTwoValuesMeet(Kind kind) {
    Mask mask = new Masks(key, AS_OF).of(kind.name());
    if (mask.mayMeet()) {
      return;
    }
    Map<String, String> originals = new HashMap<>();
    for (String value : Values.of(kind, MANY, 4)) {
      String normal = value.replaceAll("[^\\p{L}\\p{N}]", "").toLowerCase(Locale.ROOT);
      String other = originals.put(mask.apply(value), normal);
      assertThat(other == null || other.equals(normal)).as(kind.name() + " " + value).isTrue();
    }
  }

  @Test
  void spellingsOfOneValueMaskAlikeAndKeepTheirForm() {
    Masks masks = new Masks(key, AS_OF);
    for (String name : List.of("given-name", "family-name", "email", "username", "city", "iban")) {
      Mask mask = masks.of(name);
      for (String value : Values.of(Kinds.BUILT_IN.known(name), 500, 5)) {
        String upper = value.toUpperCase(Locale.ROOT);
        boolean other = name.equals("email") && value.indexOf('@') < 0;
        if (other || (name.equals("iban") && !Iban.looksLikeOne(value))) {
          continue; // What is none keeps its shape, letter by letter.
        }
        assertThat(mask.apply(upper))
            .as(name + " " + value)
            .isEqualToIgnoringCase(mask.apply(value));
      }
    }
    assertThat(masks.of("card-number").apply("4000-0012-3456-7899").replace("-", ""))
        .isEqualTo(masks.of("card-number").apply("4000001234567899"));
    assertThat(masks.of("iban").apply("QO14 ORLI 1234 5678 9012 3").replace(" ", ""))
        .isEqualTo(masks.of("iban").apply("QO14ORLI1234567890123"));
  }

  /**
   * An upgrade never changes a mask silently: what thousands of values become is held by digest. A
   * change on purpose is written down by {@code -Dyemble.golden=write}, and in the CHANGELOG.
   */
  @Test
  void nothingBecomesAnythingElseThanBefore() throws IOException, NoSuchAlgorithmException {
    Masks masks = new Masks(PUBLISHED, AS_OF);
    Map<String, String> digests = new TreeMap<>();
    for (Kind kind : Kinds.BUILT_IN.all()) {
      MessageDigest digest = MessageDigest.getInstance("SHA-256");
      for (String value : Values.of(kind, 200, 6)) {
        String line = value + '\u001f' + masks.of(kind.name()).apply(value) + '\n';
        digest.update(line.getBytes(StandardCharsets.UTF_8));
      }
      digests.put(kind.name(), HexFormat.of().formatHex(digest.digest(), 0, 8));
    }
    StringBuilder text = new StringBuilder();
    digests.forEach((kind, digest) -> text.append(kind).append(' ').append(digest).append('\n'));
    if ("write".equals(System.getProperty("yemble.golden"))) {
      Files.createDirectories(WRITTEN.getParent());
      Files.writeString(WRITTEN, text);
    }
    try (InputStream in = PromisesIT.class.getResourceAsStream("outputs-of-mask-version-1.txt")) {
      String before =
          "write".equals(System.getProperty("yemble.golden"))
              ? text.toString()
              : new String(in.readAllBytes(), StandardCharsets.UTF_8);
      assertThat(text.toString().lines().toList()).isEqualTo(before.lines().toList());
    }
  }
}
