package yemble.core.job;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import yemble.core.kind.Kinds;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Rewritten;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Condition;
import yemble.core.project.LinkRule.Broken;
import yemble.core.project.Pick;
import yemble.core.row.RowSet;
import yemble.core.schema.Column;
import yemble.core.schema.Lookup;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.verify.Check;
import yemble.core.verify.Outcome;
import yemble.core.wording.Sentence;
import yemble.core.yaml.Place;

/**
 * What of a copy that was rewritten before is not masked yet: rows that came since, and columns
 * that nobody had decided to mask. A row tells it, by its key, and never a value: somebody may bear
 * the name that another one was given.
 */
final class Unmasked {
  /** Of no row. */
  private static final String NOWHERE = "1 = 0";

  private static final int MOST_SHOWN = 3;

  private final Preparation job;
  private final Reader source;
  private final Passes passes;
  private final Map<TableName, Condition> said = new TreeMap<>();
  private final Map<TableName, String> changing = new TreeMap<>();
  private final Map<ColumnName, String> conditions = new HashMap<>();
  private final Map<TableName, RowSet> narrowed = new TreeMap<>();
  private final Map<TableName, Sentence> since = new TreeMap<>();
  private final List<String> untold = new ArrayList<>();
  private final List<Sentence> otherwise = new ArrayList<>();

  /**
   * Looks at every table.
   *
   * @param passes the rewrites so far
   * @param rows which rows are new, as a person says
   * @throws Problem of type REFUSED if it cannot be told, or if what is new would need originals
   *     that are gone
   */
  Unmasked(Preparation job, Passes passes, List<Pick> rows) {
    this.job = job;
    this.source = job.source();
    this.passes = passes;
    Lookup lookup = new Lookup(source.schema());
    for (Pick pick : rows) {
      Table table = lookup.table(pick.table(), pick.tableAt().toString());
      source.check(table, pick.where().sql());
      said.put(table.name(), pick.where());
      if (passes.before(table.name()).isEmpty()) {
        throw Problem.of(Failure.OPTION, "all rows of " + table.name() + " are new")
            .at(pick.tableAt().toString())
            .remedy("leave it out: a table that no rewrite has masked is masked whole");
      }
    }
    job.plan().tables().forEach(this::look);
    if (!untold.isEmpty()) {
      throw refused("nobody can tell which rows are new", untold)
          .remedy(
              "say which: --rows \"TABLE: CONDITION\", with 1 = 0 for none; or restore the copy"
                  + " again, and rewrite that");
    }
  }

  /** The tables that change, each with the condition of its rows that do; empty for all. */
  Map<TableName, String> changing() {
    return changing;
  }

  /** Whether a person says which rows of a table are new. */
  boolean isSaid(TableName table) {
    return said.containsKey(table);
  }

  /** The job, as far as it is about what is new. */
  Preparation job() {
    return job.within(conditions, narrowed);
  }

  /** What was not looked at, as it was masked before. */
  List<Outcome> findings() {
    List<Outcome> findings = new ArrayList<>();
    if (!since.isEmpty()) {
      findings.add(
          new Outcome(
              Check.ROWS_OF_BEFORE,
              Outcome.Result.NOT_CHECKED,
              JobWording.CHANGED_WITH_WHAT.of(),
              since.entrySet().stream().map(e -> e.getValue().about(e.getKey())).toList()));
    }
    if (!otherwise.isEmpty()) {
      findings.add(
          new Outcome(
              Check.AS_BEFORE, Outcome.Result.NOT_CHECKED, JobWording.OTHERWISE.of(), otherwise));
    }
    return findings;
  }

