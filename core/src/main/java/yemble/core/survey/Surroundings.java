package yemble.core.survey;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import yemble.core.kind.Traits;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.wording.Sentence;

/**
 * How far a table is about people: by its name, by columns that only people have, by what it refers
 * to. A {@code name} beside a {@code birth_date} is a person's, one in {@code warehouse} is not.
 */
final class Surroundings {
  /** From here on a table is about people. */
  private static final double PEOPLE = 0.85;

  private static final double SEEN = 0.7;
  private static final double LIKELY = 0.2;
  private static final long MANY_HOUSES = 100;
  private static final int ENOUGH = 2;
  private static final double SURE_SIGN = 0.75;
  private static final double UNKNOWN = 0.45;
  private static final int MOST_COLUMNS = 3;
  private final double share;
  private final Sentence why;
  private final Set<String> linked;
  private final boolean things;

  private Surroundings(double share, Sentence why, Set<String> linked, boolean things) {
    this.share = share;
    this.why = why;
    this.linked = linked;
    this.things = things;
  }

  /**
   * The same, now that the columns of the table have been looked at: one whose values are mail
   * addresses, names and the like is about people, whatever it is called.
   */
  Surroundings seen(List<Finding> findings, Checks checks) {
    Set<String> kinds = new TreeSet<>();
    for (Finding finding : findings) {
      boolean tells =
          finding.confidence() >= SEEN
              && finding.path().isEmpty()
              && finding.hits() > 0
              && tells(finding.kind(), checks);
      if (tells) {
        kinds.add(finding.kind());
      }
    }
    if (kinds.size() < ENOUGH
        && !things
        && share < PEOPLE
        && parts(findings, checks).containsAll(Set.of(Traits.Area.HOUSE, Traits.Area.CODE))) {
      return new Surroundings(PEOPLE, SurveyWording.ADDRESSES.of(), linked, false);
    }
    if (kinds.size() >= ENOUGH && share < 1) {
      return new Surroundings(1, SurveyWording.SEEN.of(List.copyOf(kinds)), linked, things);
    }
    return this;
  }

  /** Which parts of addresses columns likely are, of more rows than a firm has houses. */
  private static Set<Traits.Area> parts(List<Finding> findings, Checks checks) {
    return findings.stream()
        .filter(finding -> finding.path().isEmpty() && finding.sampled() >= MANY_HOUSES)
        .flatMap(finding -> finding.others().stream().limit(1))
        .filter(other -> other.confidence() >= LIKELY)
        .map(other -> checks.kinds().traits(other.kind()).area())
        .collect(Collectors.toSet());
  }

  private static boolean tells(String kind, Checks checks) {
    Traits traits = checks.kinds().traits(kind);
    return traits.part() != Traits.Part.NONE
        || traits.weighing().figures().of() == Traits.Figures.Of.BIRTHDAYS
        || switch (checks.kinds().original(kind).form()) {
          case ADDRESS, NAME, PHONE -> true;
          case CODE -> traits.weighing().onlyPeople();
          default -> false;
        };
  }

  /** Whether the table is about people. */
  boolean isPeople() {
    return share >= PEOPLE;
  }

  /** Whether the table is about things, as far as anything says so. */
  boolean isThings() {
    return things && !isPeople();
  }

  /** Whether a column is part of a key or of a reference. */
  boolean isLinked(String column) {
    return linked.contains(column);
  }

  static Surroundings of(Table table, Schema schema, Checks checks) {
    double score = 0;
    Sentence why = SurveyWording.NOT_SAID.of();
    boolean things = false;
    boolean people = false;
    for (String word : NameWords.of(table.name().name())) {
      people |= NameWords.isPeople(word);
      things |= NameWords.isThings(word);
    }
    if (people) {
      score += things ? 1 : 2;
      why = SurveyWording.ABOUT_PEOPLE.of();
    } else if (things) {
      score -= 2;
      why = SurveyWording.ABOUT_THINGS.of();
    }
    boolean ofThings = things && !people;
    int telling = 0;
    for (Column column : table.columns()) {
      boolean ofPeople =
          checks.names().of(column.name()).entrySet().stream()
              .anyMatch(
                  said ->
                      said.getValue().strength() > SURE_SIGN
                          && checks.kinds().traits(said.getKey()).weighing().onlyPeople()
                          && (!ofThings || tells(said.getKey(), checks)));
      telling += ofPeople ? 1 : 0;
    }
    if (telling > 0) {
      score += 1.5 * Math.min(telling, MOST_COLUMNS);
      why = SurveyWording.COLUMNS_OF_PEOPLE.of(telling);
    }
    for (Link link : schema.foreignKeys()) {
      if (link.child().equals(table.name()) && !link.parent().equals(table.name())) {
        List<String> words = NameWords.of(link.parent().name());
        if (words.stream().anyMatch(NameWords::isPeople)
            && words.stream().noneMatch(NameWords::isThings)) {
          score += 1;
          if (telling == 0 && !people) {
            why = SurveyWording.TABLE_REFERS.of(link.parent());
          }
          break;
        }
      }
    }
    double share = score >= 2 ? 1 : score >= 1 ? 0.85 : score > -1 ? UNKNOWN : 0.3;
    Set<String> linked = new HashSet<>(table.primaryKey());
    for (Link link : schema.foreignKeys()) {
      if (link.child().equals(table.name())) {
        linked.addAll(link.childColumns());
      }
      if (link.parent().equals(table.name())) {
        linked.addAll(link.parentColumns());
      }
    }
    return new Surroundings(share, why, linked, ofThings);
  }

  /** From 0 to 1: what is left of the confidence in a kind that only people have. */
  double share() {
    return share;
  }

  /** Why. */
  Sentence why() {
    return why;
  }
}
