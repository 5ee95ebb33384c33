package yemble.core.survey;

import java.time.LocalDate;
import java.util.HashMap;
import java.util.Map;
import yemble.core.kind.Kind;
import yemble.core.kind.Kinds;
import yemble.core.project.Conventions;
import yemble.core.recognition.Hits;
import yemble.core.recognition.Look;
import yemble.core.recognition.Looks;
import yemble.core.recognition.Mentioned;
import yemble.core.recognition.Verdict;

/**
 * Everything that a survey checks names and values by: the kinds, their checks, the project's own
 * rules. For one thread.
 */
final class Checks {
  private final LocalDate asOf;
  private final Kinds kinds;
  private final NameEvidence names;
  private final Mentioned mentioned;
  private final Map<String, Look> looks = new HashMap<>();
  private final Map<String, Conventions.Rule> rules = new HashMap<>();

  /**
   * @param asOf the project's day, see {@link Looks}
   */
  Checks(Conventions conventions, LocalDate asOf) {
    this.asOf = asOf;
    this.kinds = conventions.kinds();
    this.names = new NameEvidence(conventions);
    Looks all = new Looks(conventions.countries(), asOf);
    this.mentioned = new Mentioned(all);
    for (Kind kind : kinds.all()) {
      Look look = all.of(kind.look().name());
      if (look != null) {
        looks.put(kind.name(), look);
      }
    }
    for (Conventions.Rule rule : conventions.rules().values()) {
      if (rule.seesValues()) {
        Look before = looks.get(rule.kind());
        looks.put(rule.kind(), before == null ? look(rule) : both(look(rule), before));
      }
      rules.put(rule.kind(), rule);
    }
  }

  private static Look look(Conventions.Rule rule) {
    return Look.of(value -> rule.accepts(value.text()) ? Verdict.KNOWN : Verdict.NO);
  }

  /** What either accepts. */
  private static Look both(Look own, Look builtIn) {
    return (value, hits) -> {
      Hits first = new Hits();
      own.at(value, first);
      (first.accepted() > 0 ? own : builtIn).at(value, hits);
    };
  }

  /** The day that ages are counted at. */
  LocalDate asOf() {
    return asOf;
  }

  Kinds kinds() {
    return kinds;
  }

  NameEvidence names() {
    return names;
  }

  Mentioned mentioned() {
    return mentioned;
  }

  /** The check of a kind's values; null if it has none. */
  Look look(Kind kind) {
    return looks.get(kind.name());
  }

  /** The project's own rule for a kind; null if there is none. */
  Conventions.Rule rule(String kind) {
    return rules.get(kind);
  }
}
