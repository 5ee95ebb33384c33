package yemble.core.survey;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.kind.TypeSort;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.Conventions;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.recognition.Hits;
import yemble.core.recognition.Looks;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.wording.Sentence;

/**
 * Weighs what speaks for each kind.
 *
 * <p>A kind's confidence is 1 - (1 - n)(1 - v): n is how strongly the name speaks for it, taken
 * back as far as the values do not bear it out; v is how telling its check is times the share of
 * the sample that it knows, and less for what it holds for possible. Figures of the whole column
 * (spread of days, range of numbers, how many are different) and the table around it take back what
 * would be said of a person too easily. The weights of each kind stand in {@code kinds.yaml}.
 */
final class Weigher {
  /** From one value in so many on, a format is what the column is. */
  private static final int SOME_FORMATS = 5;

  private static final int FEW_NAMES = 5;
  private static final int MOSTLY = 4;
  private static final double TOLD = 0.05;

  static final double SURE = 0.8;
  static final double NAMED = 0.5;
  private static final double SUGGESTED = 0.5;
  private static final double KEPT = 0.95;
  private static final double CODES = 0.7;
  private static final double LEAST = 0.1;
  private static final int FEW = 5;
  private static final int MOST_OTHERS = 4;
  private static final double BY_NAME = 0.15;
  private static final double TELLING_REFUSALS = 0.1;
  private static final double KEY_NUMBER = 0.4;
  private static final double STRONG = 0.8;
  private static final double CLAIMS = 0.7;
  private static final double BESIDE_A_CLAIM = 0.5;
  private static final double OF_THINGS = 0.3;
  private static final double OF_THINGS_BUT_STRONG = 0.9;
  private static final double OF_ANOTHER_THING = 0.5;
  private static final double FEW_DIFFERENT = 0.5;
  private static final double COMMENT = 0.85;
  private static final double KNOWN_ENOUGH = 0.85;
  private static final double ADULT_MEDIAN = 12;
  private static final double SPREAD = 10;
  private static final double LONG_SPREAD = 35;
  private static final double NEARLY = 0.7;
  private static final double ANOTHER_THING = 0.3;
  private static final double COUNTED = 0.2;
  private static final double BY_VALUES = 0.61;
  private static final double BY_VALUES_LEAST = 0.55;
  private static final double LIFT = 0.6;
  private static final double CONSIDERED = 0.3;
  private static final double CONSIDERED_OF_PEOPLE = 0.15;
  private static final double SHOWN = 0.2;
  private static final int SOME_LOGINS = 4;
  private static final double HOLDING = 0.4;
  private static final double NEARLY_ALL = 0.97;
  private static final int MOST_CODES = 8;
  private static final double PLAIN_DIGITS = 0.5;
  private static final double ATTRIBUTE_OF_THINGS = 0.5;

  private final Checks checks;
  private final Conventions conventions;
  private final String database;

  Weigher(Checks checks, Conventions conventions, String database) {
    this.checks = checks;
    this.conventions = conventions;
    this.database = database;
  }

  /** One column, or one path inside it, with everything that is known of it. */
  record Subject(
      Table table,
      Column column,
      String path,
      String called,
      String comment,
      ColumnSample sample,
      Surroundings around) {}

  /** What was said for one kind. */
  private record Case(Kind kind, double confidence, NameEvidence.Said name) {}

