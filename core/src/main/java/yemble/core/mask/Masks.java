package yemble.core.mask;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Supplier;
import yemble.core.crypto.Keying;
import yemble.core.crypto.Prf;
import yemble.core.crypto.SecretKey;
import yemble.core.crypto.Trace;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.mask.contact.Email;
import yemble.core.mask.contact.Phone;
import yemble.core.mask.contact.Username;
import yemble.core.mask.contact.WebAddress;
import yemble.core.mask.device.Device;
import yemble.core.mask.device.HexDigits;
import yemble.core.mask.device.IpAddress;
import yemble.core.mask.device.VehicleNumber;
import yemble.core.mask.health.BloodGroup;
import yemble.core.mask.health.DiagnosisCode;
import yemble.core.mask.money.Amount;
import yemble.core.mask.money.BankAccount;
import yemble.core.mask.money.BankCode;
import yemble.core.mask.money.CardExpiry;
import yemble.core.mask.money.CardNumber;
import yemble.core.mask.money.Iban;
import yemble.core.mask.person.Age;
import yemble.core.mask.person.BirthDate;
import yemble.core.mask.person.FamilyNames;
import yemble.core.mask.person.FullName;
import yemble.core.mask.person.GivenNames;
import yemble.core.mask.person.Names;
import yemble.core.mask.person.OfficialNumber;
import yemble.core.mask.person.OfficialNumbers;
import yemble.core.mask.place.CountryCode;
import yemble.core.mask.place.Places;
import yemble.core.mask.place.Postcode;
import yemble.core.mask.secret.PasswordHash;
import yemble.core.mask.shape.Digits;
import yemble.core.mask.shape.Shape;
import yemble.core.mask.step.DateShift;
import yemble.core.mask.step.Making;
import yemble.core.mask.step.MaskStep;
import yemble.core.mask.step.Replace;
import yemble.core.mask.step.Shift;
import yemble.core.mask.text.FreeText;
import yemble.core.mask.text.JsonText;
import yemble.core.row.Blanks;
import yemble.core.row.Empty;

/**
 * The masks of one thread, each made once. Masks that are made of others (an e-mail of names) take
 * these others from here, in the scopes of their own kinds: so they agree wherever they stand.
 *
 * <p>A rule of the project may put other masks in the place of a kind's own, and may set a scope of
 * its own, another key in each run, or a column that stands in for the values: then all that the
 * mask is made of is made anew {@linkplain #within within} that scope, under that key.
 */
public final class Masks {
  /** The list whose short entries are codes of countries. */
  private static final String OF_COUNTRIES = "nationalities";

  /** The list whose codes are those of illnesses. */
  private static final String OF_DIAGNOSES = "diagnoses";

