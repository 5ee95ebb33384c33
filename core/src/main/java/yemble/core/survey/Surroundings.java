package yemble.core.survey;

import java.util.List;
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
  private static final double SURE_SIGN = 0.75;
  private static final double UNKNOWN = 0.45;
  private static final int MOST_COLUMNS = 3;
  private final double share;
  private final Sentence why;

  private Surroundings(double share, Sentence why) {
    this.share = share;
    this.why = why;
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
    int telling = 0;
    for (Column column : table.columns()) {
      boolean ofPeople =
          checks.names().of(column.name()).entrySet().stream()
              .anyMatch(
                  said ->
                      said.getValue().strength() > SURE_SIGN
                          && checks.kinds().traits(said.getKey()).weighing().onlyPeople());
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
    return new Surroundings(share, why);
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
