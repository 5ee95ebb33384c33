package yemble.core.mask;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;

/**
 * The masks of one thread, each made once. Masks that are made of others (an e-mail of names) take
 * these others from here, in the scopes of their own kinds: so they agree wherever they stand.
 */
public final class Masks {
  private final SecretKey key;
  private final LocalDate asOf;
  private final Map<String, Mask> made = new HashMap<>();

  /**
   * @param asOf the day that ages are counted at
   */
  public Masks(SecretKey key, LocalDate asOf) {
    this.key = key;
    this.asOf = asOf;
  }

  /** The mask of a kind, or, for an empty name, the one that keeps nothing but the shape. */
  public Mask of(String kind) {
    Mask mask = made.get(kind);
    if (mask == null) {
      mask = kind.isEmpty() ? shape() : Kinds.of(kind).orElseThrow().mask().apply(this);
      made.put(kind, mask);
    }
    return mask;
  }

  /** The mask of a kind, or of an empty name, for values of any type. */
  public ValueMask values(String kind) {
    return new ValueMask(of(kind), (Shape) of(""));
  }

  private Prf prf(String scope) {
    return key.prf(scope);
  }

  Shape shape() {
    return new Shape(prf(Kinds.SHAPE));
  }

  Names givenName() {
    return new Names(prf("given-name"), GivenNames.load());
  }

  Names familyName() {
    return new Names(prf("family-name"), FamilyNames.load());
  }

  Mask fullName() {
    return new FullName((Names) of("given-name"), (Names) of("family-name"));
  }

  Email email() {
    return new Email(
        prf("email"), (Names) of("given-name"), (Names) of("family-name"), (Shape) of(""));
  }

  Mask gender() {
    return new Stays();
  }

  Mask phone() {
    return new Phone(prf("phone"), (Shape) of(""));
  }

  Mask birthDate() {
    return new BirthDate(prf("birth-date"), asOf, (Shape) of(""));
  }

  Mask streetAddress() {
    return Places.streets(prf("street-address"));
  }

  Mask city() {
    return Places.towns(prf("city"));
  }

  Mask postcode() {
    return new Shape(prf("postcode"));
  }

  Mask cardNumber() {
    return CardNumber.ofCards(prf("card-number"), (Shape) of(""));
  }

  Mask iban() {
    return new Iban(prf("iban"), (Shape) of(""));
  }

  Mask nationalId() {
    return CardNumber.ofIds(prf("national-id"), new Shape(prf("national-id/other")));
  }

  Mask vehiclePlate() {
    return new Shape(prf("vehicle-plate"));
  }

  Mask username() {
    return new Username(prf("username"), (Email) of("email"));
  }

  Mask passwordHash() {
    return new PasswordHash(new Shape(prf("password-hash")));
  }

  FreeText note() {
    return new FreeText(this);
  }

  Mask json() {
    return new JsonText(this, Map.of());
  }

  /** The mask of JSON with some known paths, see {@link JsonText}. */
  public JsonText json(Map<String, String> paths) {
    return new JsonText(this, paths);
  }

  /** A mask of texts for values of any type. */
  public ValueMask values(Mask mask) {
    return new ValueMask(mask, (Shape) of(""));
  }
}
