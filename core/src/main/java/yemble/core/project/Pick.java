package yemble.core.project;

import java.math.BigDecimal;
import yemble.core.yaml.Place;

/**
 * Where a subset starts: a table, a condition, a share, a number of rows, applied in this order.
 *
 * @param table as written
 * @param where a condition in the source's SQL, or an empty string
 * @param whereAt where the condition is written
 * @param share from 0 (exclusive) to 1; 1 takes all
 * @param rows the most rows taken, {@link #ALL} for no limit
 */
public record Pick(
    String table, String where, Place whereAt, BigDecimal share, long rows, Place place) {
  public static final long ALL = Long.MAX_VALUE;

  /** Whether a row's keyed hash decides if it is picked. */
  public boolean hashed() {
    return share.compareTo(BigDecimal.ONE) < 0 || rows != ALL;
  }
}
