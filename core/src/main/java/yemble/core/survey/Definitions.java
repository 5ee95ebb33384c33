package yemble.core.survey;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import yemble.core.kind.Kinds;
import yemble.core.project.Project;
import yemble.core.recognition.Looks;
import yemble.core.recognition.Mentioned;
import yemble.core.schema.Literals;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.Table;

/**
 * Looks for personal data in what a schema is made of, since a target gets it too: defaults,
 * checks, comments, labels of enumerations, bounds of partitions, bodies of views, triggers and
 * functions. Only what can hardly be anything else is found: addresses, account and card numbers,
 * telephone numbers in international form, full names that begin with a known given name.
 */
public final class Definitions {
  /** What the register calls a definition: this, and the object's type and name. */
  public static final String PREFIX = "definition of ";

  /** A day, perhaps with a time, as defaults have it: its digits are no telephone number. */
  private static final Pattern MOMENT =
      Pattern.compile("[0-9]{4}-[0-9]{2}-[0-9]{2}(?:[ T][0-9:.]+(?:Z|[+-][0-9:]+)?)?");

  private static final Mentioned MENTIONED =
      new Mentioned(new Looks(List.of(), Project.DEFAULT_AS_OF));

  /**
   * A definition that holds something personal.
   *
   * @param name as the register calls it
   * @param kind what it looks like
   * @param texts how many texts of it do
   */
  public record Found(String name, String kind, int texts) {
    /** What it looks like, in words. */
    public String looks() {
      return Kinds.BUILT_IN.traits(kind).texts().called();
    }
  }

  private Definitions() {}

  /** Every definition of a schema that holds something personal, in the schema's order. */
  public static List<Found> of(Schema schema) {
    List<Found> found = new ArrayList<>();
    for (Table table : schema.tables()) {
      look("table " + table.name(), table.handle()).ifPresent(found::add);
    }
    for (SchemaObject object : schema.objects()) {
      if (object.type() != SchemaObject.Type.GRANT) { // It names accounts.
        look(object.type() + " " + object.name(), object.definition()).ifPresent(found::add);
      }
    }
    return found;
  }

  private static Optional<Found> look(String name, String definition) {
    String kind = "";
    int texts = 0;
    for (String text : Literals.of(definition)) {
      if (MOMENT.matcher(text).matches()) {
        continue;
      }
      Set<String> seen = MENTIONED.kinds(text);
      if (!seen.isEmpty()) {
        kind = kind.isEmpty() ? seen.iterator().next() : kind;
        texts++;
      }
    }
    return texts == 0 ? Optional.empty() : Optional.of(new Found(PREFIX + name, kind, texts));
  }
}
