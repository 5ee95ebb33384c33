package yemble.core.verify;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import yemble.core.name.TableName;
import yemble.core.schema.Link;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/** What a target can be asked by itself. */
public final class TargetChecks {
  /** Why nothing is said of keys where there is no database. */
  static final String BY_LOAD =
      "there is no database here that could compare keys; each load of it checks them";

  private TargetChecks() {}

  /** Whether the keys of some tables have duplicates. */
  public static Outcome unique(Reader target, List<Table> tables) {
    if (!target.comparesKeys()) {
      return new Outcome("unique stays unique", Outcome.Result.NOT_CHECKED, BY_LOAD, List.of());
    }
    List<String> faults = new ArrayList<>();
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
              table.name()
                  + " ("
                  + String.join(", ", columns)
                  + "): "
                  + counted(duplicates, "value")
                  + " more than once");
        }
      }
    }
    return Outcome.of(
            "unique stays unique",
            faults,
            keys + " keys without a duplicate",
            counted(faults.size(), "key") + " out of " + keys + " with duplicates")
        .counting("keys", keys, "with_duplicates", faults.size());
  }

  /** Whether the foreign keys that the target itself declares between some tables resolve. */
  public static Outcome references(Reader target, List<Table> tables) {
    Set<TableName> names = new HashSet<>();
    tables.forEach(table -> names.add(table.name()));
    List<String> faults = new ArrayList<>();
    int links = 0;
    for (Link link : target.schema().foreignKeys()) {
      if (!names.contains(link.child()) || !names.contains(link.parent())) {
        continue;
      }
      links++;
      long[] broken = new long[1];
      target.broken(link, row -> broken[0]++);
      if (broken[0] > 0) {
        faults.add(link + ": " + counted(broken[0], "row") + " without a parent");
      }
    }
    if (links == 0) {
      return new Outcome(
          "references",
          Outcome.Result.NOT_CHECKED,
          "the target declares no foreign key",
          List.of());
    }
    return Outcome.of(
            "references",
            faults,
            "every reference of " + links + " links that the target declares resolves",
            "references of "
                + counted(faults.size(), "link")
                + " out of "
                + links
                + " do not resolve")
        .counting("links", links);
  }

  static String counted(long number, String noun) {
    return String.format(Locale.ROOT, "%,d %s%s", number, noun, number == 1 ? "" : "s");
  }
}
