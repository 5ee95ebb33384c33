package yemble.core.mask.step;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import yemble.core.crypto.Permutation;
import yemble.core.kind.Kinds;
import yemble.core.mask.Mask;
import yemble.core.mask.person.Names;

/**
 * Another of the values that are all a column can hold, as its type or a condition says: the next
 * one in an order that the key gives; what says that nothing is known stays. A value that is none
 * of them becomes what its kind makes of it. Nobody writes this step: it is what the schema adds to
 * a rule that says none.
 *
 * @param kind of the column; empty for none
 * @param labels all that the column can hold
 */
public record Among(String kind, List<String> labels) implements MaskStep {
  public Among {
    labels = List.copyOf(labels);
  }

  @Override
  public StepSort sort() {
    return As.SORT;
  }

  @Override
  public String words() {
    return (kind.isEmpty() ? Kinds.SHAPE : kind)
        + " among the column's "
        + labels.size()
        + " values";
  }

  @Override
  public Mask mask(Making making) {
    List<String> telling = labels.stream().filter(label -> !Names.saysNothing(label)).toList();
    int size = telling.size();
    Map<String, String> next = new HashMap<>();
    labels.forEach(label -> next.put(label, label));
    if (size > 1) {
      Permutation order = making.prf().permutation(size, "among " + telling);
      for (int i = 0; i < size; i++) {
        next.put(telling.get((int) order.of(i)), telling.get((int) order.of((i + 1) % size)));
      }
    }
    Mask others = making.masks().as(kind, making.kind());
    return new Mask() {
      @Override
      public String apply(String text) {
        String masked = next.get(text);
        return masked == null ? others.apply(text) : masked;
      }

      @Override
      public boolean keepsDifferent() {
        return others.keepsDifferent();
      }
    };
  }
}
