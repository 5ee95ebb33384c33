package yemble.core.mask.step;

import java.util.List;
import yemble.core.crypto.Prf;
import yemble.core.mask.Mask;
import yemble.core.mask.shape.Letters;

/**
 * The mask that puts an entry of the user's own list, or of the column's own values, in the place
 * of a text, each as often as its weight says; of a list another one than the text itself, if there
 * is one.
 *
 * <p>Normal form: trimmed, in lower case.
 */
final class OwnList implements Mask {
  private final Prf prf;
  private final boolean differs;
  private final List<String> values;
  private final long[] ends;

  /**
   * @param weights of the values, from 1 on
   * @param differs whether a text never stays; else each comes as often as its weight says
   */
  OwnList(Prf prf, List<String> values, List<Integer> weights, boolean differs) {
    this.differs = differs;
    this.prf = prf;
    this.values = values;
    this.ends = new long[values.size()];
    long end = 0;
    for (int i = 0; i < ends.length; i++) {
      end += weights.get(i);
      ends[i] = end;
    }
  }

  @Override
  public boolean keepsDifferent() {
    return false;
  }

  @Override
  public String apply(String text) {
    String normal = Letters.lower(text.strip());
    long drawn = prf.below(normal, ends[ends.length - 1]);
    int found = java.util.Arrays.binarySearch(ends, drawn);
    int at = found < 0 ? -found - 1 : found + 1;
    String chosen = values.get(at);
    return differs && chosen.equals(text) ? values.get((at + 1) % ends.length) : chosen;
  }
}