  private void look(TablePlan plan) {
    Table table = plan.table();
    TableName name = table.name();
    if (job.plan().request().empty().contains(name)) {
      if (source.count(table) > 0) {
        changing.put(name, "");
      }
      return;
    }
    Optional<LoadedTable> known = passes.before(name);
    Set<String> masked = new TreeSet<>();
    for (int position : plan.masked()) {
      masked.add(plan.columns().get(position).column().name());
    }
    if (known.isEmpty() || known.get().rewritten().get().masked().isEmpty()) {
      if (!masked.isEmpty() || isNulled(name)) {
        changing.put(name, "");
      }
      return;
    }
    Rewritten before = known.get().rewritten().get();
    Set<String> old = new TreeSet<>(masked);
    old.retainAll(before.masked().keySet());
    Set<String> fresh = new TreeSet<>(masked);
    fresh.removeAll(old);
    String rows = old.isEmpty() ? "" : rows(table, known.get());
    RowSet come =
        rows.isEmpty() ? new RowSet() : source.matching(table, new Condition(rows, said(name)));
    if (!come.isEmpty()) {
      arrived(plan, old, before);
    }
    if (!fresh.isEmpty()) {
      decided(plan, old, fresh);
    }
    for (String column : old) {
      if (!fresh.isEmpty() || come.isEmpty()) {
        conditions.put(
            table.name(table.column(column).orElseThrow()), come.isEmpty() ? NOWHERE : rows);
      }
    }
    if (!fresh.isEmpty()) {
      changing.put(name, "");
    } else if (come.isEmpty()) {
      narrowed.put(name, new RowSet());
    } else if (table.primaryKey().isEmpty()
        || table.primaryKey().stream().anyMatch(old::contains)
        || isNulled(name)) {
      // All of its rows go and come back.
      old.forEach(column -> conditions.put(table.name(table.column(column).orElseThrow()), rows));
      changing.put(name, "");
    } else {
      changing.put(name, rows);
      narrowed.put(name, come);
    }
  }

  private Place said(TableName name) {
    return said.containsKey(name) ? said.get(name).place() : Condition.NONE.place();
  }

  /** Whether references of a table that lead to nothing become NULL, which changes a link. */
  private boolean isNulled(TableName name) {
    return job.plan().request().rules().stream()
        .anyMatch(
            rule ->
                rule.link().child().equals(name) && (rule.cut() || rule.broken() == Broken.NULL));
  }

  /** The condition of the rows that came since; empty for none. */
  private String rows(Table table, LoadedTable known) {
    Rewritten before = known.rewritten().get();
    if (said.containsKey(table.name())) {
      return said.get(table.name()).sql();
    }
    Optional<List<Column>> columns = known.in(table);
    if (columns.isEmpty()) {
      untold.add(table.name() + ": it has lost a column");
      return "";
    }
    Loaded pass =
        passes.done().stream()
            .filter(p -> p.table(table.name()).filter(known::equals).isPresent())
            .findFirst()
            .orElseThrow();
    if (before.upto().isEmpty()) {
      if (!sums(table, source.all(table), known, pass).equals(known.sums())) {
        untold.add(
            table.name() + ": its rows are not what they were, and no key of it counts them");
      }
      return "";
    }
    String above = source.quoted(table.primaryKey().get(0)) + " > " + before.upto();
    RowSet old = source.all(table).copy();
    old.removeAll(source.matching(table, new Condition(above, Condition.NONE.place())));
    BucketSums sums = sums(table, old, known, pass);
    if (sums.equals(known.sums())) {
      return above;
    }
    if (sums.rows() > known.sums().rows()) {
      untold.add(
          String.format(
              Locale.ROOT,
              "%s: %,d rows came below %s, the last key of before",
              table.name(),
              sums.rows() - known.sums().rows(),
              before.upto()));
    } else if (!source.counters().containsKey(table.name())) {
      untold.add(
          table.name()
              + ": rows up to "
              + before.upto()
              + " were changed since, and nothing counts its keys: one may have come in the place"
              + " of another");
    } else {
      long gone = known.sums().rows() - sums.rows();
      since.put(
          table.name(),
          gone > 0
              ? JobWording.ROWS_GONE.of(gone, before.upto())
              : JobWording.AMONG_THOSE.of(before.upto()));
    }
    return above;
  }

  private BucketSums sums(Table table, RowSet rows, LoadedTable known, Loaded pass) {
    return RowSums.of(source, table, rows, known, pass.digestKey());
  }

