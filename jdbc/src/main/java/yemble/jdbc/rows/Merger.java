package yemble.jdbc.rows;

import java.math.BigInteger;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import yemble.core.merge.MergePlan;
import yemble.core.merge.MergePlan.Follow;
import yemble.core.merge.MergePlan.Part;
import yemble.core.merge.Tally;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Loading.Broken;
import yemble.core.project.Loading.Way;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.store.Waited;
import yemble.core.wording.Sentence;

/**
 * Merges rows that wait in tables of their own into those of a target, in sets.
 *
 * <p>For each table two tables of the session are made: one of keys ({@code o} as it waits, {@code
 * n} as it will be), in the order in which keys follow each other; and, once all keys are known,
 * one of decisions, which has with each key what becomes of its row: inserted ({@code I}), updated
 * ({@code U}), left ({@code L}), conflicting ({@code C}). What is written, and what is asked
 * afterwards, joins the rows that wait with these.
 */
public final class Merger {
  private final MergeDialect sql;
  private final MergePlan plan;
  private final Function<Column, Optional<BigInteger>> greatest;
  private final Map<TableName, Integer> numbers = new HashMap<>();

  /** How many keys are known of a table: those of rows that wait, and of references to nothing. */
  private final Map<TableName, Long> came = new HashMap<>();

  /**
   * @param greatest the greatest value of a column of whole numbers
   */
  public Merger(MergeDialect sql, MergePlan plan, Function<Column, Optional<BigInteger>> greatest) {
    this.sql = sql;
    this.plan = plan;
    this.greatest = greatest;
    plan.parts().forEach(part -> numbers.put(part.name(), numbers.size() + 1));
  }

  private String keys(TableName table) {
    return "yemble_keys_of_" + numbers.get(table);
  }

  private String decisions(TableName table) {
    return "yemble_decided_" + numbers.get(table);
  }

  private String column(String alias, String name) {
    return alias + "." + sql.quoted(name);
  }

  private static String list(
      int size, String separator, java.util.function.IntFunction<String> of) {
    return IntStream.range(0, size).mapToObj(of).collect(Collectors.joining(separator));
  }

  /** Finds out what becomes of each row. */
  public List<Tally> decide() {
    String doing = "";
    try {
      for (Part part : plan.parts()) {
        doing = part.name().toString();
        if (!part.key().isEmpty()) {
          keys(part);
        }
      }
      for (Part part : plan.parts()) {
        if (!part.key().isEmpty()) {
          came.put(part.name(), count("SELECT count(*) FROM " + keys(part.name())));
        }
      }
      List<Tally> tallies = new ArrayList<>();
      for (Part part : plan.parts()) {
        doing = part.name().toString();
        agree(part);
        chance(part);
        tallies.add(part.key().isEmpty() ? keyless(part) : decided(part));
      }
      return tallies;
    } catch (SQLException e) {
      throw sql.problem(e, "what becomes of the rows cannot be found out", doing);
    }
  }

  /** The same for a table of keys or of decisions. */
  private void make(Part part, String name, List<String> columns, String query)
      throws SQLException {
    List<Column> key =
        part.key().stream().map(column -> part.table().column(column).orElseThrow()).toList();
    sql.execute(sql.removed(name));
    for (String statement : sql.keyTable(name, columns, key, query)) {
      sql.execute(statement);
    }
    for (char letter : new char[] {'o', 'n'}) {
      for (String index : sql.indexed(name, letter, key)) {
        sql.execute(index);
      }
    }
    analyze(name);
  }

  private void analyze(String name) throws SQLException {
    if (!sql.analyzed(name).isEmpty()) {
      sql.execute(sql.analyzed(name));
    }
  }

  /** The columns of a table of keys. */
  private static List<String> columns(Part part, String... further) {
    List<String> columns = new ArrayList<>();
    for (int i = 1; i <= part.key().size(); i++) {
      columns.add("o_" + i);
    }
    for (int i = 1; i <= part.key().size(); i++) {
      columns.add("n_" + i);
    }
    columns.addAll(List.of(further));
    return columns;
  }

  private void make(String name, String query) throws SQLException {
    sql.execute(sql.removed(name));
    sql.execute(sql.temporary(name, query));
    analyze(name);
  }

  /** A table whose rows nothing tells apart takes none. */
  private Tally keyless(Part part) throws SQLException {
    long rows = count("SELECT count(*) FROM " + sql.staged(part.name()));
    if (rows > 0) {
      throw Problem.of(Failure.ROWS_ALIKE, "nothing tells the rows of " + part.name() + " apart")
          .at(part.name().toString())
          .because("it has no primary key, and a second load would double them")
          .remedy(
              (plan.way() == Way.ALONGSIDE ? "say same:" : "say match:")
                  + " with columns that do, or keep it without rows: empty: ["
                  + part.name()
                  + "]");
    }
    return new Tally(part.name(), 0, 0, 0, Map.of());
  }

  /** A number of rows with what they do. */
  private static String rows(long number, String one, String several) {
    return String.format(
        Locale.ROOT,
        "%,d %s %s",
        number,
        number == 1 ? "row" : "rows",
        number == 1 ? one : several);
  }

