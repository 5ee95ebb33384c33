package yemble.core.mask.step;

import java.util.List;
import java.util.Map;
import java.util.Set;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Shape;
import yemble.core.pattern.FinitePattern;
import yemble.core.problem.Failure;
import yemble.core.yaml.YamlValue;

/**
 * A reversible one: a permutation under the key of a store, which keeps what leads back.
 *
 * @param like what all values are like; null for those of the column's kind
 */
public record Token(String store, FinitePattern like) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "token",
          "`token: { store: NAME, like: REGEX }`",
          "a token, from which a store leads back: see the [guide](guide.md#a-way-back-for-one-team)",
          """
          {"type": "object", "additionalProperties": false, "required": ["store"], "properties": {
            "store": {"type": "string"}, "like": {"type": "string"}}}""",
          List.of("{ store: cards, like: '40[0-9]{14}' }"),
          StepSort.Takes.TEXTS_AND_NUMBERS,
          Set.of(),
          Token::read);

  private static final int MOST = 250;

  private static MaskStep read(YamlValue value, StepSort.Known known) {
    Map<String, YamlValue> fields = value.fields(Set.of("store", "like"));
    if (!fields.containsKey("store")) {
      throw value
          .place()
          .problem(Failure.WORD_MISSING, "which store keeps what leads back?")
          .remedy("name one of stores: { store: cards, like: '\\d{16}' }");
    }
    FinitePattern like = fields.containsKey("like") ? Patterned.pattern(fields.get("like")) : null;
    if (like != null && (!like.isNumbered() || like.longest() > MOST)) {
      throw fields
          .get("like")
          .place()
          .problem(
              Failure.PATTERN_FORM,
              like.isNumbered()
                  ? "a token has at most " + MOST + " characters"
                  : "the pattern has too many values for a permutation")
          .because("it has " + like.count() + "; up to 4.6 quintillion can be counted")
          .remedy("write a shorter pattern, or one for the part that differs");
    }
    return new Token(fields.get("store").word(), like);
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return "token of " + store;
  }

  @Override
  public Mask mask(Making making) {
    SecretKey under = making.masks().keyOf(store);
    return like == null
        ? making.masks().under(under).of(making.kind())
        : new TokenMask(under.prf("token/" + like), like, new Shape(under.prf("token")));
  }
}