  /** Looks whether rows that came since can be masked like those of before. */
  private void arrived(TablePlan plan, Set<String> old, Rewritten before) {
    TableName name = plan.table().name();
    for (String column : old) {
      if (refers(name, column)) {
        throw refused(
                "rows came whose references nobody can follow",
                List.of(
                    name
                        + "."
                        + column
                        + " is masked, and refers to rows of before, by their stand-ins, or to new"
                        + " ones"))
            .remedy("restore the copy again, and rewrite that");
      }
      if (!RulesDigest.of(plan, plan.column(column), job.key())
          .equals(before.masked().get(column))) {
        otherwise.add(JobWording.COLUMN.of(name + "." + column));
      }
    }
    if (plan.hasText()) {
      mentions(plan, "rows came with free text", job.plan().mentionable(name), texts(plan, old));
    }
  }

  /** Looks whether columns that were decided since can be masked beside stand-ins. */
  private void decided(TablePlan plan, Set<String> old, Set<String> fresh) {
    TableName name = plan.table().name();
    Set<String> texts = texts(plan, fresh);
    if (!texts.isEmpty()) {
      Set<ColumnName> mentionable = job.plan().mentionable(name);
      old.forEach(column -> mentionable.add(plan.table().name(plan.table().column(column).get())));
      mentions(plan, "free text is to be masked", mentionable, texts);
    }
    for (String column : fresh) {
      Set<String> read = new TreeSet<>(plan.column(column).rule().together());
      read.add(plan.column(column).rule().keyedBy());
      if (plan.column(column).rule().followsNames()) {
        plan.columns().stream()
            .filter(other -> other.masked() && Kinds.BUILT_IN.isName(other.kind()))
            .forEach(other -> read.add(other.column().name()));
      }
      if (!plan.column(column).rule().together().isEmpty()) {
        read.addAll(plan.table().primaryKey());
      }
      read.retainAll(old);
      if (!read.isEmpty()) {
        throw refused(
                "a mask would read stand-ins",
                List.of(
                    name
                        + "."
                        + column
                        + " is masked by "
                        + String.join(", ", read)
                        + ", whose originals are gone"))
            .remedy("give it a mask of its value alone, under columns:");
      }
    }
  }

  private static Set<String> texts(TablePlan plan, Set<String> among) {
    return among.stream()
        .filter(column -> plan.column(column).isText() || plan.column(column).holdsText())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /** Free text is masked by what its row and those it belongs to hold, which must not be gone. */
  private void mentions(
      TablePlan plan, String what, Set<ColumnName> mentionable, Set<String> texts) {
    List<String> gone =
        mentionable.stream()
            .filter(
                column ->
                    passes
                        .before(column.table())
                        .flatMap(LoadedTable::rewritten)
                        .filter(then -> then.masked().containsKey(column.column()))
                        .isPresent())
            .map(ColumnName::toString)
            .toList();
    if (gone.isEmpty() || texts.isEmpty()) {
      return;
    }
    throw refused(
            what + ", which may name somebody whose name is gone",
            texts.stream()
                .map(
                    text ->
                        plan.table().name()
                            + "."
                            + text
                            + " may hold originals of "
                            + String.join(", ", gone.subList(0, Math.min(MOST_SHOWN, gone.size())))
                            + (gone.size() > MOST_SHOWN
                                ? " and " + (gone.size() - MOST_SHOWN) + " more"
                                : "")
                            + ", where stand-ins are now")
                .toList())
        .remedy(
            "mask these texts whole, under columns: ("
                + texts.stream()
                    .map(text -> plan.table().name() + "." + text + ": { filler: true }")
                    .collect(Collectors.joining(", "))
                + "); or restore the copy again, and rewrite that");
  }

  /** Whether a column refers to rows, which may be old ones or new ones. */
  private boolean refers(TableName name, String column) {
    return job.plan().request().rules().stream()
        .anyMatch(
            rule ->
                !rule.cut()
                    && rule.link().child().equals(name)
                    && rule.link().childColumns().contains(column));
  }

  private Problem refused(String what, List<String> because) {
    return Problem.of(Failure.REWRITTEN, what + " since " + job.from().title() + " was rewritten")
        .at(source.description())
        .because(because);
  }
}