  private long count(String query) throws SQLException {
    String found = sql.one(query);
    return found == null ? 0 : Long.parseLong(found);
  }

  // ---- keys

  private void keys(Part part) throws SQLException {
    int size = part.key().size();
    List<Follow> follows =
        part.follows().stream()
            .filter(f -> !f.link().parent().equals(part.name()))
            .filter(f -> f.link().childColumns().stream().anyMatch(part::isKnownBy))
            .toList();
    Waiting waiting = new Waiting(part, follows);
    KeptKeys kept = kept(part);
    boolean known = kept.areThere();
    boolean matches = !part.match().isEmpty();
    StringBuilder query = new StringBuilder("SELECT ");
    for (int i = 0; i < size; i++) {
      String name = part.key().get(i);
      query.append(column("s", name)).append(" AS o_").append(i + 1).append(", ");
      query.append(waiting.value(name)).append(" AS e_").append(i + 1);
      if (matches) {
        query.append(", ").append(column("t", name)).append(" AS t_").append(i + 1);
      }
      if (known) {
        query.append(", ").append(kept.now(i)).append(" AS r_").append(i + 1);
      }
      query.append(i + 1 < size ? ", " : "");
    }
    query.append(waiting.from());
    if (matches) {
      query.append(" LEFT JOIN ").append(sql.target(part.name())).append(" t ON ");
      query.append(
          list(
              part.match().size(),
              " AND ",
              i -> column("t", part.match().get(i)) + " = " + waiting.value(part.match().get(i))));
    }
    if (known) {
      query.append(kept.join());
    }
    String draft = "yemble_draft";
    make(draft, query.toString());
    if (matches) {
      told(part, draft);
    } else if (known) {
      keptOnce(part, draft);
    }
    Map<String, String> before = new LinkedHashMap<>();
    if (known) {
      before.put("r_", "O");
    }
    if (matches) {
      before.put("t_", "S");
    }
    String state =
        either(before.keySet().stream().toList(), lead -> "'" + before.get(lead) + "'", "' '");
    String table = keys(part.name());
    String old = list(size, ", ", i -> "o_" + (i + 1));
    long fresh = part.fresh() < 0 ? 0 : freshRows(draft, before.keySet());
    BigInteger base = part.fresh() >= 0 && fresh > 0 ? base(part, fresh) : BigInteger.ZERO;
    String number = "row_number() OVER (PARTITION BY " + state + " ORDER BY " + old + ")";
    make(
        part,
        table,
        columns(part, "known"),
        "SELECT "
            + old
            + ", "
            + list(
                size,
                ", ",
                i -> {
                  String value = i == part.fresh() ? numbered(part, base, number) : "e_" + (i + 1);
                  return either(List.copyOf(before.keySet()), lead -> lead + (i + 1), value)
                      + " AS n_"
                      + (i + 1);
                })
            + ", "
            + state
            + " AS known FROM "
            + draft);
    sql.execute(sql.removed(draft));
    if (part.fresh() >= 0 && !part.pattern().isEmpty()) {
      free(part, fresh);
    }
    if (plan.way() == Way.ALONGSIDE && plan.broken() == Broken.FRESH && part.fresh() >= 0) {
      nothings(part, base.add(BigInteger.valueOf(fresh)));
    }
  }

  /** The first of several that a row has, else something of its own. */
  private static String either(List<String> leads, Function<String, String> of, String other) {
    return leads.isEmpty()
        ? other
        : "CASE"
            + leads.stream()
                .map(lead -> " WHEN " + lead + "1 IS NOT NULL THEN " + of.apply(lead))
                .collect(Collectors.joining())
            + " ELSE "
            + other
            + " END";
  }

  private long freshRows(String draft, Set<String> before) throws SQLException {
    return count(
        "SELECT count(*) FROM "
            + draft
            + " WHERE 1 = 1"
            + before.stream()
                .map(lead -> " AND " + lead + "1 IS NULL")
                .collect(Collectors.joining()));
  }

  private String numbered(Part part, BigInteger base, String number) {
    return part.pattern().isEmpty() ? base + " + " + number : text(part, base.toString(), number);
  }

  private String text(Part part, String base, String number) {
    int at = part.pattern().indexOf("{number}");
    return sql.joined(
        part.pattern().substring(0, at),
        "(" + base + " + " + number + ")",
        part.pattern().substring(at + "{number}".length()));
  }

  /** The number behind which fresh ones begin. */
  private BigInteger base(Part part, long rows) throws SQLException {
    if (!part.pattern().isEmpty()) {
      return BigInteger.ZERO;
    }
    String name = part.key().get(part.fresh());
    Column column = part.table().column(name).orElseThrow();
    String most = sql.one("SELECT max(" + sql.quoted(name) + ") FROM " + sql.target(part.name()));
    BigInteger base = most == null ? BigInteger.ZERO : new BigInteger(most).max(BigInteger.ZERO);
    if (kept(part).areBeside()) {
      String kept = sql.one("SELECT max(n_" + (part.fresh() + 1) + ") FROM " + kept(part).table());
      base = kept == null ? base : base.max(new BigInteger(kept));
    }
    BigInteger last = base.add(BigInteger.valueOf(rows));
    BigInteger limit = greatest.apply(column).orElse(last);
    if (last.compareTo(limit) > 0) {
      throw Problem.of(Failure.KEYS_SPENT, "the fresh keys do not fit " + part.name() + "." + name)
          .at(part.name() + "." + name)
          .because(
              String.format(
                  Locale.ROOT,
                  "%,d rows need fresh ones, %,d are left in %s",
                  rows,
                  limit.subtract(base).max(BigInteger.ZERO),
                  column.type()));
    }
    return base;
  }

