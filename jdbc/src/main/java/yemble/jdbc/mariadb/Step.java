package yemble.jdbc.mariadb;

import java.util.ArrayList;
import java.util.List;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.schema.SchemaObject.Type;

/**
 * A statement that is run once new tables have the names that they are to have.
 *
 * @param mode the {@code sql_mode} it is understood in; empty for that of the session
 * @param undoing what is run before it, each time, so that it may be run twice; or empty
 */
record Step(String mode, String undoing, String statement) {
  Step(String statement) {
    this("", "", statement);
  }

  /** Foreign keys. */
  static List<Step> keys(Schema structure) {
    return structure.objects().stream()
        .filter(object -> object.type() == Type.FOREIGN_KEY && object.carried())
        .map(key -> again(key.definition(), key.name()))
        .toList();
  }

  /** Sequences, what uses them, routines, views, triggers. */
  static List<Step> others(Schema structure) {
    List<Step> steps = new ArrayList<>();
    for (Type type :
        List.of(Type.SEQUENCE, Type.ATTRIBUTE, Type.FUNCTION, Type.VIEW, Type.TRIGGER)) {
      List<SchemaObject> objects =
          structure.objects().stream()
              .filter(object -> object.type() == type && object.carried())
              .toList();
      for (SchemaObject object : type == Type.VIEW ? inOrder(objects) : objects) {
        steps.addAll(
            type == Type.SEQUENCE ? sequence(structure, object) : other(structure, object));
      }
    }
    return steps;
  }

  /** Views after those whose names their statements hold. */
  private static List<SchemaObject> inOrder(List<SchemaObject> views) {
    List<SchemaObject> ordered = new ArrayList<>();
    List<SchemaObject> waiting = new ArrayList<>(views);
    while (!waiting.isEmpty()) {
      SchemaObject next =
          waiting.stream()
              .filter(view -> waiting.stream().noneMatch(other -> names(view, other)))
              .findFirst()
              .orElse(waiting.get(0));
      ordered.add(next);
      waiting.remove(next);
    }
    return ordered;
  }

  private static boolean names(SchemaObject view, SchemaObject other) {
    return view != other && view.definition().contains(Sql.quoted(other.name()));
  }

  private static List<Step> other(Schema structure, SchemaObject object) {
    String kind = object.type() == Type.TRIGGER ? "trigger " : "";
    return List.of(
        new Step(
            structure.settings().getOrDefault(MariadbStructure.MODE + kind + object.name(), ""),
            "",
            replacing(object)));
  }

  /** A sequence that goes on where the source's stands. */
  private static List<Step> sequence(Schema structure, SchemaObject sequence) {
    String position = structure.settings().get(MariadbStructure.POSITION + sequence.name());
    return List.of(
        new Step(replacing(sequence)),
        new Step("ALTER SEQUENCE " + Sql.quoted(sequence.name()) + " RESTART " + position));
  }

  private static String replacing(SchemaObject object) {
    return object.definition().replaceFirst("(?i)^CREATE ", "CREATE OR REPLACE ");
  }

  /**
   * A statement that adds a foreign key, whether it is there or not. Dropping it in the same
   * statement would not do: the server looks for the name before it drops anything.
   */
  static Step again(String definition, String name) {
    String table = definition.substring(0, definition.indexOf(" ADD CONSTRAINT "));
    return new Step("", table + " DROP FOREIGN KEY IF EXISTS " + Sql.quoted(name), definition);
  }
}
