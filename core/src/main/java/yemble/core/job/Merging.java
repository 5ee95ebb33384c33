package yemble.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Comparison;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.Mark;
import yemble.core.mark.RowDigest;
import yemble.core.merge.MergePlan;
import yemble.core.merge.Tally;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Loading;
import yemble.core.schema.Column;
import yemble.core.schema.Schema;
import yemble.core.schema.Table;
import yemble.core.store.Counting;
import yemble.core.store.Load;
import yemble.core.store.Merge;
import yemble.core.store.Reader;
import yemble.core.store.RowSource;
import yemble.core.store.Target;
import yemble.core.subset.Request;
import yemble.core.subset.Rule;
import yemble.core.verify.Beside;
import yemble.core.verify.Outcome;

/**
 * Rows of a source that come beside those of a target. First they wait there, and are counted; then
 * they are merged, and what came of it is held against what waited, and against what was there.
 */
public final class Merging implements AutoCloseable {
  private final Loading loading;
  private final Merge merge;
  private final Load staged;
  private final RowSource source;
  private final Schema schema;
  private final MergePlan plan;
  private final MergeRules rules;
  private final Comparison names;
  private final Map<TableName, Long> rows;
  private final Set<ColumnName> masked;
  private List<Tally> tallies;

  private Merging(
      Loading loading,
      Merge merge,
      Load staged,
      RowSource source,
      Schema schema,
      MergeRules rules,
      MergePlan plan,
      Comparison names,
      Set<ColumnName> masked,
      Map<TableName, Long> rows) {
    this.loading = loading;
    this.merge = merge;
    this.staged = staged;
    this.source = source;
    this.schema = schema;
    this.rules = rules;
    this.plan = plan;
    this.names = names;
    this.masked = masked;
    this.rows = rows;
  }

  /**
   * Lets rows wait beside a target, and finds out what would become of them.
   *
   * @param schema the source's
   * @param request its links
   * @param from the source's title
   * @param masked the columns that are masked
   * @throws Problem of type REFUSED if rows conflict, or keys cannot be given
   */
  static Merging of(
      Target target,
      Stages stages,
      Loading loading,
      RowSource source,
      Schema schema,
      Request request,
      String from,
      Set<ColumnName> masked,
      Iterable<Pipe.Flow> flows,
      long rows,
      Progress progress) {
    Merge merge = target.merge(stages.schema(schema));
    try {
      Load staged = stages.into(merge);
      Comparison names = stages.comparison(Comparison.SAME);
      MergeRules rules = new MergeRules(loading, schema, request, names, merge, from);
      MergePlan plan = rules.plan(); // What is said wrongly is said before rows are copied.
      progress.begin(Phase.STAGING, rows);
      Map<TableName, Long> poured = Pipe.pour(source, flows, staged, progress::advance);
      staged.finish(stages.schema(schema), source);
      progress.end();
      Merging merging =
          new Merging(loading, merge, staged, source, schema, rules, plan, names, masked, poured);
      merging.understood(request);
      progress.begin(Phase.COMPARING, 0);
      merging.decide();
      progress.end();
      return merging;
    } catch (RuntimeException e) {
      merge.close();
      throw e;
    }
  }

  /** The target must understand the conditions of links that are followed. */
  private void understood(Request request) {
    Reader reader = staged.reader();
    for (Rule rule : request.rules()) {
      if (!rule.link().condition().isEmpty() && !rule.cut()) {
        reader.check(schema.table(rule.link().child()), rule.link().condition());
      }
    }
  }

  private void decide() {
    tallies = merge.decide(plan);
    List<String> conflicts = new ArrayList<>();
    for (Tally tally : tallies) {
      tally
          .conflicts()
          .forEach(
              (why, count) ->
                  conflicts.add(
                      String.format(
                          Locale.ROOT,
                          "%s: %,d of %,d rows, %s",
                          tally.table(),
                          count,
                          tally.rows(),
                          why)));
    }
    if (!conflicts.isEmpty() && !loading.leavesConflicts()) {
      throw Problem.of(Failure.ROWS_CONFLICT, "rows conflict with those of the target")
          .at(loading.place().toString())
          .because(conflicts)
          .remedy(
              loading.way() == Loading.Way.ALONGSIDE
                  ? "say which rows are the target's own: same: { "
                      + proposed()
                      + " }, or what fresh keys look like: keys: { table: \"DEV-{number}\" }"
                  : "say conflicts: leave below "
                      + loading.way()
                      + ":, and the target's rows stay as they are");
    }
  }