  Finding weigh(Subject subject, int examples) {
    TypeSort sort = subject.path().isEmpty() ? TypeSort.of(subject.column().type()) : TypeSort.TEXT;
    Map<String, NameEvidence.Said> said = new LinkedHashMap<>(checks.names().of(subject.called()));
    if (subject.path().isEmpty() && (sort == TypeSort.TEXT || sort == TypeSort.UUID)) {
      checks
          .names()
          .ofBare(subject.table().name().name(), subject.called())
          .forEach(
              (kind, by) -> said.merge(kind, by, (a, b) -> a.strength() >= b.strength() ? a : b));
    }
    if (subject.path().isEmpty()) {
      checks
          .names()
          .ofEnd(subject.called())
          .forEach(
              (kind, by) -> said.merge(kind, by, (a, b) -> a.strength() >= b.strength() ? a : b));
    }
    if (!subject.comment().isEmpty()) {
      checks
          .names()
          .of(subject.comment())
          .forEach(
              (kind, by) ->
                  said.merge(
                      kind, by.inComment(COMMENT), (a, b) -> a.strength() >= b.strength() ? a : b));
    }
    narrow(said, subject);
    List<Case> cases = new ArrayList<>();
    for (Kind kind : checks.kinds().all()) {
      boolean suits = kind.suits(sort) || subject.sample().inBytes() > 0;
      if (!suits || isOff(kind, subject.table().name())) {
        continue;
      }
      double confidence = confidence(kind, said.get(kind.name()), subject, sort);
      if (confidence >= LEAST) {
        cases.add(new Case(kind, confidence, said.get(kind.name())));
      }
    }
    cases.sort(Comparator.comparingDouble(Case::confidence).reversed());
    return finding(subject, sort, cases, examples);
  }

  private boolean isOff(Kind kind, TableName table) {
    return conventions.off().stream().anyMatch(off -> off.covers(kind, database, table));
  }

  /** Takes back what a name says of one kind where it says more of another. */
  private void narrow(Map<String, NameEvidence.Said> said, Subject subject) {
    Kinds kinds = checks.kinds();
    for (Kind kind : kinds.all()) {
      for (Traits.Yield yield : kind.traits().weighing().yields()) {
        if (yield.to().entrySet().stream()
            .anyMatch(to -> strength(said, to.getKey()) > to.getValue())) {
          weaken(said, kind.name(), isStrong(said, kind) ? yield.strong() : yield.keeps());
        }
      }
    }
    for (Kind more : kinds.all()) {
      if (more.traits().weighing().claims() && strength(said, more.name()) > CLAIMS) {
        said.replaceAll(
            (less, by) -> kinds.traits(less).weighing().givesWay() ? by.times(BESIDE_A_CLAIM) : by);
      }
    }
    if (isKeyNumber(subject)) {
      said.replaceAll((kind, by) -> by.times(KEY_NUMBER));
    }
    boolean things =
        NameWords.of(subject.called()).stream()
            .anyMatch(w -> NameWords.isThings(w) && !NameWords.isPeople(w));
    if (things || isAnotherThing(subject)) {
      double strong = isAnotherThing(subject) ? OF_ANOTHER_THING : OF_THINGS_BUT_STRONG;
      for (Kind kind : kinds.all()) {
        if (kind.traits().part() != Traits.Part.NONE) {
          weaken(said, kind.name(), isStrong(said, kind) ? strong : OF_THINGS);
        }
      }
    }
  }

  private static boolean isStrong(Map<String, NameEvidence.Said> said, Kind kind) {
    return strength(said, kind.name()) > STRONG;
  }

  /** Whether a column is a number called an id that rows are known by: the database's own. */
  private static boolean isKeyNumber(Subject subject) {
    List<String> words = NameWords.split(subject.called());
    return subject.path().isEmpty()
        && TypeSort.of(subject.column().type()) == TypeSort.NUMBER
        && !words.isEmpty()
        && words.get(words.size() - 1).equals("id")
        && subject.table().primaryKey().contains(subject.column().name());
  }

  private static double strength(Map<String, NameEvidence.Said> said, String kind) {
    NameEvidence.Said by = said.get(kind);
    return by == null ? 0 : by.strength();
  }

  private static void weaken(Map<String, NameEvidence.Said> said, String kind, double share) {
    said.computeIfPresent(kind, (k, by) -> by.times(share));
  }

