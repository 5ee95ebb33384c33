package yemble.core.job;

import java.math.BigInteger;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.IntStream;
import yemble.core.mask.Masks;
import yemble.core.name.ColumnName;
import yemble.core.name.TableName;
import yemble.core.pattern.FinitePattern;
import yemble.core.pin.Passphrase;
import yemble.core.pin.PinFile;
import yemble.core.pin.PinKey;
import yemble.core.pin.PinnedRows;
import yemble.core.pin.Pins;
import yemble.core.plan.Plan;
import yemble.core.plan.RowMasker;
import yemble.core.plan.TablePlan;
import yemble.core.problem.Failure;
import yemble.core.project.PinList;
import yemble.core.row.RowSet;
import yemble.core.row.Values;
import yemble.core.store.Reader;
import yemble.core.subset.Selection;

/**
 * Gives those who have no stand-in one, and writes it down, so that it stays: passwords that can be
 * read out, values of the list's patterns, and else what the column's mask makes of the person's
 * own value. What is there is never changed. The file alone is written, under its lock.
 */
public final class PinFilling {
  private static final int BATCH = 100_000;
  private static final int MOST_TRIES = 10_000;

  private final Reader source;
  private final Plan plan;
  private final Selection selection;
  private final Masks masks;
  private final Pins.Resolved list;
  private final PinKey.Maker maker;
  private final List<String> fields;

  /** What they get, by field; null where it is drawn when it is written. */
  private final Map<PinKey, String[]> made = new LinkedHashMap<>();

  private PinFilling(Preparation job, Pins.Resolved list) {
    this.source = job.source();
    this.plan = job.plan().with(Pins.NONE, false);
    this.selection = job.selection();
    this.masks = new Masks(job.planned().masks());
    this.list = list;
    this.maker = job.plan().pins().keys(list.list());
    this.fields = list.list().fields();
  }

  /**
   * What came of it.
   *
   * @param lacking of how many something was missing, before somebody else may have filled it
   * @param added how many got a line of their own
   * @param filled how many lines got a value at least, those included
   * @param passwords how many passwords were drawn
   */
  public record Filled(long lacking, long added, long filled, long passwords) {
    static final Filled NOTHING = new Filled(0, 0, 0, 0);
  }

  /**
   * Fills a list.
   *
   * @param rows of each table: whose stand-ins are wanted; of all of them, if it is all
   * @param newcomers whether whoever has no line gets one
   */
  public static Filled of(
      Preparation job, PinList list, Function<TableName, RowSet> rows, boolean newcomers) {
    Pins.Resolved resolved = job.plan().pins().list(list.name());
    PinFilling filling = new PinFilling(job, resolved);
    filling.whoLacks(rows.apply(resolved.table().name()), newcomers);
    if (filling.made.isEmpty()) {
      return Filled.NOTHING;
    }
    for (ColumnName column : resolved.columns().keySet()) {
      filling.masked(column, resolved.columns().get(column), rows.apply(column.table()));
    }
    return PinFile.update(
        job.project().directory(),
        list,
        file -> filling.into(file, newcomers),
        filled -> filled.filled() + filled.added() > 0);
  }

  private void whoLacks(RowSet people, boolean newcomers) {
    PinnedRows.people(
        source,
        list,
        maker,
        people,
        (row, key) -> {
          int line = list.file().line(key);
          boolean lacks =
              line < 0
                  ? newcomers && !list.file().isAmbiguous(key)
                  : IntStream.range(0, fields.size())
                      .anyMatch(field -> list.file().value(line, field).isEmpty());
          if (lacks) {
            made.putIfAbsent(key, new String[fields.size()]);
          }
        });
  }

  /** What the masks make of the values of a column. */
  private void masked(ColumnName column, Pins.Given given, RowSet all) {
    if (given.give().password() || list.list().patterns().containsKey(given.give().field())) {
      return;
    }
    TablePlan table = plan.table(column.table());
    int position = table.position(column.column());
    RowMasker masker = new RowMasker(source, plan, table, selection, masks);
    all.forEachPart(
        BATCH,
        some -> {
          Map<Long, PinKey> keys = PinnedRows.keys(source, list, maker, given.way(), some);
          RowSet theirs = new RowSet();
          keys.forEach(
              (row, key) -> {
                if (made.containsKey(key) && made.get(key)[given.field()] == null) {
                  theirs.add(row);
                }
              });
          if (theirs.isEmpty()) {
            return;
          }
          masker.rows(
              theirs,
              (row, before, after) -> {
                String[] values = made.get(keys.get(row));
                Object value = after[position];
                if (values[given.field()] == null && value != null && !(value instanceof byte[])) {
                  values[given.field()] = Values.text(value);
                }
              });
        });
  }

  private Filled into(PinFile file, boolean newcomers) {
    List<Set<String>> taken = new ArrayList<>();
    for (int field = 0; field < fields.size(); field++) {
      taken.add(new HashSet<>());
      for (int line = 0; line < file.size(); line++) {
        taken.get(field).add(file.value(line, field));
      }
    }
    long added = 0;
    long filled = 0;
    long passwords = 0;
    for (Map.Entry<PinKey, String[]> each : made.entrySet()) {
      boolean isNew = newcomers && file.add(each.getKey());
      added += isNew ? 1 : 0;
      int line = file.line(each.getKey());
      if (line < 0) {
        continue; // Somebody else has taken it out, or given it a second line.
      }
      boolean got = false;
      for (int field = 0; field < fields.size(); field++) {
        if (file.value(line, field).isEmpty()) {
          boolean password = list.list().isPassword(fields.get(field));
          boolean fills =
              file.fill(line, field, value(field, password, each.getValue(), taken.get(field)));
          passwords += fills && password ? 1 : 0;
          got |= fills;
        }
      }
      filled += got ? 1 : 0;
    }
    return new Filled(made.size(), added, filled, passwords);
  }

  private String value(int field, boolean password, String[] values, Set<String> taken) {
    if (password) {
      return Passphrase.random();
    }
    FinitePattern pattern = list.list().patterns().get(fields.get(field));
    if (pattern == null) {
      return values[field] == null ? "" : values[field];
    }
    SecureRandom random = new SecureRandom();
    for (int tries = 0; tries < MOST_TRIES; tries++) {
      BigInteger number = new BigInteger(pattern.count().bitLength() + 64, random);
      String drawn = pattern.text(number.mod(pattern.count()));
      if (taken.add(drawn)) {
        return drawn;
      }
    }
    throw list.list()
        .place()
        .problem(
            Failure.RULE_UNFIT,
            "the pattern of \"" + fields.get(field) + "\" has no values left, or nearly none")
        .because("it has " + pattern.count() + ", and each stand-in takes one")
        .remedy("write a longer pattern under patterns:");
  }
}
