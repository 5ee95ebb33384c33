package yemble.core.mask;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import java.util.function.BiFunction;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;

/**
 * The masks of one thread, each made once. Masks that are made of others (an e-mail of names) take
 * these others from here, in the scopes of their own kinds: so they agree wherever they stand.
 */
public final class Masks {
  private static final String LIST = "list: ";

  /** What makes each mask, by its name, for the scope of a kind. */
  private static final Map<String, BiFunction<Masks, String, Mask>> MAKERS =
      Map.ofEntries(
          Map.entry("stays", (masks, scope) -> new Stays()),
          Map.entry(Kinds.SHAPE, (masks, scope) -> masks.shape()),
          Map.entry("own-shape", (masks, scope) -> new Shape(masks.prf(scope))),
          Map.entry("hex", (masks, scope) -> new HexDigits(new Shape(masks.prf(scope)))),
          Map.entry("digits", (masks, scope) -> new Digits(new Shape(masks.prf(scope)), false)),
          Map.entry("coordinate", (masks, scope) -> new Digits(new Shape(masks.prf(scope)), true)),
          Map.entry("given-name", (masks, scope) -> masks.names(scope, GivenNames.load())),
          Map.entry("family-name", (masks, scope) -> masks.names(scope, FamilyNames.load())),
          Map.entry("full-name", (masks, scope) -> masks.fullName()),
          Map.entry("email", (masks, scope) -> masks.email(scope)),
          Map.entry("username", (masks, scope) -> masks.username(scope)),
          Map.entry("phone", (masks, scope) -> new Phone(masks.prf(scope), masks.shape())),
          Map.entry("birth-date", (masks, scope) -> masks.birthDate(scope)),
          Map.entry("age", (masks, scope) -> new Age(masks.prf(scope), masks.shape())),
          Map.entry("street-address", (masks, scope) -> Places.streets(masks.prf(scope))),
          Map.entry("city", (masks, scope) -> Places.towns(masks.prf(scope))),
          Map.entry("card-number", (masks, scope) -> masks.cardNumber(scope)),
          Map.entry(
              "card-expiry", (masks, scope) -> new CardExpiry(masks.prf(scope), masks.shape())),
          Map.entry("iban", (masks, scope) -> new Iban(masks.prf(scope), masks.shape())),
          Map.entry("national-id", (masks, scope) -> masks.nationalId(scope)),
          Map.entry("ip-address", (masks, scope) -> new IpAddress(masks.prf(scope))),
          Map.entry(
              "password-hash", (masks, scope) -> new PasswordHash(new Shape(masks.prf(scope)))),
          Map.entry("note", (masks, scope) -> new FreeText(masks)),
          Map.entry("json", (masks, scope) -> new JsonText(masks, Map.of())));

  private final SecretKey key;
  private final LocalDate asOf;
  private final Kinds kinds;
  private final Map<String, Mask> made = new HashMap<>();

  /** With the kinds that ship with the tool. */
  public Masks(SecretKey key, LocalDate asOf) {
    this(key, asOf, Kinds.BUILT_IN);
  }

  /**
   * @param asOf the day that ages are counted at
   * @param kinds all kinds that are known
   */
  public Masks(SecretKey key, LocalDate asOf, Kinds kinds) {
    this.key = key;
    this.asOf = asOf;
    this.kinds = kinds;
  }

  /** The mask of a kind, or, for an empty name, the one that keeps nothing but the shape. */
  public Mask of(String kind) {
    Mask mask = made.get(kind);
    if (mask == null) {
      mask = kind.isEmpty() ? shape() : made(kinds.known(kind));
      made.put(kind, mask);
    }
    return mask;
  }

  /** A kind that is masked as another one is masked in that one's scope, so that the two agree. */
  private Mask made(Kind kind) {
    String as = kinds.maskedAs(kind.name());
    return as.equals(kind.name()) ? made(kind.mask(), kind.name()) : of(as);
  }

  private Mask made(String mask, String scope) {
    return mask.startsWith(LIST)
        ? new FromList(prf(scope), mask.substring(LIST.length()), shape())
        : MAKERS.get(mask).apply(this, scope);
  }

  /** The mask of a kind, or of an empty name, for values of any type. */
  public ValueMask values(String kind) {
    return values(of(kind));
  }

  /** A mask of texts for values of any type. */
  public ValueMask values(Mask mask) {
    return new ValueMask(mask, shape());
  }

  /** The mask of JSON with some known paths, see {@link JsonText}. */
  public JsonText json(Map<String, String> paths) {
    return new JsonText(this, paths);
  }

  private Prf prf(String scope) {
    return key.prf(scope);
  }

  private Shape shape() {
    Mask shape = made.get("");
    if (shape == null) {
      shape = new Shape(prf(Kinds.SHAPE));
      made.put("", shape);
    }
    return (Shape) shape;
  }

  private Names names(String scope, Names.Vocabulary vocabulary) {
    return new Names(prf(scope), vocabulary);
  }

  private Mask fullName() {
    return new FullName((Names) of("given-name"), (Names) of("family-name"));
  }

  private Email email(String scope) {
    return new Email(prf(scope), (Names) of("given-name"), (Names) of("family-name"), shape());
  }

  private Mask username(String scope) {
    return new Username(prf(scope), (Email) of("email"));
  }

  private Mask birthDate(String scope) {
    return new BirthDate(prf(scope), asOf, shape());
  }

  private Mask cardNumber(String scope) {
    return CardNumber.ofCards(prf(scope), shape());
  }

  private Mask nationalId(String scope) {
    return CardNumber.ofIds(prf(scope), new Shape(prf(scope + "/other")));
  }
}
