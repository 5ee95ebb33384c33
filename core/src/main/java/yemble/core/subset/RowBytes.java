package yemble.core.subset;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import yemble.core.name.TableName;
import yemble.core.row.Values;
import yemble.core.schema.Column;
import yemble.core.schema.Table;
import yemble.core.store.Reader;

/**
 * About how many bytes rows take: their number, times the mean of a row of their table. The mean is
 * what the source's catalog says, without indexes; where it does not say, that of a sample of the
 * rows, as texts.
 */
public final class RowBytes {
  private static final int SAMPLED = 200;

  private final Reader source;
  private final Map<TableName, Double> means = new HashMap<>();

  public RowBytes(Reader source) {
    this.source = source;
  }

  /** About how many bytes so many rows of a table take. */
  public long of(Table table, long rows) {
    return rows == 0 ? 0 : Math.round(mean(table) * rows);
  }

  /** About how many bytes the rows of a subset take. */
  public long of(Reached<?> reached) {
    long bytes = 0;
    for (Table table : source.schema().tables()) {
      bytes += of(table, reached.part(table.name()).size());
    }
    return bytes;
  }

  /** About how many bytes all rows of the source take. */
  public long ofSource() {
    long bytes = 0;
    for (Table table : source.schema().tables()) {
      bytes += of(table, source.count(table));
    }
    return bytes;
  }

  private double mean(Table table) {
    return means.computeIfAbsent(table.name(), name -> measured(table));
  }

  private double measured(Table table) {
    OptionalDouble told = source.rowBytes(table);
    return told.isPresent() ? told.getAsDouble() : sampled(table);
  }

  private double sampled(Table table) {
    long[] measured = new long[2];
    List<Column> columns = table.written();
    source.sample(
        table,
        columns,
        SAMPLED,
        (row, values) -> {
          measured[0]++;
          for (Object value : values) {
            measured[1] += 1 + length(value);
          }
        });
    return measured[0] == 0 ? 0 : (double) measured[1] / measured[0] + 2;
  }

  private static int length(Object value) {
    if (value == null) {
      return 0;
    }
    if (value instanceof byte[] blob) {
      return blob.length;
    }
    return value instanceof Number ? 4 : Values.text(value).length();
  }
}
