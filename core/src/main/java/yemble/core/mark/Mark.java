package yemble.core.mark;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * What Yemble leaves in a target: the loads that it holds, the newest last. Each says who loaded
 * what, when, and which tables it made, and has digests of its rows, so that any later day can tell
 * whether they are still what was loaded. As it lies in a target, see {@link MarkText}.
 */
public record Mark(List<Loaded> loads) {
  /** Nothing loaded. */
  public static final Mark NONE = new Mark(List.of());

  public Mark {
    loads = List.copyOf(loads);
  }

  /** What Yemble made, in the engine's own spelling. */
  public List<String> made() {
    return loads.stream().flatMap(load -> load.made().stream()).distinct().toList();
  }

  /** What loads from a source made. */
  public List<String> madeFrom(String source) {
    return loads.stream()
        .filter(load -> load.source().equals(source))
        .flatMap(load -> load.made().stream())
        .toList();
  }

  /** The newest load of a job. */
  public Optional<Loaded> of(String job, String source) {
    return loads.stream()
        .filter(load -> load.job().equals(job) && load.source().equals(source))
        .reduce((older, newer) -> newer);
  }

  /**
   * The mark after one more load.
   *
   * @param replaced what went for it, in the engine's own spelling
   */
  public Mark with(Loaded load, List<String> replaced) {
    List<String> gone = new ArrayList<>(replaced);
    gone.addAll(load.made());
    List<Loaded> all = new ArrayList<>();
    for (Loaded earlier : loads) {
      Loaded left = earlier.without(gone, load.tables());
      if (!left.made().isEmpty() || !left.tables().isEmpty()) {
        all.add(left);
      }
    }
    all.add(load);
    return new Mark(all);
  }

  /** Who loaded what, for people. */
  public String description() {
    return loads.stream().map(Loaded::description).collect(Collectors.joining("; "));
  }
}