  /** Texts as keys: numbers go up until none of them is taken. */
  private void free(Part part, long rows) throws SQLException {
    String taken =
        "SELECT count(*) FROM "
            + keys(part.name())
            + " k JOIN "
            + sql.target(part.name())
            + " t ON "
            + list(
                part.key().size(),
                " AND ",
                i -> column("t", part.key().get(i)) + " = k.n_" + (i + 1))
            + " WHERE k.known = ' '";
    BigInteger base = BigInteger.ZERO;
    while (count(taken) > 0) {
      base = base.add(BigInteger.valueOf(rows));
      int size = part.key().size();
      String again = "yemble_draft";
      BigInteger from = base;
      make(
          again,
          "SELECT "
              + list(size, ", ", i -> "o_" + (i + 1))
              + ", "
              + list(
                  size,
                  ", ",
                  i ->
                      i == part.fresh()
                          ? "CASE WHEN known <> ' ' THEN n_"
                              + (i + 1)
                              + " ELSE "
                              + text(
                                  part,
                                  from.toString(),
                                  "row_number() OVER (PARTITION BY known ORDER BY "
                                      + list(size, ", ", j -> "o_" + (j + 1))
                                      + ")")
                              + " END AS n_"
                              + (i + 1)
                          : "n_" + (i + 1))
              + ", known FROM "
              + keys(part.name()));
      make(part, keys(part.name()), columns(part, "known"), "SELECT * FROM " + again);
      sql.execute(sql.removed(again));
    }
  }

  /** Values that refer to nothing get fresh ones, under which there is nothing either. */
  private void nothings(Part part, BigInteger base) throws SQLException {
    BigInteger next = base.max(base(part, 0));
    for (Part child : plan.parts()) {
      for (Follow follow : child.follows()) {
        Link link = follow.link();
        if (!link.parent().equals(part.name())
            || link.childColumns().size() != 1
            || part.key().size() != 1) {
          continue;
        }
        String value = column("s", link.childColumns().get(0));
        String broken =
            "SELECT DISTINCT "
                + value
                + " AS v"
                + new Waiting(child, List.of(follow)).from()
                + " WHERE "
                + new Waiting(child, List.of(follow)).exists(follow, 0)
                + " AND f1.o_1 IS NULL";
        String draft = "yemble_draft";
        if (kept(part).areBeside()) {
          make(draft, broken);
          sql.execute(
              "INSERT INTO "
                  + keys(part.name())
                  + " SELECT r.o_1, r.n_1, 'N' FROM "
                  + kept(part).table()
                  + " r JOIN "
                  + draft
                  + " d ON d.v = r.o_1");
        }
        make(draft, broken);
        long rows = count("SELECT count(*) FROM " + draft);
        BigInteger from = next.max(base(part, rows));
        sql.execute(
            "INSERT INTO "
                + keys(part.name())
                + " SELECT d.v, "
                + from
                + " + row_number() OVER (ORDER BY d.v), 'N' FROM "
                + draft
                + " d");
        next = from.add(BigInteger.valueOf(rows));
        sql.execute(sql.removed(draft));
      }
    }
  }

  /** No two rows of the target may say that they came as the same one. */
  private void keptOnce(Part part, String draft) throws SQLException {
    long several =
        count(
            "SELECT count(*) FROM (SELECT 1 FROM "
                + draft
                + " GROUP BY "
                + list(part.key().size(), ", ", i -> "o_" + (i + 1))
                + " HAVING count(*) > 1) d");
    if (several > 0) {
      throw Problem.of(
              Failure.ROWS_ALIKE,
              "several rows of " + part.name() + " are kept under the same key of the source")
          .at(part.name() + plan.helper().map(helper -> "." + helper.name()).orElse(""))
          .because(rows(several, "has", "have") + " been copied in the target, with this column")
          .remedy("set it to NULL in those that did not come from the source");
    }
  }

  /** Each row must find one row at most, and no two the same. */
  private void told(Part part, String draft) throws SQLException {
    String columns = String.join(", ", part.match());
    long found =
        count(
            "SELECT count(*) FROM (SELECT 1 FROM "
                + draft
                + " GROUP BY "
                + list(part.key().size(), ", ", i -> "o_" + (i + 1))
                + " HAVING count(*) > 1) d");
    long shared =
        count(
            "SELECT count(*) FROM (SELECT 1 FROM "
                + draft
                + " WHERE t_1 IS NOT NULL GROUP BY "
                + list(part.key().size(), ", ", i -> "t_" + (i + 1))
                + " HAVING count(*) > 1) d");
    if (found + shared > 0) {
      throw Problem.of(
              Failure.ROWS_ALIKE, columns + " does not tell the rows of " + part.name() + " apart")
          .at(part.name().toString())
          .because(
              found > 0
                  ? rows(found, "finds", "find") + " several rows of the target"
                  : "several rows find the same one: "
                      + rows(shared, "of the target", "of the target"))
          .remedy("name columns that are different in every row");
    }
  }