  /** What makes each mask, by its name, for the scope of a kind. */
  private static final Map<String, BiFunction<Masks, String, Mask>> MAKERS =
      Map.ofEntries(
          Map.entry("stays", (masks, scope) -> new Stays()),
          Map.entry(Kinds.SHAPE, (masks, scope) -> masks.shape()),
          Map.entry("own-shape", (masks, scope) -> masks.own(scope)),
          Map.entry("hex", (masks, scope) -> new HexDigits(masks.own(scope))),
          Map.entry("digits", (masks, scope) -> new Digits(masks.own(scope), false)),
          Map.entry("coordinate", (masks, scope) -> new Digits(masks.own(scope), true)),
          Map.entry("given-name", (masks, scope) -> masks.names(scope, GivenNames.load())),
          Map.entry("family-name", (masks, scope) -> masks.names(scope, FamilyNames.load())),
          Map.entry("full-name", (masks, scope) -> masks.fullName(false)),
          Map.entry("name-family-first", (masks, scope) -> masks.fullName(true)),
          Map.entry("email", (masks, scope) -> masks.email(scope, "")),
          Map.entry("username", (masks, scope) -> masks.username(scope)),
          Map.entry(
              "phone",
              (masks, scope) ->
                  new Phone(
                      masks.prf(scope),
                      masks.shape(),
                      masks.terms.countries(),
                      masks.settings(scope).isUndialable())),
          Map.entry("birth-date", (masks, scope) -> masks.birthDate(scope)),
          Map.entry("age", (masks, scope) -> new Age(masks.prf(scope), masks.shape())),
          Map.entry("street-address", (masks, scope) -> Places.streets(masks.prf(scope))),
          Map.entry("postcode", (masks, scope) -> new Postcode(masks.prf(scope), masks.shape())),
          Map.entry("city", (masks, scope) -> Places.towns(masks.prf(scope))),
          Map.entry(
              "blood-group", (masks, scope) -> new BloodGroup(masks.prf(scope), masks.shape())),
          Map.entry("card-number", (masks, scope) -> masks.cardNumber(scope)),
          Map.entry(
              "card-expiry", (masks, scope) -> new CardExpiry(masks.prf(scope), masks.shape())),
          Map.entry("iban", (masks, scope) -> new Iban(masks.prf(scope), masks.shape())),
          Map.entry(
              "bank-account",
              (masks, scope) -> new BankAccount(masks.own(scope), masks.of("iban"))),
          Map.entry("national-id", (masks, scope) -> masks.nationalId(scope)),
          Map.entry("vehicle-number", (masks, scope) -> new VehicleNumber(masks.own(scope))),
          Map.entry("bank-code", (masks, scope) -> new BankCode(masks.own(scope))),
          Map.entry("device", (masks, scope) -> new Device(masks.prf(scope), false)),
          Map.entry("mac-address", (masks, scope) -> new Device(masks.prf(scope), true)),
          Map.entry("amount", (masks, scope) -> new Amount(masks.prf(scope), masks.own(scope))),
          Map.entry("ip-address", (masks, scope) -> new IpAddress(masks.prf(scope))),
          Map.entry(
              "password-hash",
              (masks, scope) ->
                  new PasswordHash(masks.prf(scope), PasswordHash.USUAL, masks.own(scope))),
          Map.entry(Kinds.TEXT, (masks, scope) -> masks.text()),
          Map.entry(Kinds.JSON, (masks, scope) -> masks.json(Map.of(), null)));

  private final Terms terms;
  private final SecretKey key;
  private final String scope;
  private final Keying keying;
  private final Function<String, Trace> traces;
  private final Map<String, Mask> made = new HashMap<>();
  private final Map<MaskRule, Masks> within = new HashMap<>();
  private Masks sparing;
  private Shape shape;
  private FreeText text;

  /**
   * What masks are made under.
   *
   * @param key the project's
   * @param fresh of this run alone
   * @param asOf the day that ages are counted at
   * @param kinds all that are known
   * @param rules of the project for kinds, by the name of the kind
   * @param countries whose official numbers there are, by their codes of ISO 3166; empty for all
   * @param stores what tokens are made under, by their stores
   * @param learned names that are known beside those of the vocabularies
   */
  public record Terms(
      SecretKey key,
      SecretKey fresh,
      LocalDate asOf,
      Kinds kinds,
      Map<String, MaskRule> rules,
      Set<String> countries,
      Map<String, SecretKey> stores,
      LearnedNames learned) {
    /** Without token stores and learned names. */
    public Terms(
        SecretKey key,
        SecretKey fresh,
        LocalDate asOf,
        Kinds kinds,
        Map<String, MaskRule> rules,
        Set<String> countries) {
      this(key, fresh, asOf, kinds, rules, countries, Map.of(), LearnedNames.NONE);
    }

    /** The same under other rules of kinds. */
    Terms under(Map<String, MaskRule> others, Kinds known) {
      return new Terms(key, fresh, asOf, known, others, countries, stores, learned);
    }

    /** The same with token stores. */
    public Terms with(Map<String, SecretKey> keys) {
      return new Terms(key, fresh, asOf, kinds, rules, countries, keys, learned);
    }

    /** The same with learned names. */
    public Terms knowing(LearnedNames names) {
      return new Terms(key, fresh, asOf, kinds, rules, countries, stores, names);
    }

    public Terms {
      stores = Map.copyOf(stores);
      countries = Set.copyOf(countries);
      rules = Map.copyOf(rules);
    }
  }

