package yemble.core.verify;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import yemble.core.mark.BucketSums;
import yemble.core.mark.RowDigest;
import yemble.core.merge.MergePlan;
import yemble.core.merge.Tally;
import yemble.core.name.TableName;
import yemble.core.schema.Column;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Merge;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/**
 * The proof of rows that came beside others: they are what waited, and lead where they led; the
 * target's own are what they were; and no reference is broken that was not before.
 */
public final class Beside {
  private final Merge merge;
  private final MergePlan plan;
  private final byte[] key = RowDigest.newKey();
  private final Map<TableName, BucketSums> own = new HashMap<>();
  private final Map<TableName, Long> rows = new HashMap<>();
  private final Map<Link, Long> broken = new LinkedHashMap<>();

  /** Remembers which references of the target resolve; before others are kept out. */
  public Beside(Merge merge, MergePlan plan) {
    this.merge = merge;
    this.plan = plan;
    Reader target = merge.merged();
    target.schema().foreignKeys().forEach(link -> broken.put(link, broken(target, link)));
  }

  /** Remembers the target's rows as they are now; once it is known what becomes of each row. */
  public void look() {
    Reader target = merge.merged();
    for (MergePlan.Part part : plan.parts()) {
      own.put(part.name(), sums(part));
      rows.put(part.name(), target.count(part.table()));
    }
  }

  private BucketSums sums(MergePlan.Part part) {
    BucketSums sums = new BucketSums();
    RowDigest digest = new RowDigest(key);
    List<Column> columns = part.table().written();
    int[] identity = new int[columns.size()];
    for (int i = 0; i < identity.length; i++) {
      identity[i] = i;
    }
    merge.own(
        part,
        columns,
        (row, values) -> {
          digest.take(values, identity);
          sums.add(digest);
        });
    return sums;
  }

  private static long broken(Reader target, Link link) {
    long[] rows = new long[1];
    target.broken(link, row -> rows[0]++);
    return rows[0];
  }

  /** Whether the rows are in as they waited. */
  public Outcome merged(List<Tally> tallies) {
    List<Sentence> faults = new ArrayList<>(merge.faults(plan));
    Reader target = merge.merged();
    long inserted = 0;
    long updated = 0;
    long left = 0;
    for (Tally tally : tallies) {
      Table table = plan.part(tally.table()).table();
      long expected = rows.get(tally.table()) + tally.inserted();
      long found = target.count(table);
      if (found != expected) {
        faults.add(ProofWording.ROWS_AND_NOT.of(found, expected).about(tally.table()));
      }
      inserted += tally.inserted();
      updated += tally.updated();
      left += tally.left() + tally.conflicting();
    }
    return Outcome.of(
            Check.MERGED,
            faults,
            ProofWording.MERGED.of(inserted, updated, left),
            ProofWording.MERGED_NOT.of(faults.size()))
        .counting("inserted", inserted, "updated", updated, "left", left);
  }

  /** Whether all other rows are what they were. */
  public Outcome own() {
    List<Sentence> faults = new ArrayList<>();
    long kept = 0;
    for (MergePlan.Part part : plan.parts()) {
      BucketSums before = own.get(part.name());
      if (!sums(part).equals(before)) {
        faults.add(ProofWording.TABLE.of(part.name()));
      }
      kept += before.rows();
    }
    return Outcome.of(
            Check.OWN_ROWS,
            faults,
            ProofWording.OWN_ROWS.of(kept),
            ProofWording.OWN_ROWS_OTHERS.of())
        .counting("rows", kept);
  }

  /** Whether every reference of the target resolves that did before. */
  public Outcome references() {
    Reader target = merge.merged();
    List<Sentence> faults = new ArrayList<>();
    long before = 0;
    for (Link link : broken.keySet()) {
      long now = broken(target, link);
      long then = broken.getOrDefault(link, 0L);
      before += Math.min(now, then);
      if (now > then) {
        faults.add(ProofWording.NO_PARENT.of(now - then).about(link));
      }
    }
    return Outcome.of(
            Check.REFERENCES_IN_THE_TARGET,
            faults,
            ProofWording.BESIDE_RESOLVE.of(
                broken.size(), before > 0 ? ProofWording.BROKEN_BEFORE.of(before) : Sentence.NONE),
            ProofWording.BESIDE_RESOLVE_NOT.of(faults.size()))
        .counting("links", broken.size(), "broken_before", before);
  }
}
