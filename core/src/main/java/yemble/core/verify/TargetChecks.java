package yemble.core.verify;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;
import yemble.core.wording.Sentence;

/** What a target can be asked by itself. */
public final class TargetChecks {
  private TargetChecks() {}

  /** Whether the keys of some tables have duplicates. */
  public static Outcome unique(Reader target, List<Table> tables) {
    if (!target.comparesKeys()) {
      return Outcome.unchecked(Check.UNIQUE_STAYS_UNIQUE, ProofWording.KEYS_BY_LOAD.of());
    }
    List<Sentence> faults = new ArrayList<>();
    int keys = 0;
    for (Table table : tables) {
      Table there = target.schema().table(table.name());
      List<List<String>> uniques = new ArrayList<>(table.uniques());
      if (!table.primaryKey().isEmpty()) {
        uniques.add(0, table.primaryKey());
      }
      // A generated column may have no counterpart in another engine.
      uniques.removeIf(key -> !key.stream().allMatch(name -> there.column(name).isPresent()));
      for (List<String> columns : uniques) {
        keys++;
        long duplicates = target.duplicates(table, columns);
        if (duplicates > 0) {
          faults.add(
              ProofWording.DUPLICATE
                  .of(duplicates)
                  .about(table.name() + " (" + String.join(", ", columns) + ")"));
        }
      }
    }
    return Outcome.of(
            Check.UNIQUE_STAYS_UNIQUE,
            faults,
            ProofWording.NO_DUPLICATE.of(keys),
            ProofWording.DUPLICATES.of(faults.size(), keys))
        .counting("keys", keys, "with_duplicates", faults.size());
  }

  /** Whether the foreign keys that the target itself declares between some tables resolve. */
  public static Outcome references(Reader target, List<Table> tables) {
    Set<TableName> names = new HashSet<>();
    tables.forEach(table -> names.add(table.name()));
    List<Sentence> faults = new ArrayList<>();
    int links = 0;
    for (Link link : target.schema().foreignKeys()) {
      if (!names.contains(link.child()) || !names.contains(link.parent())) {
        continue;
      }
      links++;
      long[] broken = new long[1];
      target.broken(link, row -> broken[0]++);
      if (broken[0] > 0) {
        faults.add(ProofWording.NO_PARENT.of(broken[0]).about(link));
      }
    }
    if (links == 0) {
      return Outcome.unchecked(Check.REFERENCES, ProofWording.NO_FOREIGN_KEY.of());
    }
    return Outcome.of(
            Check.REFERENCES,
            faults,
            ProofWording.DECLARED_RESOLVE.of(links),
            ProofWording.RESOLVE_NOT.of(faults.size(), links))
        .counting("links", links);
  }
}