  // ---- rows that wait, with the keys that their links lead to

  /** A query's FROM over the rows that wait for a table. */
  private final class Waiting {
    private final Part part;
    private final List<Follow> follows;

    Waiting(Part part, List<Follow> follows) {
      this.part = part;
      this.follows = follows;
    }

    String from() {
      StringBuilder from = new StringBuilder(" FROM ");
      boolean conditional = follows.stream().anyMatch(f -> !f.link().condition().isEmpty());
      if (conditional) {
        from.append("(SELECT w.*");
        for (int f = 0; f < follows.size(); f++) {
          String condition = follows.get(f).link().condition();
          if (!condition.isEmpty()) {
            from.append(", CASE WHEN (\n").append(condition).append("\n) THEN 1 ELSE 0 END");
            from.append(" AS yemble_if_").append(f + 1);
          }
        }
        from.append(" FROM ").append(sql.staged(part.name())).append(" w) s");
      } else {
        from.append(sql.staged(part.name())).append(" s");
      }
      for (int f = 0; f < follows.size(); f++) {
        Link link = follows.get(f).link();
        String alias = "f" + (f + 1);
        from.append(" LEFT JOIN ").append(keys(link.parent())).append(' ').append(alias);
        from.append(" ON ");
        from.append(
            list(
                link.childColumns().size(),
                " AND ",
                i ->
                    column("s", link.childColumns().get(i))
                        + " = "
                        + alias
                        + ".o_"
                        + (position(link, i) + 1)));
        if (!link.condition().isEmpty()) {
          from.append(" AND s.yemble_if_").append(f + 1).append(" = 1");
        }
      }
      return from.toString();
    }

    /** Which column of the parent's key the column of a link leads to, from 0. */
    private int position(Link link, int column) {
      return plan.part(link.parent()).key().indexOf(link.parentColumns().get(column));
    }

    /** What a column becomes, without clearing. */
    private String followed(String name) {
      List<String> values = new ArrayList<>();
      for (int f = 0; f < follows.size(); f++) {
        int at = follows.get(f).link().childColumns().indexOf(name);
        if (at >= 0) {
          values.add("f" + (f + 1) + ".n_" + (position(follows.get(f).link(), at) + 1));
        }
      }
      return values.isEmpty()
          ? column("s", name)
          : "coalesce(" + String.join(", ", values) + ", " + column("s", name) + ")";
    }

    /** What a column of a row becomes. */
    String value(String name) {
      String value = followed(name);
      if (plan.way() == Way.ALONGSIDE && plan.broken() == Broken.NULL) {
        for (int f = 0; f < follows.size(); f++) {
          Follow follow = follows.get(f);
          if (follow.cleared().contains(name)) {
            value =
                "CASE WHEN "
                    + exists(follow, f)
                    + " AND f"
                    + (f + 1)
                    + ".o_1 IS NULL THEN NULL ELSE "
                    + value
                    + " END";
          }
        }
      }
      return value;
    }

    private String exists(Follow follow, int f) {
      return Merger.this.exists(part, follow)
          + (follow.link().condition().isEmpty() ? "" : " AND s.yemble_if_" + (f + 1) + " = 1");
    }
  }

  /** Whether a link is there for a row {@code s}, its condition apart. */
  private String exists(Part part, Follow follow) {
    return list(
        follow.link().childColumns().size(),
        " AND ",
        i -> column("s", follow.link().childColumns().get(i)) + " IS NOT NULL");
  }

  /** Links that share a column must make one value of it. */
  private void agree(Part part) throws SQLException {
    Waiting waiting = new Waiting(part, part.follows());
    for (Column column : part.columns()) {
      List<Integer> through = new ArrayList<>();
      for (int f = 0; f < part.follows().size(); f++) {
        if (part.follows().get(f).link().childColumns().contains(column.name())) {
          through.add(f);
        }
      }
      for (int i = 1; i < through.size(); i++) {
        String one = shared(part, waiting, through.get(0), column.name());
        String other = shared(part, waiting, through.get(i), column.name());
        long rows = count("SELECT count(*)" + waiting.from() + " WHERE " + one + " <> " + other);
        if (rows > 0) {
          throw Problem.of(
                  Failure.KEYS_TAKEN,
                  "two links give " + part.name() + "." + column.name() + " different fresh values")
              .at(part.name() + "." + column.name())
              .because(
                  "in "
                      + rows(rows, "", "").strip()
                      + ": "
                      + part.follows().get(through.get(0)).link()
                      + " and "
                      + part.follows().get(through.get(i)).link())
              .remedy("cut one of the links for this job, or load into an empty target");
        }
      }
    }
  }

