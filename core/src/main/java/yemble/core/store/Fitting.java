package yemble.core.store;

import yemble.core.schema.DataType;

/** What values of other engines are to an engine. */
public interface Fitting {
  /**
   * Why a value cannot be in the nearest column, in a few words and without the value; empty if it
   * can.
   *
   * @param value in its {@link DataType#normal} form, not null
   */
  String misfit(DataType type, Object value);

  /**
   * A value as this engine's load takes it.
   *
   * @param value as a reader gives it, not null
   */
  Object taken(DataType type, Object value);
}