  /** The names of all masks that a kind can have, but for those of lists. */
  public static Set<String> names() {
    return MAKERS.keySet();
  }

  /** Whether a mask of a name makes telephone numbers. */
  public static boolean makesPhones(String mask) {
    return mask.equals("phone");
  }

  /** All kinds that are known. */
  public Kinds kinds() {
    return terms.kinds();
  }

  /** The day that ages are counted at. */
  public LocalDate asOf() {
    return terms.asOf();
  }

  /** With the kinds that ship with the tool. */
  public Masks(SecretKey key, LocalDate asOf) {
    this(key, asOf, Kinds.BUILT_IN);
  }

  /**
   * @param asOf the day that ages are counted at
   * @param kinds all kinds that are known
   */
  public Masks(SecretKey key, LocalDate asOf, Kinds kinds) {
    this(new Terms(key, key, asOf, kinds, Map.of(), Set.of()));
  }

  public Masks(Terms terms) {
    this(terms, null);
  }

  /**
   * @param traces makes who is told what the functions of a scope are asked; of null nobody is
   */
  public Masks(Terms terms, Function<String, Trace> traces) {
    this(terms, terms.key(), "", null, traces);
  }

  private Masks(
      Terms terms, SecretKey key, String scope, Keying keying, Function<String, Trace> traces) {
    this.traces = traces;
    this.terms = terms;
    this.key = key;
    this.scope = scope;
    this.keying = keying;
  }

  /**
   * The mask of a kind, or, for an empty name, the one that keeps nothing but the shape; under the
   * project's rule for the kind, if there is one.
   */
  public Mask of(String kind) {
    Mask mask = made.get(kind);
    if (mask == null) {
      MaskRule rule = terms.rules().getOrDefault(kind, MaskRule.NONE);
      boolean apart = isOutermost() && within(rule) != this;
      mask = apart ? of(kind, rule) : made(kind, rule);
      made.put(kind, mask);
    }
    return mask;
  }

  /**
   * The mask of a kind under a rule, which reads nothing but the value, see {@link
   * MaskRule#readsRow}, or whose {@link #within within} has been told what stands in for it.
   */
  public Mask of(String kind, MaskRule rule) {
    if (rule.isSpared()) {
      return sparing().of(kind, rule.sparing());
    }
    Masks masks = within(rule);
    return rule.steps().isEmpty() && masks == this ? of(kind) : masks.made(kind, rule);
  }

  /** The same where no kind is fresh in each run or cleared. */
  private Masks sparing() {
    if (sparing == null) {
      Map<String, MaskRule> rules = new HashMap<>();
      List<Kind> own = new ArrayList<>();
      terms
          .rules()
          .forEach(
              (kind, rule) -> {
                rules.put(kind, rule.sparing());
                if (!kind.isEmpty()
                    && !rule.steps().isEmpty()
                    && rule.sparing().steps().isEmpty()) {
                  own.add(asItself(terms.kinds().known(kind)));
                }
              });
      boolean same = terms.rules().equals(rules);
      sparing =
          same
              ? this
              : new Masks(terms.under(rules, terms.kinds().with(own)), key, scope, keying, traces);
    }
    return sparing;
  }

  /** A kind with the mask that it has without a rule. */
  private static Kind asItself(Kind kind) {
    return Kinds.BUILT_IN
        .of(kind.name())
        .orElseGet(() -> kind.masked("own-shape", kind.becomes(), kind.origin()));
  }