  private double confidence(Kind kind, NameEvidence.Said said, Subject subject, TypeSort sort) {
    ColumnSample sample = subject.sample();
    double n = said == null ? 0 : said.strength();
    double byName = n;
    double v = 0;
    if (sample.values() > 0) {
      Hits hits = sample.hits(kind.name());
      Conventions.Rule rule = checks.rule(kind.name());
      if (rule != null && rule.seesValues() && hits != null) {
        double share = (double) hits.known() / sample.values();
        double enough = share >= rule.atLeast() ? 1 : 0;
        return enough * Math.max(0.9, n);
      }
      if (hits != null) {
        double known = (double) hits.known() / sample.values();
        double possible = (double) hits.possible() / sample.values();
        double nearly =
            (double) hits.refused().values().stream().mapToLong(Long::longValue).sum()
                / sample.values();
        double borne = Math.min(1, 1.15 * (known + possible + NEARLY * nearly));
        n *= kind.look().without() + (1 - kind.look().without()) * borne;
        v =
            kind.look().telling() * Math.min(1, known / KNOWN_ENOUGH)
                + kind.look().likely() * possible;
        if (kind.look().named() && n < BY_NAME) {
          v = 0;
        }
        v *= n < BY_NAME && (isAnotherThing(subject) || isEvent(kind, subject)) ? ANOTHER_THING : 1;
        if (kind.traits().weighing().given() && n < SUGGESTED && sample.isNumbered()) {
          v *= COUNTED;
        }
        if (kind.original().form() == Kind.Form.PHONE
            && sample.arePlainDigits()
            && !subject.around().isPeople()) {
          v *= PLAIN_DIGITS;
        }
        boolean byItself =
            kind.traits().part() == Traits.Part.FULL || kind.original().form() == Kind.Form.LOGIN;
        if (byItself && known >= BY_VALUES_LEAST) {
          byName = Math.max(byName, BY_VALUES);
        }
        v *= hits.sort().equals(Looks.SHORT_YEARS) && known < NEARLY_ALL ? 0 : 1;
        v *= sample.values() < FEW ? (double) sample.values() / FEW : 1;
        v *= kind.look().many() && isFew(sample) ? FEW_DIFFERENT : 1;
      }
    }
    double figures = figures(kind.traits().weighing().figures(), sample);
    if (sort == TypeSort.FLAG) {
      v = 0;
    }
    double confidence =
        1 - (1 - Math.min(1, n * Math.min(1, figures))) * (1 - Math.min(1, v * figures));
    boolean attribute =
        subject.around().isThings()
            && kind.traits().weighing().onlyPeople()
            && kind.original().form() == Kind.Form.NONE;
    return lifted(
        kind,
        subject,
        confidence * around(kind, subject, byName) * (attribute ? ATTRIBUTE_OF_THINGS : 1));
  }

  /** In a table that is about people what is likely of a person is likelier. */
  private static double lifted(Kind kind, Subject subject, double confidence) {
    boolean ofPeople = kind.person() || kind.traits().weighing().onlyPeople();
    return ofPeople && subject.around().isPeople() && !isAnotherThing(subject)
        ? confidence + LIFT * confidence * (1 - confidence)
        : confidence;
  }

  /** Whether the name says that something happened on a day, which is no birthday then. */
  private static boolean isEvent(Kind kind, Subject subject) {
    return kind.traits().weighing().figures().of() == Traits.Figures.Of.BIRTHDAYS
        && NameWords.split(subject.called()).stream().anyMatch(NameWords::isEvent);
  }

  /** Whether the name says that something of its own is numbered, named or described. */
  private static boolean isAnotherThing(Subject subject) {
    return NameWords.of(subject.called()).stream().anyMatch(NameWords::isOther);
  }

  /**
   * Whether a column of numbers, days or flags in a table about people is no attribute of theirs: a
   * key, a reference, when or how often something happened, how much it was, or whether it is so.
   */
  private static boolean isOrdinary(Subject subject, TypeSort sort) {
    List<String> words = NameWords.split(subject.called());
    ColumnSample sample = subject.sample();
    return subject.around().isLinked(subject.column().name())
        || words.contains("id")
        || words.stream().anyMatch(NameWords::isEvent)
        || sort == TypeSort.FLAG
        || (sample.different() == 2
            && sample.least() == 0
            && sample.most() == 1
            && words.stream().anyMatch(w -> NameWords.isReadable(w) || NameWords.isSort(w)))
        || sample.values() == 0
        || sample.different() <= 1;
  }