  private String shared(Part part, Waiting waiting, int follow, String column) {
    Link link = part.follows().get(follow).link();
    return "f"
        + (follow + 1)
        + ".n_"
        + (waiting.position(link, link.childColumns().indexOf(column)) + 1);
  }

  /** References to nothing must not come to lead to a row by chance. */
  private void chance(Part part) throws SQLException {
    if (plan.way() != Way.ALONGSIDE) {
      return;
    }
    for (Follow follow : part.links()) {
      Link link = follow.link();
      boolean follows = part.follows().contains(follow);
      boolean settled =
          follows
              && (plan.broken() == Broken.FRESH
                  || plan.broken() == Broken.NULL && !follow.cleared().isEmpty());
      Part parent = plan.part(link.parent());
      if (settled || parent.key().isEmpty()) {
        continue;
      }
      String condition = link.condition().isEmpty() ? "" : " AND (\n" + link.condition() + "\n)";
      String nothing =
          "SELECT "
              + list(
                  link.childColumns().size(),
                  ", ",
                  i -> column("s", link.childColumns().get(i)) + " AS v_" + (i + 1))
              + " FROM (SELECT * FROM "
              + sql.staged(part.name())
              + " WHERE 1 = 1"
              + condition
              + ") s LEFT JOIN "
              + sql.staged(link.parent())
              + " p ON "
              + list(
                  link.childColumns().size(),
                  " AND ",
                  i ->
                      column("p", link.parentColumns().get(i))
                          + " = "
                          + column("s", link.childColumns().get(i)))
              + " WHERE "
              + exists(part, follow)
              + " AND "
              + column("p", link.parentColumns().get(0))
              + " IS NULL";
      String met =
          "EXISTS (SELECT 1 FROM "
              + sql.target(link.parent())
              + " t WHERE "
              + list(
                  link.childColumns().size(),
                  " AND ",
                  i -> column("t", link.parentColumns().get(i)) + " = d.v_" + (i + 1))
              + ")";
      if (follows) {
        met +=
            " OR EXISTS (SELECT 1 FROM "
                + keys(link.parent())
                + " k WHERE "
                + list(
                    link.childColumns().size(),
                    " AND ",
                    i ->
                        "k.n_"
                            + (parent.key().indexOf(link.parentColumns().get(i)) + 1)
                            + " = d.v_"
                            + (i + 1))
                + ")";
      }
      long rows = count("SELECT count(*) FROM (" + nothing + ") d WHERE " + met);
      if (rows > 0) {
        throw Problem.of(
                Failure.KEYS_TAKEN, "references to nothing would come to lead to a row by chance")
            .at(link.toString())
            .because(
                rows(rows, "refers", "refer")
                    + " to nothing in the source, and the target has a row there")
            .remedy(
                "say broken: null or broken: fresh below alongside:, or settle the link for this"
                    + " job: broken: leave-out");
      }
    }
  }

  // ---- decisions

  private String targetKey(Part part, String alias, String key) {
    return list(
        part.key().size(),
        " AND ",
        i -> sql.sameKey(column(alias, part.key().get(i)), key + ".n_" + (i + 1)));
  }

  private String waitingKey(Part part, String key) {
    return list(
        part.key().size(),
        " AND ",
        i -> sql.sameKey(column("s", part.key().get(i)), key + ".o_" + (i + 1)));
  }

  private Tally decided(Part part) throws SQLException {
    Waiting waiting = new Waiting(part, part.follows());
    int size = part.key().size();
    List<Column> compared =
        plan.way() == Way.ADD
            ? part.columns().stream().filter(c -> !part.key().contains(c.name())).toList()
            : part.updated();
    String differs =
        compared.isEmpty()
            ? "1 = 0"
            : compared.stream()
                .map(c -> sql.differs(c, waiting.value(c.name()), column("t", c.name())))
                .collect(Collectors.joining(" OR "));
    String there = column("t", part.key().get(0)) + " IS NOT NULL";
    // A row that is found by other columns than its key is not the one that has its key.
    String clash =
        (part.match().isEmpty() ? "" : " WHEN " + there + " AND k.known = ' ' THEN 'C'")
            + clash(part, waiting);
    there += part.match().isEmpty() ? "" : " AND k.known <> ' '";
    String act =
        switch (plan.way()) {
          case ADD ->
              "CASE WHEN "
                  + there
                  + " THEN CASE WHEN "
                  + differs
                  + " THEN 'C0' ELSE 'L' END"
                  + clash
                  + " ELSE 'I' END";
          case UPDATE ->
              "CASE WHEN "
                  + there
                  + " AND NOT ("
                  + differs
                  + ") THEN 'L'"
                  + clash
                  + " WHEN "
                  + there
                  + " THEN 'U' ELSE 'I' END";
          default ->
              "CASE WHEN k.known = 'S' THEN 'L' WHEN "
                  + there
                  + " AND NOT ("
                  + differs
                  + ") THEN 'L' WHEN "
                  + there
                  + " AND k.known <> 'O' THEN 'C0'"
                  + clash
                  + " WHEN "
                  + there
                  + " THEN 'U' ELSE 'I' END";
        };
    make(
        part,
        decisions(part.name()),
        columns(part, "known", "act"),
        "SELECT "
            + list(size, ", ", i -> "k.o_" + (i + 1))
            + ", "
            + list(size, ", ", i -> "k.n_" + (i + 1))
            + ", k.known, "
            + act
            + " AS act"
            + waiting.from()
            + " JOIN "
            + keys(part.name())
            + " k ON "
            + waitingKey(part, "k")
            + " LEFT JOIN "
            + sql.target(part.name())
            + " t ON "
            + targetKey(part, "t", "k"));
    Map<String, Long> acts = acts(part);
    while (plan.leavesConflicts() && left(part, waiting, acts)) {
      acts = acts(part);
    }
    Tally tally =
        new Tally(
            part.name(),
            acts.getOrDefault("I", 0L),
            acts.getOrDefault("U", 0L),
            acts.getOrDefault("L", 0L),
            conflicts(part, acts));
    long rows = count("SELECT count(*) FROM " + sql.staged(part.name()));
    if (tally.rows() != rows) {
      throw Problem.of(
              Failure.ROWS_ALIKE,
              String.join(", ", part.key())
                  + " does not tell the rows of "
                  + part.name()
                  + " apart")
          .at(part.name().toString())
          .because(
              rows(Math.abs(rows - tally.rows()), "has", "have")
                  + " no value in it, or it is there several times")
          .remedy("see that it is a key in the target, too, and that every row has a value in it");
    }
    return tally;
  }

