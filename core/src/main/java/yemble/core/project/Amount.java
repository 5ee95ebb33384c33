package yemble.core.project;

import java.math.BigDecimal;
import yemble.core.yaml.Place;

/** How much a job takes where it names no table to start at. */
public sealed interface Amount {
  Place place();

  /**
   * A share of the rows of every table that the subset starts at.
   *
   * @param share from 0 (exclusive) to 1
   */
  record Share(BigDecimal share, Place place) implements Amount {}

  /** So many bytes in all. */
  record Bytes(long bytes, Place place) implements Amount {}

  /**
   * So many bytes in all, as a share of those of the whole source.
   *
   * @param share from 0 (exclusive) to 1
   */
  record BytesShare(BigDecimal share, Place place) implements Amount {}
}