  /** What may stand below {@code same:}; a form of it where nothing is known. */
  private String proposed() {
    Map<String, List<String>> same = rules.sameToo();
    return same.isEmpty()
        ? "table: [columns]"
        : same.entrySet().stream()
            .map(table -> table.getKey() + ": [" + String.join(", ", table.getValue()) + "]")
            .collect(Collectors.joining(", "));
  }

  /** What becomes of the rows of each table, as far as any come. */
  public List<Tally> tallies() {
    return tallies.stream().filter(tally -> tally.rows() > 0).toList();
  }

  /** What looks like a reference and is not followed. */
  public List<String> notFollowed() {
    return rules.notFollowed(masked);
  }

  /** Tables that would be there twice, with the columns that tell their rows apart. */
  public Map<String, List<String>> sameToo() {
    return rules.sameToo();
  }

  /** What a person should know before. */
  public List<String> warnings() {
    return merge.warnings(plan);
  }

  /** How many rows wait, by table of the source. */
  Map<TableName, Long> rows() {
    return rows;
  }

  /** Reads what waits, under the source's names. */
  Reader staged() {
    return staged.reader();
  }

  /** Merges the rows; what is to be said of it is found before the commit. */
  List<Outcome> put(OwnSteps steps, Progress progress) {
    progress.begin(Phase.MERGING, 0);
    Beside before = new Beside(merge, plan);
    merge.hold(plan);
    if (steps.hasBefore()) {
      steps.before(merge.statements());
    }
    decide();
    before.look();
    merge.put(plan);
    List<Outcome> findings = new ArrayList<>();
    findings.add(before.merged(tallies));
    findings.add(before.own());
    findings.add(before.references());
    progress.end();
    return findings;
  }

  /** Where the source's counters stand, under the names of the target. */
  private Counting counters() {
    return () -> {
      Map<TableName, Long> counters = new TreeMap<>();
      source
          .counters()
          .forEach(
              (name, position) -> {
                Table table = schema.table(name);
                if (table != null) {
                  counters.put(names.there(table), position);
                }
              });
      return counters;
    };
  }

  /** What a mark may remember of the tables as they are now, all their rows. */
  List<LoadedTable> tables(byte[] digestKey) {
    List<LoadedTable> tables = new ArrayList<>();
    Reader merged = merge.merged();
    for (MergePlan.Part part : plan.parts()) {
      BucketSums sums = new BucketSums();
      RowDigest digest = new RowDigest(digestKey);
      List<String> columns = part.columns().stream().map(Column::name).toList();
      List<String> identity = part.key().isEmpty() ? columns : part.key();
      int[] positions = identity.stream().mapToInt(columns::indexOf).toArray();
      merged.rows(
          part.table(),
          "",
          part.columns(),
          (row, values) -> {
            digest.take(values, positions);
            sums.add(digest);
          });
      tables.add(
          new LoadedTable(
              part.name(),
              columns,
              java.util.Collections.nCopies(columns.size(), java.util.Optional.empty()),
              identity,
              sums.worthKeeping()));
    }
    return tables;
  }

  /** Completes the target; runs what comes after as part of the load, and makes it visible. */
  void commit(Mark mark, OwnSteps steps) {
    merge.complete(loading.way() == Loading.Way.ALONGSIDE ? () -> new TreeMap<>() : counters());
    steps.afterWithin(merge);
    merge.commit(mark);
  }

  /** The load that rows come by. */
  Load load() {
    return merge;
  }

  @Override
  public void close() {
    merge.close();
  }
}