  /** Whether few different values come again and again, which tells of codes and tests. */
  private static boolean isFew(ColumnSample sample) {
    return sample.values() > 50 && sample.different() <= MOST_CODES;
  }

  /** What the table around leaves of the confidence. */
  private static double around(Kind kind, Subject subject, double byName) {
    return kind.name().equals(Kinds.TEXT)
        ? aroundText(kind.traits().weighing(), subject, byName)
        : kind.traits().weighing().around(subject.around().share(), byName);
  }

  /** Texts are the more personal the more they mention, and less a note if they are of health. */
  private static double aroundText(Traits.Weighing weighing, Subject subject, double byName) {
    double share = subject.around().share();
    ColumnSample sample = subject.sample();
    double mentions = sample.values() == 0 ? 0 : (double) sample.mentioning() / sample.values();
    double repeated = sample.values() > 20 && sample.distinctness() < 0.2 && byName < 0.5 ? 0.5 : 1;
    Hits narrower = sample.hits(weighing.narrower());
    boolean rather = narrower != null && narrower.known() > 0.6 * sample.values() && share > 0.4;
    return (rather ? 0.75 : 1)
        * Math.min(1, (share < 0.4 ? 0.45 : share < 0.8 ? 0.75 : 1) + 5 * mentions)
        * (mentions > 0.02 ? 1 : repeated);
  }

  /** What the figures of the whole column leave, or add: 1 for nothing. */
  private double figures(Traits.Figures figures, ColumnSample sample) {
    if (sample.values() < FEW) {
      return 1;
    }
    double otherwise = figures.otherwise();
    return switch (figures.of()) {
      case ANY -> 1;
      case BIRTHDAYS -> days(sample);
      case AGES ->
          sample.most() > 115 || sample.least() < 0 ? 0.1 : sample.different() >= 8 ? 1 : 0.5;
      case FEW -> sample.mostly() <= figures.most() ? 1 : otherwise;
      case FINE -> sample.fine() > 0.6 ? 1 : otherwise;
      case DIFFERENT -> sample.values() > 20 && sample.distinctness() < 0.1 ? otherwise : 1;
    };
  }

  /** Birthdays spread over decades, and lie years back; other days do not. */
  private double days(ColumnSample sample) {
    if (!sample.hasDates()) {
      return 1;
    }
    int now = checks.asOf().getYear();
    int spread = sample.year(0.9) - sample.year(0.1);
    int median = now - sample.year(0.5);
    if (spread >= SPREAD && median >= ADULT_MEDIAN && sample.year(0.95) <= now) {
      return spread >= LONG_SPREAD ? 8 : 1;
    }
    return median <= 3 ? 0.25 : 0.7;
  }

