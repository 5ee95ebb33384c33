package yemble.jdbc.examination;

import java.util.ArrayList;
import java.util.List;
import yemble.core.problem.Problem;
import yemble.core.schema.Schema;
import yemble.core.schema.SchemaObject;
import yemble.core.store.Remark;
import yemble.core.store.Target;

/** Collects what is found out about a database. */
public final class Remarks {
  private static final int SHOWN = 5;
  private static final int CLOCK_SECONDS = 60;

  private final List<Remark> all = new ArrayList<>();

  public List<Remark> all() {
    return all;
  }

  public void ok(String subject, String text) {
    all.add(Remark.ok(subject, text));
  }

  public void warning(String subject, String text) {
    all.add(Remark.warning(subject, text));
  }

  public void problem(String subject, String text) {
    all.add(Remark.problem(subject, text));
  }

  /** What kept the database from being looked at. */
  public void unreachable(Problem problem) {
    problem(
        "reachable",
        problem.what()
            + (problem.why().isEmpty() ? "" : ": " + problem.why())
            + (problem.remedy().isEmpty() ? "" : "; " + problem.remedy()));
  }

  /**
   * Whether the server's clock agrees with this machine's.
   *
   * @param milliseconds since 1970, by the server
   */
  public void clock(long milliseconds) {
    long off = Math.abs(milliseconds - System.currentTimeMillis()) / 1000;
    if (off < CLOCK_SECONDS) {
      ok("clock", "agrees with this machine's");
    } else {
      warning("clock", off + " seconds apart from this machine's");
    }
  }

  /** The connection could write. */
  public void canWrite() {
    problem("read only", "the connection can write: do not go on, and report this");
  }

  /**
   * How large a schema is.
   *
   * @param keyless how many tables have no key
   */
  public void schema(Schema schema, long keyless) {
    ok(
        "schema",
        schema.tables().size()
            + " tables, "
            + schema.tables().stream().mapToInt(t -> t.columns().size()).sum()
            + " columns, "
            + schema.foreignKeys().size()
            + " foreign keys"
            + (keyless > 0
                ? ", " + keyless + (keyless == 1 ? " table" : " tables") + " without a key"
                : ""));
    if (schema.foreignKeys().isEmpty() && schema.tables().size() > 1) {
      warning(
          "links",
          "the database declares no foreign keys: only links of the project make rows bring others;"
              + " yemble links --suggest looks for them");
    }
  }

  /** What of a schema stays behind. */
  public void notCarried(Schema schema) {
    List<String> left =
        schema.objects().stream().filter(object -> !object.carried()).map(Remarks::named).toList();
    if (!left.isEmpty()) {
      warning("schema", "not carried over: " + named(left));
    }
  }

  private static String named(SchemaObject object) {
    return object.type() == SchemaObject.Type.OTHER
        ? object.name()
        : object.type() + " " + object.name();
  }

  /** What a target holds. */
  public void content(Target target) {
    if (target.content().isEmpty()) {
      ok("content", "empty");
    } else if (target.mark().isPresent()) {
      ok("content", target.mark().get().description());
    } else {
      warning(
          "content",
          "holds what Yemble did not make ("
              + named(target.content())
              + "); a load refuses names it needs");
    }
  }

  /** The first of some names. */
  public static String named(List<String> names) {
    int shown = Math.min(SHOWN, names.size());
    String list = String.join(", ", names.subList(0, shown));
    return names.size() > shown ? list + " and " + (names.size() - shown) + " more" : list;
  }
}