  /** The masks that hold within a rule's scope, under its key: these, if it names none. */
  public Masks within(MaskRule rule) {
    if (rule.scope().isEmpty() && rule.keyedBy().isEmpty() && !rule.isFresh()) {
      return this;
    }
    return within.computeIfAbsent(
        rule,
        r ->
            new Masks(
                terms,
                r.isFresh() ? terms.fresh() : terms.key(),
                r.scope(),
                r.keyedBy().isEmpty() ? null : new Keying(),
                traces));
  }

  /** The same masks, made once more: for another thread, or to see that they are the same. */
  public Masks again() {
    return new Masks(terms);
  }

  /** What stands in for values here; null if nothing does. */
  public Keying keying() {
    return keying;
  }

  private boolean isOutermost() {
    return scope.isEmpty() && keying == null && key == terms.key();
  }

  private Mask made(String kind, MaskRule rule) {
    List<MaskStep> steps = rule.steps();
    if (steps.isEmpty()) {
      return kind.isEmpty() ? shape() : made(terms.kinds().known(kind));
    }
    if (kind.equals(Kinds.TEXT) && steps.stream().allMatch(step -> step.sort().sets(kind))) {
      return text(steps);
    }
    List<Mask> masks = new ArrayList<>();
    for (MaskStep step : steps) {
      masks.add(step.mask(making(kind, step, rule.settings())));
    }
    return masks.size() == 1 ? masks.get(0) : new Chain(masks);
  }

  private Making making(String kind, MaskStep step, Settings settings) {
    return new Making() {
      @Override
      public String kind() {
        return kind;
      }

      @Override
      public Prf prf() {
        return stepPrf(kind, step);
      }

      @Override
      public Shape shape() {
        return Masks.this.shape();
      }

      @Override
      public Settings settings() {
        return settings;
      }

      @Override
      public Masks masks() {
        return Masks.this;
      }
    };
  }

  /**
   * The mask of a kind in a rule of another one, or of the same, whose own rule it is then not
   * under.
   *
   * @param wanted the kind; empty for the shape
   */
  public Mask as(String wanted, String kind) {
    return wanted.equals(kind) && !kind.isEmpty()
        ? made(Kinds.BUILT_IN.of(kind).orElseGet(() -> terms.kinds().known(kind)))
        : of(wanted);
  }

  /** E-mail addresses as their kind has them, at a domain of the user's. */
  public Mask emailAt(String domain) {
    return email("email", domain);
  }

  /**
   * The key of a token store. Where none is open, as nobody needs that, one of this process alone
   * stands in.
   */
  public SecretKey keyOf(String store) {
    return terms.stores().getOrDefault(store, terms.fresh());
  }

  /** The masks of the kinds alone, under another key. */
  public Masks under(SecretKey other) {
    return new Masks(
        new Terms(other, other, terms.asOf(), terms.kinds(), Map.of(), terms.countries()));
  }

  /** What moves dates, for those who know by how much, and between what they stay. */
  public DateShift shift(String kind, Shift shift, Settings settings) {
    return shift.mask(making(kind, shift, settings));
  }

  /** Under the user's scope, if there is one; else the kind's, or without a kind the step's. */
  private Prf stepPrf(String kind, MaskStep step) {
    String own = kind.isEmpty() ? step.words() : kind;
    return function(scope.isEmpty() ? own : scope);
  }

  /** A kind that is masked as another one is masked in that one's scope, so that the two agree. */
  private Mask made(Kind kind) {
    String as = terms.kinds().maskedAs(kind.name());
    return as.equals(kind.name()) ? made(kind.mask(), kind.name()) : of(as);
  }

  private Mask made(String mask, String kind) {
    if (mask.isEmpty()) {
      return shape();
    }
    if (!mask.startsWith(Kind.LIST)) {
      return MAKERS.get(mask).apply(this, kind);
    }
    String list = mask.substring(Kind.LIST.length());
    Mask codes =
        list.equals(OF_COUNTRIES)
            ? new CountryCode(prf("country"), shape())
            : list.equals(OF_DIAGNOSES) ? new DiagnosisCode(prf(kind), shape()) : shape();
    return new FromList(prf(kind), list, codes);
  }