  private Finding finding(Subject subject, TypeSort sort, List<Case> cases, int examples) {
    ColumnSample sample = subject.sample();
    Optional<Sentence> format = format(sample);
    boolean any =
        !cases.isEmpty()
            && cases.get(0).confidence() >= NAMED
            && (format.isEmpty() || isCredential(cases.get(0)));
    boolean speaks = format.isPresent() && sample.mentioning() > 0;
    if (!any && format.isEmpty() && sample.values() >= FEW && !isFew(sample)) {
      if (sample.mentioning() * 2 >= sample.values()
          && (!isAnotherThing(subject) || speaksOfPeople(sample))) {
        return holding(subject, checks.kinds().of(Kinds.TEXT).orElseThrow(), cases, examples);
      }
      Optional<Kind> login = logins();
      if (login.isPresent() && sample.holdingLogins() * SOME_LOGINS >= sample.values()) {
        return holding(subject, login.get(), cases, examples);
      }
    }
    String kind = any ? named(cases.get(0).kind(), sample) : speaks ? Kinds.TEXT : "";
    double best = cases.isEmpty() ? 0 : cases.get(0).confidence();
    boolean byName = !cases.isEmpty() && cases.get(0).name() != null;
    boolean asked =
        best >= (byName && subject.around().isPeople() ? CONSIDERED_OF_PEOPLE : CONSIDERED)
            || (subject.around().isPeople() && !isOrdinary(subject, sort));
    boolean closed =
        subject.path().isEmpty()
            && ((isClosed(sort) || sample.areDays()) && !asked || isPlain(subject, best));
    double confidence =
        any
            ? cases.get(0).confidence()
            : speaks
                ? 0
                : closed
                    ? KEPT
                    : sample.isCodes() && format.isEmpty() && !isClosed(sort) ? CODES : 0;
    Decision suggested =
        confidence < SUGGESTED || speaks ? Decision.UNDECIDED : any ? Decision.MASK : Decision.KEEP;
    boolean sure =
        any ? confidence >= SURE && !subject.column().generated() && format.isEmpty() : closed;
    Hits hits = any ? sample.hits(cases.get(0).kind().name()) : null;
    List<Finding.Refusal> refusals = new ArrayList<>();
    if (hits != null) {
      hits.refused().forEach((why, count) -> refusals.add(new Finding.Refusal(why, count)));
    }
    return new Finding(
        new ColumnName(subject.table().name(), subject.column().name()),
        subject.path(),
        subject.path().isEmpty() ? subject.column().type() : "",
        kind,
        confidence,
        suggested,
        sure,
        any ? reasons(cases.get(0), subject, hits) : reasonsAgainst(sample, closed, cases, sort),
        sample.values(),
        hits == null ? 0 : hits.accepted(),
        refusals,
        cases.stream()
            .skip(any ? 1 : 0)
            .limit(MOST_OTHERS)
            .map(c -> new Finding.Candidate(c.kind().name(), c.confidence()))
            .toList(),
        examples > 0
            ? sample.examples(any ? cases.get(0).kind().name() : kind, examples)
            : Finding.Examples.NONE);
  }

  /** Whether the name says surely that it is a secret, in whatever form a program keeps it. */
  private static boolean isCredential(Case best) {
    return best.kind().category() == Category.CREDENTIAL
        && best.name() != null
        && best.name().strength() >= STRONG;
  }

  /** Whether values mention more than what machines are known by. */
  private boolean speaksOfPeople(ColumnSample sample) {
    return sample.mentions().keySet().stream()
        .flatMap(kind -> checks.kinds().of(kind).stream())
        .anyMatch(kind -> kind.category() != Category.ONLINE);
  }

  /** The kind of logins. */
  private Optional<Kind> logins() {
    return checks.kinds().all().stream()
        .filter(kind -> kind.original().form() == Kind.Form.LOGIN)
        .filter(kind -> kind.traits().weighing().onlyPeople())
        .findFirst();
  }

  /**
   * Values of a syntax of their own that hold something personal among signs: texts, whose mask
   * finds addresses in them; or logins, which a person has to decide on, as they lie in paths.
   */
  private static Finding holding(Subject subject, Kind kind, List<Case> cases, int examples) {
    ColumnSample sample = subject.sample();
    boolean texts = kind.name().equals(Kinds.TEXT);
    long holding = texts ? sample.mentioning() : sample.holdingLogins();
    double share = (double) holding / sample.values();
    double confidence = NAMED + (texts ? HOLDING * share : TOLD);
    return new Finding(
        new ColumnName(subject.table().name(), subject.column().name()),
        subject.path(),
        subject.path().isEmpty() ? subject.column().type() : "",
        kind.name(),
        confidence,
        Decision.MASK,
        confidence >= SURE && !subject.column().generated(),
        List.of(
            texts
                ? mentions(sample)
                : SurveyWording.HOLD_LOGINS.of(
                    holding, sample.values(), percent(holding, sample.values()))),
        sample.values(),
        holding,
        List.of(),
        cases.stream()
            .limit(MOST_OTHERS)
            .map(c -> new Finding.Candidate(c.kind().name(), c.confidence()))
            .toList(),
        examples > 0 ? sample.examples(kind.name(), examples) : Finding.Examples.NONE);
  }

