package yemble.core.mask.step;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import yemble.core.mask.Mask;
import yemble.core.own.OwnMask;
import yemble.core.own.OwnMasks;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.yaml.YamlValue;

/**
 * A mask of one's own.
 *
 * @param name its word
 * @param options as the project has them
 * @param from the digest of its jar
 */
public record Own(String name, SortedMap<String, String> options, String from, OwnMask mask)
    implements MaskStep {
  /** Of no word in the reference: each has its own. */
  private static final StepSort SORT =
      new StepSort(
          "", "", "", "true", List.of(), StepSort.Takes.NO_BYTES, Set.of(), Own::unreadable);

  private static MaskStep unreadable(YamlValue value, StepSort.Known known) {
    throw new IllegalStateException("read by its own word");
  }

  /**
   * The step of the word of a mask of one's own.
   *
   * @param entries its options
   */
  public static MaskStep read(
      String name,
      List<Map.Entry<YamlValue, YamlValue>> entries,
      YamlValue value,
      StepSort.Known known) {
    OwnMasks.Found found = known.own().all().get(name);
    SortedMap<String, String> options = new TreeMap<>();
    for (var entry : entries) {
      String option = entry.getKey().word();
      if (!found.mask().options().contains(option)) {
        throw entry
            .getKey()
            .place()
            .problem(Failure.WORD_UNKNOWN, "the mask " + name + " has no option \"" + option + "\"")
            .remedy(Nearest.hint(option, found.mask().options()));
      }
      options.put(option, entry.getValue().text());
    }
    try {
      found.mask().with(options);
    } catch (RuntimeException | LinkageError e) {
      Problem wrong =
          value
              .place()
              .problem(Failure.PLUGIN_FAILED, "the mask " + name + " takes no such options");
      throw (e instanceof IllegalArgumentException && e.getMessage() != null
              ? wrong.because(e.getMessage())
              : wrong.because("it throws " + e.getClass().getSimpleName()))
          .remedy("see what it wants: yemble masks " + name);
    }
    return new Own(name, options, found.digest(), found.mask());
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return name;
  }

  @Override
  public Mask mask(Making making) {
    return new OwnWork(mask, mask.with(options), making.prf());
  }

  /** The same in every process. */
  @Override
  public String toString() {
    return "Own[" + name + options + from + "]";
  }
}
