package yemble.core.mask;

import java.util.List;
import java.util.function.Function;

/**
 * A sort of personal data, defined in this one place.
 *
 * @param name what the register calls it; also the scope of its mask
 * @param meaning what a column of the kind holds, in a few words
 * @param becomes what the mask makes of a value, in a few words
 * @param normalForm what two spellings of one value have in common, in a few words
 * @param samples made-up values
 * @param mask makes the mask
 */
public record Kind(
    String name,
    Category category,
    String meaning,
    String becomes,
    String normalForm,
    List<String> samples,
    Function<Masks, Mask> mask) {
  public Kind {
    samples = List.copyOf(samples);
  }
}