  /** JSON in which nothing is personal, as far as is known: a question, without a kind. */
  Finding withoutPersons(Finding json) {
    return new Finding(
        json.column(),
        "",
        json.type(),
        "",
        0,
        Decision.UNDECIDED,
        false,
        List.of(SurveyWording.JSON_OF_NOBODY.of()),
        json.sampled(),
        0,
        List.of(),
        json.others(),
        json.examples());
  }

  /** What the values are, if they are more than words: left open, as no mask sees into them. */
  static Optional<Sentence> format(ColumnSample sample) {
    return sample.formats().entrySet().stream()
        .filter(entry -> entry.getValue() * SOME_FORMATS >= sample.values())
        .max(Map.Entry.comparingByValue())
        .map(entry -> SurveyWording.FORMAT.of(entry.getValue(), sample.values(), entry.getKey()));
  }

  /** What the kind is called where the family name comes first, or by the sort of its numbers. */
  private static String named(Kind kind, ColumnSample sample) {
    Hits hits = sample.hits(kind.name());
    Optional<String> sort =
        hits == null
            ? Optional.empty()
            : kind.traits().weighing().sorts().entrySet().stream()
                .filter(entry -> hits.sort().contains(entry.getKey()))
                .map(Map.Entry::getValue)
                .findFirst();
    return sort.isPresent()
        ? sort.get()
        : isTurned(kind, sample) ? kind.traits().turned() : kind.name();
  }

  private static boolean isTurned(Kind kind, ColumnSample sample) {
    return !kind.traits().turned().isEmpty() && familyComesFirst(sample);
  }

  /** Whether known given names stand behind unknown words far more often than before them. */
  private static boolean familyComesFirst(ColumnSample sample) {
    return sample.familyFirst() >= FEW_NAMES
        && sample.familyFirst() > MOSTLY * sample.givenFirst()
        && sample.familyFirst() > TOLD * sample.values();
  }

  /**
   * Whether the name says that it is one of a few sorts, or a number of its own, and values are.
   */
  private static boolean isPlain(Subject subject, double best) {
    ColumnSample sample = subject.sample();
    List<String> words = NameWords.of(subject.called());
    boolean sorts = sample.isCodes() && words.stream().anyMatch(NameWords::isSort);
    boolean numbers =
        sample.areAllCodes() && sample.isNumbered() && words.stream().anyMatch(NameWords::isOther);
    return best < SHOWN && !subject.around().isPeople() && (sorts || numbers);
  }

  /** Whether values of a sort of types cannot be free text. */
  private static boolean isClosed(TypeSort sort) {
    return sort == TypeSort.NUMBER || sort == TypeSort.DATE || sort == TypeSort.FLAG;
  }

  private static List<Sentence> reasons(Case best, Subject subject, Hits hits) {
    ColumnSample sample = subject.sample();
    List<Sentence> reasons = new ArrayList<>();
    if (best.name() != null && best.name().strength() >= LEAST) {
      reasons.add(best.name().by());
    }
    if (sample.values() == 0) {
      reasons.add(SurveyWording.NO_VALUES.of());
    } else if (hits != null) {
      reasons.add(values(hits, sample));
      hits.refused().entrySet().stream()
          .max(Map.Entry.comparingByValue())
          .filter(refused -> refused.getValue() > TELLING_REFUSALS * sample.values())
          .ifPresent(
              refused ->
                  reasons.add(SurveyWording.REFUSED.of(refused.getValue(), refused.getKey())));
    }
    if (sample.mentioning() > 0 && best.kind().category() == Category.TEXT) {
      reasons.add(mentions(sample));
    }
    if (best.kind().person() || best.kind().traits().part() == Traits.Part.FULL) {
      reasons.add(subject.around().why());
    }
    if (isTurned(best.kind(), sample)) {
      reasons.add(SurveyWording.FAMILY_FIRST.of(sample.familyFirst(), sample.givenFirst()));
    }
    if (best.kind().traits().weighing().figures().of() == Traits.Figures.Of.BIRTHDAYS
        && sample.hasDates()) {
      reasons.add(
          SurveyWording.MOST_BETWEEN.of(
              Integer.toString(sample.year(0.1)), Integer.toString(sample.year(0.9))));
    }
    return reasons;
  }

