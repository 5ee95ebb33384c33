package yemble.core.survey;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.kind.TypeSort;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.project.Conventions;
import yemble.core.recognition.Hits;
import yemble.core.recognition.Looks;

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
  private static final double SUGGESTED = 0.5;
  private static final double LEAST = 0.1;
  private static final int FEW = 5;
  private static final double BY_NAME = 0.15;
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

  /** How sure it is that values are what a rule of the project says. */
  private static final double RULE = 0.9;

  private static final double ANOTHER_THING = 0.3;
  private static final double COUNTED = 0.2;
  private static final double BY_VALUES = 0.61;
  private static final double BY_VALUES_LEAST = 0.55;
  private static final double NEARLY_ALL = 0.97;
  private static final double PLAIN_DIGITS = 0.5;
  private static final double ATTRIBUTE_OF_THINGS = 0.5;

  private final Checks checks;
  private final Conventions conventions;
  private final String database;
  private final BiConsumer<ColumnName, List<Evidence>> weighed;
  private final Conclusion conclusion;

  /**
   * @param weighed is told of each column what speaks for which kinds, from several threads
   */
  Weigher(
      Checks checks,
      Conventions conventions,
      String database,
      BiConsumer<ColumnName, List<Evidence>> weighed) {
    this.weighed = weighed;
    this.conclusion = new Conclusion(checks);
    this.checks = checks;
    this.conventions = conventions;
    this.database = database;
  }

  /** What was said for one kind. */
  record Case(Kind kind, Evidence evidence, NameEvidence.Said name) {
    double confidence() {
      return evidence.confidence();
    }
  }

  Finding weigh(Subject subject, int examples) {
    TypeSort sort = subject.sort();
    Map<String, NameEvidence.Said> said = new LinkedHashMap<>(checks.names().of(subject.called()));
    if (!subject.shared().isEmpty()) {
      Map<String, NameEvidence.Said> shared = checks.names().of(subject.shared());
      checks
          .names()
          .of(subject.column().name())
          .forEach(
              (kind, by) -> {
                if (by.strength() > strength(shared, kind)) {
                  said.merge(kind, by, Weigher::stronger);
                }
              });
    }
    if (subject.path().isEmpty() && (sort == TypeSort.TEXT || sort == TypeSort.UUID)) {
      checks
          .names()
          .ofBare(subject.table().name().name(), subject.called())
          .forEach((kind, by) -> said.merge(kind, by, Weigher::stronger));
    }
    if (subject.path().isEmpty()) {
      checks
          .names()
          .ofEnd(subject.called())
          .forEach((kind, by) -> said.merge(kind, by, Weigher::stronger));
    }
    if (!subject.comment().isEmpty()) {
      checks
          .names()
          .of(subject.comment())
          .forEach((kind, by) -> said.merge(kind, by.inComment(COMMENT), Weigher::stronger));
    }
    narrow(said, subject);
    List<Case> cases = new ArrayList<>();
    for (Kind kind : checks.kinds().all()) {
      boolean suits = kind.suits(sort) || subject.sample().inBytes() > 0;
      if (!suits || isOff(kind, subject.table().name())) {
        continue;
      }
      Evidence evidence = evidence(kind, said.get(kind.name()), subject, sort);
      if (evidence.confidence() >= LEAST) {
        cases.add(new Case(kind, evidence, said.get(kind.name())));
      }
    }
    cases.sort(Comparator.comparingDouble(Case::confidence).reversed());
    if (subject.path().isEmpty()) {
      weighed.accept(subject.name(), cases.stream().map(Case::evidence).toList());
    }
    return conclusion.of(subject, cases, examples);
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
    if (subject.isKeyNumber()) {
      said.replaceAll((kind, by) -> by.times(KEY_NUMBER));
    }
    boolean things =
        NameWords.of(subject.called()).stream()
            .anyMatch(w -> NameWords.isThings(w) && !NameWords.isPeople(w));
    if (things || subject.isAnotherThing()) {
      double strong = subject.isAnotherThing() ? OF_ANOTHER_THING : OF_THINGS_BUT_STRONG;
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

  private static NameEvidence.Said stronger(NameEvidence.Said one, NameEvidence.Said other) {
    return one.strength() >= other.strength() ? one : other;
  }

  private static double strength(Map<String, NameEvidence.Said> said, String kind) {
    NameEvidence.Said by = said.get(kind);
    return by == null ? 0 : by.strength();
  }

  private static void weaken(Map<String, NameEvidence.Said> said, String kind, double share) {
    said.computeIfPresent(kind, (k, by) -> by.times(share));
  }

  private Evidence evidence(Kind kind, NameEvidence.Said said, Subject subject, TypeSort sort) {
    ColumnSample sample = subject.sample();
    double n = said == null ? 0 : said.strength();
    Hits hits = sample.values() > 0 ? sample.hits(kind.name()) : null;
    if (hits == null) {
      return evidence(kind, subject, n, n, Evidence.Seen.NOTHING, sort);
    }
    double known = (double) hits.known() / sample.values();
    double possible = (double) hits.possible() / sample.values();
    Conventions.Rule rule = checks.rule(kind.name());
    if (rule != null && rule.seesValues()) {
      return Evidence.byRule(kind.name(), known >= rule.atLeast() ? Math.max(RULE, n) : 0);
    }
    double nearly =
        (double) hits.refused().values().stream().mapToLong(Long::longValue).sum()
            / sample.values();
    double borne = Math.min(1, 1.15 * (known + possible + NEARLY * nearly));
    double stays = kind.look().without() + (1 - kind.look().without()) * borne;
    double doubts = 1;
    if (kind.look().named() && n * stays < BY_NAME || sort == TypeSort.FLAG) {
      doubts = 0;
    }
    if (n * stays < BY_NAME && (subject.isAnotherThing() || subject.isEvent(kind))) {
      doubts *= ANOTHER_THING;
    }
    if (kind.traits().weighing().given() && n * stays < SUGGESTED && sample.isNumbered()) {
      doubts *= COUNTED;
    }
    if (kind.original().form() == Kind.Form.PHONE
        && sample.arePlainDigits()
        && !subject.around().isPeople()) {
      doubts *= PLAIN_DIGITS;
    }
    doubts *= hits.sort().equals(Looks.SHORT_YEARS) && known < NEARLY_ALL ? 0 : 1;
    doubts *= sample.values() < FEW ? (double) sample.values() / FEW : 1;
    if (kind.category() == Category.CREDENTIAL && n * stays < BY_NAME && subject.isIdentifier()) {
      doubts *= COUNTED;
    }
    doubts *= kind.look().many() && subject.isFew() ? FEW_DIFFERENT : 1;
    boolean byItself =
        kind.traits().part() == Traits.Part.FULL || kind.original().form() == Kind.Form.LOGIN;
    double byName = byItself && known >= BY_VALUES_LEAST ? Math.max(n, BY_VALUES) : n;
    double telling =
        kind.look().telling() * Math.min(1, known / KNOWN_ENOUGH) + kind.look().likely() * possible;
    return evidence(
        kind, subject, n, byName, new Evidence.Seen(stays, known, possible, telling, doubts), sort);
  }

  private Evidence evidence(
      Kind kind, Subject subject, double n, double byName, Evidence.Seen seen, TypeSort sort) {
    boolean attribute =
        subject.around().isThings()
            && kind.traits().weighing().onlyPeople()
            && kind.original().form() == Kind.Form.NONE;
    boolean ofPeople = kind.person() || kind.traits().weighing().onlyPeople();
    return new Evidence(
        kind.name(),
        n,
        seen,
        figures(kind.traits().weighing().figures(), subject.sample()),
        around(kind, subject, byName) * (attribute ? ATTRIBUTE_OF_THINGS : 1),
        ofPeople && subject.around().isPeople() && !subject.isAnotherThing());
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
}
