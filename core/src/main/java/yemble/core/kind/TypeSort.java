package yemble.core.kind;

import java.util.Locale;
import java.util.regex.Pattern;

/** What sort of values a column's type holds, whatever the engine calls it. */
public enum TypeSort {
  /** Texts, and whatever a column without a known type may hold. */
  TEXT("(?!)"),
  FLAG("bool(ean)?|bit( ?\\(1\\))?|tinyint ?\\(1\\)"),
  DATE("date.*|.*time.*|year.*|interval.*"),
  NUMBER(
      "(unsigned )?((tiny|small|medium|big) ?)?(int|serial)(eger|[248])?\\b.*|real|float.*|double.*|numeric.*|"
          + "decimal.*|money|number.*|int.*|.*serial"),
  BINARY(".*blob.*|bytea|.*binary.*|raw.*|image"),
  UUID("uuid|uniqueidentifier"),
  INET("inet[46]?|cidr"),
  MAC("macaddr8?"),
  JSON("jsonb?");

  /** Types whose labels may be any words: a label is no type. */
  private static final Pattern LABELLED = Pattern.compile("(enum|set) ?\\(.*");

  private final Pattern names;

  TypeSort(String names) {
    this.names = Pattern.compile(names);
  }

  /** The sort of a declared type, as a catalog writes it. */
  public static TypeSort of(String type) {
    String lower = type.toLowerCase(Locale.ROOT).strip();
    if (LABELLED.matcher(lower).matches()) {
      return TEXT;
    }
    for (TypeSort sort : values()) {
      if (sort != TEXT && sort.names.matcher(lower).matches()) {
        return sort;
      }
    }
    return TEXT;
  }
}
