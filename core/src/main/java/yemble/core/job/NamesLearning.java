package yemble.core.job;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import yemble.core.crypto.Prf;
import yemble.core.kind.Kinds;
import yemble.core.kind.Traits;
import yemble.core.mask.LearnedNames;
import yemble.core.mask.Masks;
import yemble.core.mask.ValueMask;
import yemble.core.mask.person.FullName;
import yemble.core.mask.person.Names;
import yemble.core.mask.shape.NameForm;
import yemble.core.moment.Now;
import yemble.core.plan.TablePlan;
import yemble.core.row.Values;
import yemble.core.schema.Column;

/**
 * Learns the names of a source: those of its masked columns of names that neither a vocabulary nor
 * an earlier generation knows. Of a name nothing is kept but its fingerprint.
 *
 * @param learned all of it, the new generation included, be it the first one and empty; what there
 *     was if nothing is new
 * @param given how many new given names
 * @param family how many new family names
 * @param columns that were read
 * @param differing how many addresses and logins become others than before, by column; of columns
 *     whose masks see the value alone
 * @param looked how many of them there are
 */
public record NamesLearning(
    LearnedNames learned,
    int given,
    int family,
    List<String> columns,
    Map<String, Long> differing,
    long looked) {
  private static final int SHORTEST = 2;

  public NamesLearning {
    columns = List.copyOf(columns);
  }

  /** Reads all names of a job's source. */
  public static NamesLearning of(Preparation job, LearnedNames before) {
    Kinds kinds = job.project().conventions().kinds();
    Prf prints = LearnedNames.prints(job.planned().masks().key());
    Set<Long> given = new TreeSet<>();
    Set<Long> family = new TreeSet<>();
    List<String> columns = new ArrayList<>();
    for (TablePlan table : job.plan().tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        if (column.masked() && kinds.isName(column.kind())) {
          Traits.Part part = kinds.part(column.kind());
          columns.add(table.table().name(column.column()).toString());
          job.source()
              .rows(
                  table.table(),
                  job.source().all(table.table()),
                  List.of(column.column()),
                  (row, values) -> {
                    if (values[0] instanceof String name) {
                      names(
                          part,
                          name,
                          (form, isFamily) -> {
                            if (!before.isKnown(prints, form, isFamily)) {
                              (isFamily ? family : given).add(LearnedNames.print(prints, form));
                            }
                          });
                    }
                  });
        }
      }
    }
    if (given.isEmpty() && family.isEmpty() && !before.isEmpty()) {
      return new NamesLearning(before, 0, 0, columns, Map.of(), 0);
    }
    LearnedNames after =
        before.and(new LearnedNames.Generation(Now.day().toString(), array(given), array(family)));
    Map<String, Long> differing = new TreeMap<>();
    long looked = differing(job, before, after, differing);
    return new NamesLearning(after, given.size(), family.size(), columns, differing, looked);
  }

  private static long[] array(Set<Long> prints) {
    return prints.stream().mapToLong(Long::longValue).sorted().toArray();
  }

  /** Takes the normal form of a word of a name. */
  private interface Sink {
    void name(String form, boolean isFamily);
  }

  /** The words of a name: those that are run together are told apart by these. */
  private static void names(Traits.Part part, String name, Sink sink) {
    for (FullName.Part word : FullName.parts(name, part == Traits.Part.FAMILY_FIRST)) {
      boolean isFamily = part == Traits.Part.FAMILY || (part != Traits.Part.GIVEN && word.family());
      String form = NameForm.of(word.word());
      boolean isName = form.length() >= SHORTEST && !Names.isAround(word.word());
      if (isName) {
        sink.name(form, isFamily);
      }
    }
  }

  /** Counts the values that become others; how many were looked at. */
  private static long differing(
      Preparation job, LearnedNames before, LearnedNames after, Map<String, Long> differing) {
    Masks old = new Masks(job.planned().masks().knowing(before));
    Masks made = new Masks(job.planned().masks().knowing(after));
    long[] looked = new long[1];
    for (TablePlan table : job.plan().tables()) {
      for (TablePlan.ColumnPlan column : table.columns()) {
        if (column.isOfValueAlone() && old.kinds().traits(column.kind()).ofNames()) {
          ValueMask was = old.values(old.of(column.kind(), column.rule()));
          ValueMask is = made.values(made.of(column.kind(), column.rule()));
          Column read = column.column();
          long[] others = new long[1];
          job.source()
              .rows(
                  table.table(),
                  job.source().all(table.table()),
                  List.of(read),
                  (row, values) -> {
                    if (values[0] != null && !(values[0] instanceof byte[])) {
                      String value = Values.text(values[0]);
                      looked[0]++;
                      others[0] += Objects.equals(was.apply(value), is.apply(value)) ? 0 : 1;
                    }
                  });
          differing.put(table.table().name(read).toString(), others[0]);
        }
      }
    }
    return looked[0];
  }
}
