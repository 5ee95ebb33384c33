package yemble.core.store;

import yemble.core.schema.DataType;
import yemble.core.wording.Sentence;

/** What values of other engines are to an engine. */
public interface Fitting {
  /**
   * Why a value cannot be in the nearest column, without the value; {@link Sentence#NONE} if it
   * can.
   *
   * @param value in its {@link DataType#normal} form, not null
   */
  Sentence misfit(DataType type, Object value);

  /**
   * A value as this engine's load takes it.
   *
   * @param value as a reader gives it, not null
   */
  Object taken(DataType type, Object value);
}
