package yemble.core.mask.step;

import yemble.core.mask.Mask;

/**
 * A step that is taken in some rows alone; in all others the value goes on as it is.
 *
 * @param condition SQL of the source
 */
public record In(MaskStep step, String condition) implements MaskStep {
  /** What the condition stands behind. */
  public static final String WORD = "when";

  @Override
  public StepSort sort() {
    return step.sort();
  }

  @Override
  public String words() {
    return step.words() + " if " + condition;
  }

  @Override
  public boolean readsRow() {
    return true;
  }

  @Override
  public Mask mask(Making making) {
    return step.mask(making);
  }
}