  /** The mask of a kind, or of an empty name, for values of any type. */
  public ValueMask values(String kind) {
    return values(of(kind));
  }

  /** A mask of texts for values of any type. */
  public ValueMask values(Mask mask) {
    return values(mask, Set.of());
  }

  /**
   * The same for some cells without a value, too.
   *
   * @param also what else is masked, as if it were the empty text
   */
  public ValueMask values(Mask mask, Set<Empty> also) {
    return new ValueMask(mask, shape(), Blanks.of(also));
  }

  /** The mask of free text that is told what it may mention. */
  public FreeText text() {
    if (text == null) {
      text = text(terms.rules().getOrDefault(Kinds.TEXT, MaskRule.NONE).steps());
    }
    return text;
  }

  /**
   * The same with replacements of the user's own.
   *
   * @param steps those that say them, among others
   */
  public FreeText text(List<MaskStep> steps) {
    OfficialNumbers numbers = officialNumbers("national-id");
    return new FreeText(
        this,
        Replace.together(steps),
        new WebAddress(email("email", ""), shape()),
        text -> numbers.isTelling(OfficialNumber.compact(text)),
        text -> Phone.isNational(text, terms.countries()));
  }

  /**
   * The mask of JSON with some known paths.
   *
   * @param paths the mask of each
   * @param stop makes what is thrown at a value of another path; null if that is only counted
   */
  public JsonText json(Map<String, Mask> paths, Supplier<RuntimeException> stop) {
    return new JsonText(paths, shape(), stop);
  }

  /** The mask of what is to stay. */
  public static Mask staying() {
    return new Stays();
  }

  /** What the project says of a kind, for all its columns alike. */
  private Settings settings(String kind) {
    return terms.rules().getOrDefault(kind, MaskRule.NONE).settings();
  }

  private Prf prf(String kind) {
    return function(scope.isEmpty() ? kind : scope + "/" + kind);
  }

  private Prf function(String of) {
    return key.prf(of, keying, traces == null ? null : traces.apply(of));
  }

  private Shape shape() {
    if (shape == null) {
      shape = new Shape(prf(Kinds.SHAPE));
    }
    return shape;
  }

  private Shape own(String scope) {
    return new Shape(prf(scope));
  }

  /** What a day becomes as a birth date, wherever it stands. */
  private LocalDate born(LocalDate day) {
    Mask births = of("birth-date");
    if (births instanceof BirthDate dates) {
      return dates.masked(day);
    }
    try {
      return LocalDate.parse(births.apply(day.toString()));
    } catch (DateTimeException noDay) {
      return day;
    }
  }

  private Names names(String scope, Names.Vocabulary vocabulary) {
    return new Names(prf(scope), vocabulary);
  }

  private Mask fullName(boolean familyFirst) {
    return new FullName(familyFirst, Names.word(of("given-name")), Names.word(of("family-name")));
  }

  private Email email(String scope, String domain) {
    return new Email(
        domain,
        prf(scope),
        Names.word(of("given-name")),
        Names.word(of("family-name")),
        shape(),
        settings("email").loginLength(),
        terms.learned().known(LearnedNames.prints(terms.key())));
  }

  private Mask username(String scope) {
    return new Username(
        prf(scope), email("email", ""), of("email"), settings("username").loginLength());
  }

  private Mask birthDate(String scope) {
    return new BirthDate(prf(scope), terms.asOf(), shape());
  }

  private Mask cardNumber(String scope) {
    return CardNumber.ofCards(prf(scope), shape());
  }

  private Mask nationalId(String scope) {
    return new OfficialNumber(
        officialNumbers(scope), CardNumber.ofIds(prf(scope), own(scope + "/other")));
  }

  private OfficialNumbers officialNumbers(String scope) {
    return new OfficialNumbers(prf(scope), terms.asOf(), terms.countries(), this::born);
  }
}