  private static Sentence values(Hits hits, ColumnSample sample) {
    Sentence sort =
        hits.sort().isEmpty() || hits.sort().equals("any form")
            ? Sentence.NONE
            : SurveyWording.AS_SORT.of(hits.sort());
    Sentence known =
        hits.possible() == 0
            ? Sentence.NONE
            : hits.known() == 0
                ? SurveyWording.HAVE_FORM.of()
                : SurveyWording.HAVE_FORM_KNOWN.of(hits.known());
    return SurveyWording.VALUES.of(
        hits.accepted(), sample.values(), sort, known, percent(hits.accepted(), sample.values()));
  }

  /** How many values mention what: {@code 80 mention a full name, 12 an e-mail address}. */
  private static Sentence mentions(ColumnSample sample) {
    List<Sentence> what = new ArrayList<>();
    sample
        .mentions()
        .forEach(
            (kind, count) ->
                what.add(
                    (what.isEmpty() ? SurveyWording.MENTION : SurveyWording.MENTION_TOO)
                        .of(count, Kinds.BUILT_IN.traits(kind).texts().called())));
    return SurveyWording.ALL_OF.of(what);
  }

  private static String percent(long part, long all) {
    double percent = 100.0 * part / all;
    return String.format(
        Locale.ROOT,
        percent > 99 && part < all || percent < 1 && part > 0 ? "%.1f%%" : "%.0f%%",
        percent);
  }

  /** What bytes are, of which none is a text. */
  private static Sentence bytes(ColumnSample sample) {
    return sample.opaqueFormats().entrySet().stream()
        .max(Map.Entry.comparingByValue())
        .filter(most -> most.getValue() * SOME_FORMATS >= sample.opaque())
        .map(most -> SurveyWording.FORMAT.of(most.getValue(), sample.opaque(), most.getKey()))
        .orElse(SurveyWording.UNKNOWN_BYTES.of());
  }

  /**
   * What is said of a column that is of no kind: what it might be, and what its values look like.
   */
  private static List<Sentence> reasonsAgainst(
      ColumnSample sample, boolean closed, List<Case> cases, TypeSort sort) {
    List<Sentence> reasons = new ArrayList<>();
    if (!closed && !cases.isEmpty() && cases.get(0).confidence() >= SHOWN) {
      Case best = cases.get(0);
      long percent = Math.round(100 * best.confidence());
      reasons.add(SurveyWording.PERHAPS.of(best.kind().name(), percent + "%"));
    }
    List<String> shapes = sample.shapes();
    boolean like = !closed && !shapes.isEmpty() && !isClosed(sort);
    boolean codes = sample.isCodes();
    if (like && !codes) {
      reasons.add(SurveyWording.LIKE.of(shapes));
    }
    reasons.addAll(unknown(sample, closed, sort));
    if (like && codes) {
      reasons.add(SurveyWording.LIKE.of(shapes));
    }
    return reasons;
  }

  private static List<Sentence> unknown(ColumnSample sample, boolean closed, TypeSort sort) {
    if (sample.values() == 0 && sample.opaque() > 0) {
      return List.of(bytes(sample));
    }
    if (sample.values() == 0) {
      return List.of(SurveyWording.NO_VALUES.of());
    }
    Optional<Sentence> format = format(sample);
    if (format.isPresent()) {
      return sample.mentioning() > 0
          ? List.of(format.get(), mentions(sample))
          : List.of(format.get());
    }
    if (closed) {
      return List.of(SurveyWording.NOTHING_SPEAKS.of());
    }
    if (isClosed(sort)) {
      return List.of(SurveyWording.ASKED.of());
    }
    if (sample.isCodes()) {
      return List.of(SurveyWording.SHORT_VALUES.of(sample.different()));
    }
    Sentence what = sample.form().orElse(SurveyWording.UNKNOWN_TEXT.of());
    return sample.mentioning() > 0 ? List.of(what, mentions(sample)) : List.of(what);
  }
}
