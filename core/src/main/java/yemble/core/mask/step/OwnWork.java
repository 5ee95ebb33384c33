package yemble.core.mask.step;

import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.own.KeyedBytes;
import yemble.core.own.OwnMask;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * A mask of one's own among the others. What it throws never gets any further than that it threw:
 * its words may be values.
 */
final class OwnWork implements Mask {
  private final OwnMask mask;
  private final OwnMask.Work work;
  private final KeyedBytes bytes;

  OwnWork(OwnMask mask, OwnMask.Work work, Prf prf) {
    this.mask = mask;
    this.work = work;
    this.bytes =
        new KeyedBytes() {
          @Override
          public byte[] of(String text, int length) {
            return prf.draw(text).bytes(length);
          }

          @Override
          public long below(String text, long bound) {
            return prf.below(text, bound);
          }
        };
  }

  @Override
  public boolean leavesBlanks() {
    return false;
  }

  @Override
  public boolean keepsDifferent() {
    return mask.keepsDifferent();
  }

  /** Nobody but its author says that it does. */
  @Override
  public boolean mayMeet() {
    return true;
  }

  @Override
  public String apply(String text) {
    String masked;
    try {
      masked = work.apply(text, bytes);
    } catch (RuntimeException | LinkageError | StackOverflowError e) {
      throw failed("it throws " + e.getClass().getSimpleName());
    }
    if (masked == null || masked.isEmpty()) {
      throw failed("it gives " + (masked == null ? "null" : "an empty text"));
    }
    return masked;
  }

  private Problem failed(String why) {
    return Problem.of(Failure.PLUGIN_FAILED, "the mask " + mask.name() + " fails at a value")
        .because(why)
        .remedy("mend it; yemble preview --check tries it on samples of all columns");
  }
}
