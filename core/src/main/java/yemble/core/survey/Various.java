package yemble.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiFunction;
import java.util.regex.Pattern;
import yemble.core.kind.Kinds;
import yemble.core.kind.TypeSort;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.wording.Sentence;

/**
 * A column that holds another thing in each row, as a column beside it says: {@code value} beside
 * {@code attribute}. The values of each sort of rows are weighed apart.
 */
public final class Various {
  /** Words of the name of a column that says what another one holds, the surest first. */
  private static final List<Set<String>> SELECTORS =
      List.of(
          Set.of(
              "attribute",
              "attr",
              "field",
              "property",
              "prop",
              "question",
              "merkmal",
              "feld",
              "champ",
              "campo"),
          Set.of("key", "param", "parameter", "setting", "option", "element"),
          Set.of("type", "kind", "code", "name", "label"));

  private static final Set<String> HOLDERS =
      Set.of(
          "value",
          "val",
          "data",
          "content",
          "answer",
          "response",
          "contact",
          "detail",
          "details",
          "wert",
          "antwort",
          "valeur",
          "reponse",
          "valor",
          "valore",
          "waarde");

  private static final Pattern PARTS = Pattern.compile("[^\\p{L}]+|(?<=\\p{Ll})(?=\\p{Lu})");
  private static final Pattern PLAIN = Pattern.compile("[A-Za-z_][A-Za-z0-9_]*");
  private static final int LONGEST_KEY = 40;
  private static final int MOST_KEYS = 60;
  private static final int FEWEST = 3;

  private final int selector;
  private final int holder;
  private final BiFunction<String, Boolean, ColumnSample> samples;
  private final Map<String, ColumnSample> byKey = new TreeMap<>();
  private boolean isNone;

  private Various(int selector, int holder, BiFunction<String, Boolean, ColumnSample> samples) {
    this.selector = selector;
    this.holder = holder;
    this.samples = samples;
  }

  /**
   * The columns of a table that may be such.
   *
   * @param checks what the values of each sort of rows are put to
   */
  static List<Various> of(List<Column> columns, Checks checks, boolean keep) {
    List<Various> found = new ArrayList<>();
    for (int holder = 0; holder < columns.size(); holder++) {
      String name = columns.get(holder).name();
      List<String> parts = parts(name);
      boolean holds =
          TypeSort.of(columns.get(holder).type()) == TypeSort.TEXT
              && HOLDERS.contains(parts.get(parts.size() - 1));
      int selector = holds ? selector(columns, holder) : -1;
      if (selector >= 0) {
        found.add(
            new Various(
                selector,
                holder,
                (key, isName) ->
                    new ColumnSample(checks, TypeSort.TEXT, isName ? key : name, keep)));
      }
    }
    return found;
  }

  private static int selector(List<Column> columns, int holder) {
    for (Set<String> words : SELECTORS) {
      for (int i = 0; i < columns.size(); i++) {
        boolean says = parts(columns.get(i).name()).stream().anyMatch(words::contains);
        if (i != holder && says && PLAIN.matcher(columns.get(i).name()).matches()) {
          return i;
        }
      }
    }
    return -1;
  }

  private static List<String> parts(String name) {
    List<String> parts = new ArrayList<>();
    for (String part : PARTS.split(name)) {
      if (!part.isEmpty()) {
        parts.add(part.toLowerCase(Locale.ROOT));
      }
    }
    return parts.isEmpty() ? List.of(name) : parts;
  }

  int holder() {
    return holder;
  }

  int selector() {
    return selector;
  }

  /** Adds a row of the sample. */
  void add(Object[] row) {
    Object value = row[holder];
    if (isNone || row[selector] == null || row[selector] instanceof byte[] || value == null) {
      return;
    }
    String key = Values.text(row[selector]).strip();
    boolean many = byKey.size() >= MOST_KEYS && !byKey.containsKey(key);
    if (key.length() > LONGEST_KEY || many) {
      isNone = true;
      byKey.clear();
    } else if (!key.isEmpty()) {
      byKey.computeIfAbsent(key, k -> samples.apply(k, isName(k))).add(value);
    }
  }

  /** Whether a key speaks for what stands beside it, as the name of a column does. */
  static boolean isName(String key) {
    return key.chars().anyMatch(Character::isLetter);
  }

  /**
   * What a column holds in which rows, as a finding says it.
   *
   * @param selector the column beside it
   * @param kinds by the values of that column
   */
  public record Sorts(String selector, Map<String, String> kinds) {
    /** Of a finding; empty if it is of one sort. */
    public static Optional<Sorts> of(Finding finding) {
      for (Sentence reason : finding.reasons()) {
        if (reason.wording() == SurveyWording.VARIOUS) {
          Map<String, String> kinds = new TreeMap<>();
          for (Object sort : (List<?>) reason.named().get("sorts")) {
            String said = sort.toString();
            int end = said.lastIndexOf(' ');
            kinds.put(said.substring(0, end), said.substring(end + 1));
          }
          return Optional.of(new Sorts(reason.named().get("column").toString(), kinds));
        }
      }
      return Optional.empty();
    }
  }

  /** Weighs the values of the rows of a key. */
  interface Weighing {
    /**
     * @param name what speaks for the values
     */
    Finding weigh(String name, ColumnSample sample);
  }

  /**
   * What follows for the column that holds the values.
   *
   * @param whole what was found of all its values together
   * @param says what was found of the column that says what they are
   * @return empty if its rows are all of one sort
   */
  Optional<Finding> finding(Finding whole, Finding says, Weighing weighing) {
    if (byKey.size() < 2 || says.isPersonal()) {
      return Optional.empty();
    }
    List<String> kinds = new ArrayList<>();
    boolean others = false;
    boolean sure = false;
    double confidence = 0;
    for (Map.Entry<String, ColumnSample> one : byKey.entrySet()) {
      one.getValue().flush();
      String name = isName(one.getKey()) ? one.getKey() : whole.column().column();
      Finding found = weighing.weigh(name, one.getValue());
      boolean personal =
          found.isPersonal()
              && found.confidence() >= Conclusion.NAMED
              && one.getValue().values() >= FEWEST;
      others |= !personal || !found.kind().equals(whole.kind());
      if (personal) {
        kinds.add(one.getKey() + " " + found.kind());
        sure |= found.sure();
        confidence = Math.max(confidence, found.confidence());
      }
    }
    if (kinds.isEmpty() || !others) {
      return Optional.empty();
    }
    return Optional.of(
        new Finding(
            whole.column(),
            "",
            whole.type(),
            Kinds.VARIOUS,
            confidence,
            Decision.MASK,
            sure,
            List.of(SurveyWording.VARIOUS.of(says.column().column(), kinds)),
            whole.sampled(),
            whole.sampled(),
            List.of(),
            whole.others(),
            whole.examples()));
  }
}
