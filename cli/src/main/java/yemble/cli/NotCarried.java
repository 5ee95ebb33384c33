package yemble.cli;

import java.util.List;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;

/** What of a structure a target does not get. */
final class NotCarried {
  private NotCarried() {}

  /**
   * Names it, if there is any.
   *
   * @param schema what is made, and what could not be carried
   * @param crossed whether the target is of another engine
   */
  static void print(Output output, Schema schema, boolean crossed) {
    List<SchemaObject> left =
        schema.objects().stream().filter(object -> !object.carried()).toList();
    if (left.isEmpty()) {
      return;
    }
    output.line();
    output.line(
        crossed
            ? "  Not carried over, as another engine has no counterpart that is sure to be the same:"
            : "  Not carried over (other programs of the database fill them, from rows that are masked"
                + " now):");
    left.forEach(
        object ->
            output.line(
                "    "
                    + (object.type() == SchemaObject.Type.OTHER ? "" : object.type() + " ")
                    + object.name()));
  }
}
