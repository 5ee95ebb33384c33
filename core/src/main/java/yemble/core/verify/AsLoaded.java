package yemble.core.verify;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import yemble.core.mark.BucketSums;
import yemble.core.mark.Comparison;
import yemble.core.mark.Loaded;
import yemble.core.mark.LoadedTable;
import yemble.core.mark.RowDigest;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * Whether a target still holds what a load left in it, by the digests in its mark: needs neither
 * source nor key. What has been changed since is normal life, and told apart from the rest.
 */
public final class AsLoaded {
  private final Loaded load;
  private final Reader target;
  private final Map<TableName, Since> tables = new TreeMap<>();
  private final List<String> lost = new ArrayList<>();
  private boolean mustBe;

  /**
   * @param load with digests
   * @param target under the names that the mark has for its tables
   */
  public AsLoaded(Loaded load, Reader target) {
    this.load = load;
    this.target = target;
  }

  /** From now on a row that was changed is a fault. */
  public AsLoaded strictly() {
    mustBe = true;
    return this;
  }

  public Loaded load() {
    return load;
  }

  /** What is remembered of a table of the source, if its rows can be held against it. */
  Optional<LoadedTable> comparable(Table table, Comparison comparison) {
    return load.table(comparison.there(table))
        .filter(loaded -> loaded.agrees(table, comparison) && columns(loaded).isPresent());
  }

  /** The columns of a table in the target, if they are all there. */
  private Optional<List<Column>> columns(LoadedTable loaded) {
    Table found = target.schema().table(loaded.table());
    return found == null ? Optional.empty() : loaded.in(found);
  }

  /** Takes what a comparison with the source has found of a table. */
  void put(TableName table, Since since) {
    tables.put(table, since);
  }

  /** Looks at all tables that nobody has looked at, without the source. */
  public AsLoaded alone() {
    load.tables().stream().filter(table -> !tables.containsKey(table.table())).forEach(this::alone);
    return this;
  }

  private void alone(LoadedTable loaded) {
    Since since = new Since();
    tables.put(loaded.table(), since);
    Optional<List<Column>> columns = columns(loaded);
    if (columns.isEmpty()) {
      lost.add(loaded.table().toString());
      return;
    }
    int[] identity = loaded.identityPositions();
    RowDigest row = new RowDigest(load.digestKey());
    BucketSums sums = BucketSums.of(loaded.sums().bits());
    target.rows(
        target.schema().table(loaded.table()),
        "",
        columns.get(),
        (number, cells) -> {
          Object[] values = cells.clone();
          loaded.normalise(values);
          row.take(values, identity);
          sums.add(row);
        });
    since.buckets = sums.differing(loaded.sums()).cardinality();
  }

  /** What has been changed, by table and row, as far as rows were named. */
  public Map<String, List<String>> named() {
    Map<String, List<String>> named = new TreeMap<>();
    tables.forEach(
        (table, since) -> {
          if (!since.names().isEmpty()) {
            named.put(table.toString(), since.names());
          }
        });
    return named;
  }

  /** Once all tables have been looked at. */
  public List<Outcome> findings() {
    long all = load.tables().stream().mapToLong(table -> table.sums().rows()).sum();
    long others = tables.values().stream().mapToLong(Since::lost).sum();
    for (LoadedTable table : load.tables()) {
      others += lost.contains(table.table().toString()) ? table.sums().rows() : 0;
    }
    List<Sentence> details = new ArrayList<>();
    lost.forEach(table -> details.add(ProofWording.GONE_OR_LACKING.of().about(table)));
    tables.forEach(
        (table, since) -> {
          if (!since.isEmpty()) {
            details.add(since.of(table));
          }
        });
    List<Outcome> findings = new ArrayList<>();
    boolean same = details.isEmpty();
    Sentence loaded =
        (!load.isBeside()
                ? ProofWording.WAS_LOADED
                : load.way().equals(Loaded.REWRITTEN)
                    ? ProofWording.HELD_AFTER_REWRITE
                    : ProofWording.HELD_AFTER_LOAD)
            .of();
    Sentence rows =
        same
            ? ProofWording.AS_LOADED.of(all, load.tables().size(), loaded, when(load), load.by())
            : ProofWording.PARTLY_AS_LOADED.of(
                Math.max(0, all - others), all, loaded, when(load), load.by());
    findings.add(
        new Outcome(
                Check.AS_LOADED,
                same || others < all ? Outcome.Result.HOLDS : Outcome.Result.NOT_CHECKED,
                rows,
                List.of())
            .counting("rows", all, "as_loaded", Math.max(0, all - others)));
    if (!same) {
      findings.add(
          new Outcome(
              Check.CHANGED_SINCE,
              mustBe ? Outcome.Result.FAILS : Outcome.Result.NOT_CHECKED,
              ProofWording.CHANGED_SINCE.of(rows(), details.size()),
              details));
    }
    return findings;
  }

  /** When something was loaded, if that is known. */
  static Sentence when(Loaded load) {
    return load.when().isEmpty() ? Sentence.NONE : ProofWording.ON.of(load.when());
  }

  private long rows() {
    return tables.values().stream().mapToLong(Since::rows).sum();
  }
}