  private Map<String, Long> acts(Part part) throws SQLException {
    Map<String, Long> acts = new TreeMap<>();
    sql.query(
        "SELECT act, count(*) FROM " + decisions(part.name()) + " GROUP BY act",
        row -> acts.put(row.getString(1), row.getLong(2)));
    return acts;
  }

  /**
   * A row of the target that stays because of a conflict keeps its unique values, and others that
   * would have got them conflict, too.
   *
   * @return whether there are such
   */
  private boolean left(Part part, Waiting waiting, Map<String, Long> acts) throws SQLException {
    if (part.uniques().isEmpty() || acts.keySet().stream().noneMatch(act -> act.startsWith("C"))) {
      return false;
    }
    StringBuilder cases = new StringBuilder();
    for (int i = 0; i < part.uniques().size(); i++) {
      cases
          .append(" WHEN d.act IN ('I', 'U') AND EXISTS (SELECT 1 FROM ")
          .append(sql.target(part.name()))
          .append(" u JOIN ")
          .append(decisions(part.name()))
          .append(" m ON ")
          .append(targetKey(part, "u", "m"))
          .append(" WHERE m.act LIKE 'C%' AND NOT (")
          .append(list(part.key().size(), " AND ", k -> "m.n_" + (k + 1) + " = d.n_" + (k + 1)))
          .append(") AND ")
          .append(
              part.uniques().get(i).stream()
                  .map(name -> column("u", name) + " = " + waiting.value(name))
                  .collect(Collectors.joining(" AND ")))
          .append(") THEN 'C")
          .append(i + 1)
          .append('\'');
    }
    String draft = "yemble_draft";
    String keys =
        list(part.key().size(), ", ", i -> "d.o_" + (i + 1))
            + ", "
            + list(part.key().size(), ", ", i -> "d.n_" + (i + 1));
    make(
        draft,
        "SELECT "
            + keys
            + ", d.known, CASE"
            + cases
            + " ELSE d.act END AS act"
            + waiting.from()
            + " JOIN "
            + decisions(part.name())
            + " d ON "
            + waitingKey(part, "d"));
    make(part, decisions(part.name()), columns(part, "known", "act"), "SELECT * FROM " + draft);
    sql.execute(sql.removed(draft));
    return !acts(part).equals(acts);
  }

  /** How many rows conflict, by what they conflict in. */
  private static Map<String, Long> conflicts(Part part, Map<String, Long> acts) {
    Map<String, Long> conflicts = new LinkedHashMap<>();
    acts.forEach(
        (act, rows) -> {
          if (act.startsWith("C")) {
            int unique = act.equals("C") ? -1 : Integer.parseInt(act.substring(1)) - 1;
            List<String> columns = unique < 0 ? part.key() : part.uniques().get(unique);
            conflicts.put(
                "("
                    + String.join(", ", columns)
                    + ") "
                    + (act.equals("C0") ? "is there with other content" : "is held by another row"),
                rows);
          }
        });
    return conflicts;
  }

