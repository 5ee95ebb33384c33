package yemble.core.mask;

import java.util.List;

/** Masks one after another. */
record Chain(List<Mask> masks) implements Mask {
  Chain {
    masks = List.copyOf(masks);
  }

  @Override
  public boolean keepsDifferent() {
    return masks.stream().allMatch(Mask::keepsDifferent);
  }

  @Override
  public boolean leavesBlanks() {
    return masks.stream().allMatch(Mask::leavesBlanks);
  }

  @Override
  public boolean mayMeet() {
    return masks.stream().anyMatch(Mask::mayMeet);
  }

  @Override
  public String apply(String text) {
    String masked = text;
    for (Mask mask : masks) {
      if (masked == null || masked.isEmpty()) {
        return masked;
      }
      masked = mask.apply(masked);
    }
    return masked;
  }
}
