package yemble.core.crypto;

/**
 * What stands in for the values that pseudo-random functions are asked about: a text, as another
 * column of the row holds it, and how often each function has been asked since. So results depend
 * on that text and on nothing else. Belongs to one thread.
 */
public final class Keying {
  private String text = "";
  private long epoch;

  /** From now on this text stands in. */
  public void set(String text) {
    this.text = text;
    this.epoch++;
  }

  String text() {
    return text;
  }

  /** Differs after each {@link #set}. */
  long epoch() {
    return epoch;
  }
}