  /**
   * The cases in which another row of the target, which stays, holds a value that must be unique:
   * {@code C1} for the first unique key, and so on.
   */
  private String clash(Part part, Waiting waiting) {
    String replaced =
        switch (plan.way()) {
          case UPDATE -> "";
          case ALONGSIDE -> " AND m.known = 'O'";
          default ->
              " AND "
                  + list(
                      part.key().size(),
                      " AND ",
                      i -> sql.sameKey("m.n_" + (i + 1), "k.n_" + (i + 1)));
        };
    StringBuilder cases = new StringBuilder();
    for (int i = 0; i < part.uniques().size(); i++) {
      cases
          .append(" WHEN EXISTS (SELECT 1 FROM ")
          .append(sql.target(part.name()))
          .append(" u WHERE ")
          .append(
              part.uniques().get(i).stream()
                  .map(name -> column("u", name) + " = " + waiting.value(name))
                  .collect(Collectors.joining(" AND ")))
          .append(" AND NOT EXISTS (SELECT 1 FROM ")
          .append(keys(part.name()))
          .append(" m WHERE ")
          .append(targetKey(part, "u", "m"))
          .append(replaced)
          .append(")) THEN 'C")
          .append(i + 1)
          .append('\'');
    }
    return cases.toString();
  }

  // ---- putting

  /** Merges the rows as decided. */
  public void put() {
    String doing = "";
    try {
      for (Part part : plan.parts()) {
        doing = part.name().toString();
        if (!part.key().isEmpty()) {
          update(part);
          insert(part);
        }
      }
      for (Part part : plan.parts()) {
        doing = part.name().toString();
        if (part.keeps() && came.getOrDefault(part.name(), 0L) > 0) {
          kept(part).remember(decisions(part.name()), keys(part.name()));
        }
      }
    } catch (SQLException e) {
      throw sql.problem(e, "the rows cannot be merged", doing);
    }
  }

  /** The values of each row that is decided on in a way, each under its column's name. */
  private String rows(Part part, List<Column> columns, String act) {
    Waiting waiting = new Waiting(part, part.follows());
    List<String> values = new ArrayList<>();
    for (Column column : columns) {
      int key = part.key().indexOf(column.name());
      String value = key >= 0 ? "d.n_" + (key + 1) : waiting.value(column.name());
      values.add(value + " AS " + sql.quoted(column.name()));
    }
    return "SELECT "
        + String.join(", ", values)
        + waiting.from()
        + " JOIN "
        + decisions(part.name())
        + " d ON "
        + waitingKey(part, "d")
        + " WHERE d.act = '"
        + act
        + "'";
  }

  private void insert(Part part) throws SQLException {
    sql.execute(
        "INSERT INTO "
            + sql.target(part.name())
            + " ("
            + part.columns().stream()
                .map(column -> sql.quoted(column.name()))
                .collect(Collectors.joining(", "))
            + ") "
            + sql.inserting()
            + rows(part, part.columns(), "I"));
  }

  /**
   * Rows that are updated may exchange unique values, which no engine lets them do one by one: so
   * these values go first, where the column may be NULL.
   */
  private void makeWay(Part part, List<String> unique) throws SQLException {
    Optional<Column> nullable =
        part.updated().stream()
            .filter(column -> unique.contains(column.name()))
            .filter(column -> part.table().column(column.name()).orElseThrow().nullable())
            .findFirst();
    if (nullable.isEmpty()) {
      return;
    }
    List<Column> wanted =
        part.columns().stream()
            .filter(c -> unique.contains(c.name()) || part.key().contains(c.name()))
            .toList();
    long exchanged =
        count(
            "SELECT count(*) FROM ("
                + rows(part, wanted, "U")
                + ") x JOIN "
                + sql.target(part.name())
                + " t ON "
                + unique.stream()
                    .map(name -> column("t", name) + " = " + column("x", name))
                    .collect(Collectors.joining(" AND "))
                + " WHERE NOT ("
                + part.key().stream()
                    .map(name -> sql.sameKey(column("t", name), column("x", name)))
                    .collect(Collectors.joining(" AND "))
                + ")");
    if (exchanged > 0) {
      String emptied = sql.quoted(nullable.get().name());
      sql.execute(
          sql.update(
              sql.target(part.name()),
              List.of(emptied),
              "SELECT "
                  + part.key().stream()
                      .map(name -> column("y", name))
                      .collect(Collectors.joining(", "))
                  + ", CASE WHEN 1 = 0 THEN y."
                  + emptied
                  + " END AS "
                  + emptied
                  + " FROM ("
                  + rows(part, wanted, "U")
                  + ") y",
              part.key().stream()
                  .map(name -> sql.sameKey(column("t", name), column("x", name)))
                  .collect(Collectors.joining(" AND "))));
    }
  }

  private void update(Part part) throws SQLException {
    if (plan.way() == Way.ADD || part.updated().isEmpty()) {
      return;
    }
    List<Column> columns =
        part.columns().stream().filter(c -> !part.leave().contains(c.name())).toList();
    for (List<String> unique : part.uniques()) {
      makeWay(part, unique);
    }
    sql.execute(
        sql.update(
            sql.target(part.name()),
            part.updated().stream().map(column -> sql.quoted(column.name())).toList(),
            rows(part, columns, "U"),
            part.key().stream()
                .map(name -> sql.sameKey(column("t", name), column("x", name)))
                .collect(Collectors.joining(" AND "))));
  }

  /**
   * What makes the place where old and new keys of a table are kept, if there is none and rows
   * come; after {@link #decide}.
   */
  public Optional<KeptKeys.Making> keeping(Part part) throws SQLException {
    return came.getOrDefault(part.name(), 0L) > 0 ? kept(part).making() : Optional.empty();
  }

