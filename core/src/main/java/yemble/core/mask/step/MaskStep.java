package yemble.core.mask.step;

import yemble.core.mask.Mask;

/** One step of a mask that the user puts together. */
public interface MaskStep {
  /** What there is to know of all steps of its word. */
  StepSort sort();

  /** What a value becomes by this step, in a few words, as preview writes it. */
  default String words() {
    return sort().word();
  }

  /** Whether what it makes depends on more of the row than the value. */
  default boolean readsRow() {
    return false;
  }

  /**
   * The mask of the step.
   *
   * @throws IllegalArgumentException for a step that reads more than the value
   */
  Mask mask(Making making);
}
