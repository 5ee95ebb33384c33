package yemble.core.mask;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kinds;
import yemble.core.mask.step.Token;
import yemble.core.mask.step.TokenMask;
import yemble.core.pattern.FinitePattern;

/** Tokens: a permutation under the key of a store, whatever the project's key is. */
class TokenMaskIT {
  private static final SecretKey STORE = SecretKey.random();

  private static Mask mask(SecretKey project, SecretKey store, String kind, String like)
      throws Exception {
    Masks.Terms terms =
        new Masks.Terms(
            project, project, LocalDate.of(2026, 1, 1), Kinds.BUILT_IN, Map.of(), Set.of());
    FinitePattern pattern = like.isEmpty() ? null : FinitePattern.parse(like);
    MaskRule rule = MaskRule.of(List.of(new Token("cards", pattern)), null);
    return new Masks(terms.with(Map.of("cards", store))).of(kind, rule);
  }

  /** Patterns that are small enough to be gone through: one of a table, one of FF1. */
  @ParameterizedTest
  @ValueSource(strings = {"[A-F]-[0-9]{3}", "[a-z]{4}|[A-F][0-9]{5}"})
  void allTextsOfAPatternBecomeAllOfThem(String like) throws Exception {
    FinitePattern pattern = FinitePattern.parse(like);
    Mask mask = mask(SecretKey.random(), STORE, "", like);
    Set<String> tokens = new HashSet<>();
    long same = 0;
    long others = 0;
    for (long number = 0; number < pattern.count().longValue(); number++) {
      String text = pattern.text(number);
      String token = mask.apply(text);
      others += pattern.matches(token) ? 0 : 1;
      same += token.equals(text) ? 1 : 0;
      tokens.add(token);
    }
    assertThat(others).isZero();
    assertThat(tokens).hasSize(pattern.count().intValueExact());
    assertThat(same).isLessThan(15); // One is to be expected by chance.
  }

  @Test
  void theStoreDecidesAndNotTheProject() throws Exception {
    String like = "40[0-9]{14}";
    String card = "4000000012345678";
    String token = mask(SecretKey.random(), STORE, "card-number", like).apply(card);
    assertThat(mask(SecretKey.random(), STORE, "card-number", like).apply(card)).isEqualTo(token);
    assertThat(mask(SecretKey.random(), SecretKey.random(), "card-number", like).apply(card))
        .isNotEqualTo(token);
  }

  @Test
  void whatIsNotLikeThePatternIsNoValueForAToken() throws Exception {
    TokenMask mask = (TokenMask) mask(SecretKey.random(), STORE, "", "[A-F]-[0-9]{3}");
    assertThat(mask.isFor("A-001")).isTrue();
    assertThat(mask.isFor("G-001")).isFalse();
    assertThat(mask.apply("G-001")).matches("[A-Z]-[0-9]{3}");
  }

  /** Without a pattern the kind's own mask makes them, where it keeps all values different. */
  @ParameterizedTest
  @ValueSource(strings = {"card-number", "iban", ""})
  void aKindThatKeepsValuesDifferentMakesTokens(String kind) throws Exception {
    Mask mask = mask(SecretKey.random(), STORE, kind, "");
    assertThat(mask.keepsDifferent()).isTrue();
    assertThat(mask.mayMeet()).isFalse();
    Set<String> tokens = new HashSet<>();
    for (int i = 0; i < 20_000; i++) {
      tokens.add(mask.apply(String.format("40000000%08d", i * 104_729L % 100_000_000)));
    }
    assertThat(tokens).hasSize(20_000);
  }
}