  private KeptKeys kept(Part part) {
    return new KeptKeys(sql, plan, part);
  }

  // ---- afterwards

  /** What is not as it waited, or leads elsewhere. */
  public List<Sentence> faults() {
    List<Sentence> faults = new ArrayList<>();
    String doing = "";
    try {
      for (Part part : plan.parts()) {
        doing = part.name().toString();
        if (!part.key().isEmpty()) {
          lost(part, faults);
          for (Follow follow : part.links()) {
            astray(part, follow, faults);
          }
        }
      }
    } catch (SQLException e) {
      throw sql.problem(e, "the merged rows cannot be read", doing);
    }
    return faults;
  }

  private static final String PUT = ".act IN ('I', 'U')";

  /** Rows that are not there, or whose values are others, links and keys apart. */
  private void lost(Part part, List<Sentence> faults) throws SQLException {
    List<String> linked = new ArrayList<>(part.key());
    part.links().forEach(follow -> linked.addAll(follow.link().childColumns()));
    Map<Waited, String> checks = new LinkedHashMap<>();
    checks.put(Waited.GONE, column("t", part.key().get(0)) + " IS NULL");
    String differs =
        part.columns().stream()
            .filter(column -> !linked.contains(column.name()))
            .map(
                column ->
                    (part.leave().contains(column.name()) ? "d.act = 'I' AND " : "")
                        + sql.differs(
                            column, column("s", column.name()), column("t", column.name())))
            .map(test -> "(" + test + ")")
            .collect(Collectors.joining(" OR "));
    if (!differs.isEmpty()) {
      checks.put(
          Waited.NOT_AS_THEY_CAME,
          column("t", part.key().get(0)) + " IS NOT NULL AND (" + differs + ")");
    }
    for (Map.Entry<Waited, String> check : checks.entrySet()) {
      long rows =
          count(
              "SELECT count(*) FROM "
                  + decisions(part.name())
                  + " d"
                  + sql.inOrder()
                  + sql.staged(part.name())
                  + " s ON "
                  + waitingKey(part, "d")
                  + " LEFT JOIN "
                  + sql.target(part.name())
                  + " t ON "
                  + targetKey(part, "t", "d")
                  + " WHERE d"
                  + PUT
                  + " AND "
                  + check.getValue());
      if (rows > 0) {
        faults.add(check.getKey().of(rows).about(part.name()));
      }
    }
  }

  /** Rows whose link leads to another row than the one it led to before. */
  private void astray(Part part, Follow follow, List<Sentence> faults) throws SQLException {
    Link link = follow.link();
    Part parent = plan.part(link.parent());
    if (parent.key().isEmpty()) {
      return;
    }
    int size = link.childColumns().size();
    String condition = link.condition().isEmpty() ? "" : " WHERE (\n" + link.condition() + "\n)";
    long rows =
        count(
            "SELECT count(*) FROM "
                + decisions(part.name())
                + " d"
                + sql.inOrder()
                + "(SELECT * FROM "
                + sql.staged(part.name())
                + condition
                + ") s ON "
                + waitingKey(part, "d")
                + sql.inOrder()
                + sql.staged(parent.name())
                + " p ON "
                + list(
                    size,
                    " AND ",
                    i ->
                        column("s", link.childColumns().get(i))
                            + " = "
                            + column("p", link.parentColumns().get(i)))
                + sql.inOrder()
                + decisions(parent.name())
                + " e ON "
                + list(
                    parent.key().size(),
                    " AND ",
                    i -> sql.sameKey(column("p", parent.key().get(i)), "e.o_" + (i + 1)))
                + sql.inOrder()
                + sql.target(part.name())
                + " t ON "
                + targetKey(part, "t", "d")
                + " LEFT JOIN "
                + sql.target(parent.name())
                + " u ON "
                + targetKey(parent, "u", "e")
                + " WHERE d"
                + PUT
                + (part.leave().stream().anyMatch(link.childColumns()::contains)
                    ? " AND d.act = 'I'"
                    : "")
                + " AND NOT coalesce("
                + list(
                    size,
                    " AND ",
                    i ->
                        column("t", link.childColumns().get(i))
                            + " = "
                            + column("u", link.parentColumns().get(i)))
                + ", 1 = 0)");
    if (rows > 0) {
      faults.add(Waited.ASTRAY.of(rows).about(link));
    }
  }

  /** A condition for the rows of the target that the load neither inserts nor updates. */
  public String own(Part part) {
    int size = part.key().size();
    return size == 0
        ? ""
        : "NOT EXISTS (SELECT 1 FROM (SELECT "
            + list(size, ", ", i -> "n_" + (i + 1) + " AS yemble_n_" + (i + 1))
            + " FROM "
            + decisions(part.name())
            + " WHERE act IN ('I', 'U')) yemble_d WHERE "
            + list(
                size,
                " AND ",
                i -> sql.sameKey("yemble_d.yemble_n_" + (i + 1), sql.quoted(part.key().get(i))))
            + ")";
  }
}
