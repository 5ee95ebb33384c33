package yemble.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import yemble.core.kind.Category;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.kind.TypeSort;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.recognition.Hits;
import yemble.core.survey.Weigher.Case;
import yemble.core.wording.Sentence;

/**
 * What follows from what speaks for the kinds of a column: which is named, what survey decides
 * itself, what is asked, and why.
 */
final class Conclusion {
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
  private static final double TELLING_REFUSALS = 0.1;
  private static final double STRONG = 0.8;
  private static final double CONSIDERED = 0.3;
  private static final double CONSIDERED_OF_PEOPLE = 0.15;
  private static final double SHOWN = 0.2;
  private static final int SOME_LOGINS = 4;
  private static final double HOLDING = 0.4;

  private final Checks checks;

  Conclusion(Checks checks) {
    this.checks = checks;
  }

  /**
   * The finding.
   *
   * @param cases what speaks for kinds, the likeliest first
   * @param examples how many values are shown; 0 for none
   */
  Finding of(Subject subject, List<Case> cases, int examples) {
    TypeSort sort = subject.sort();
    ColumnSample sample = subject.sample();
    Optional<Sentence> format = format(sample);
    boolean any =
        !cases.isEmpty()
            && cases.get(0).confidence() >= NAMED
            && (format.isEmpty() || isCredential(cases.get(0)));
    boolean speaks = format.isPresent() && sample.mentioning() > 0;
    if (!any && format.isEmpty() && sample.values() >= FEW && !subject.isFew()) {
      if (sample.mentioning() * 2 >= sample.values()
          && (!subject.isAnotherThing() || speaksOfPeople(sample))) {
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
            || (subject.around().isPeople() && !subject.isOrdinary(sort, checks.asOf().getYear()));
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
                    : sample.isCodes() && format.isEmpty() && !isClosed(sort) && best < CONSIDERED
                        ? CODES
                        : 0;
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
        subject.name(),
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
        subject.name(),
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
  static Finding withoutPersons(Finding json) {
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
      reasons.add(values(best.kind(), hits, sample));
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

  private static Sentence values(Kind kind, Hits hits, ColumnSample sample) {
    Sentence sort =
        hits.sort().isEmpty() || hits.sort().equals("any form")
            ? Sentence.NONE
            : SurveyWording.AS_SORT.of(hits.sort());
    Sentence known =
        hits.possible() == 0 || hits.known() == 0
            ? Sentence.NONE
            : SurveyWording.KNOWN.of(hits.known());
    return SurveyWording.VALUES.of(
        hits.accepted(),
        sample.values(),
        percent(hits.accepted(), sample.values()),
        kind.look().said(),
        sort,
        known);
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
    if (like && sample.isCodes() && format(sample).isEmpty()) {
      reasons.add(SurveyWording.SHORT_LIKE.of(sample.different(), shapes));
      return reasons;
    }
    if (like) {
      reasons.add(SurveyWording.LIKE.of(shapes));
    }
    reasons.addAll(unknown(sample, closed, sort));
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
