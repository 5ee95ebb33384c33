package yemble.core.mask.step;

import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import yemble.core.kind.Kinds;
import yemble.core.mask.Mask;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.yaml.YamlValue;

/** The mask of a kind, or of an empty name, which keeps nothing but the shape. */
public record As(String kind) implements MaskStep {
  static final StepSort SORT =
      new StepSort(
          "as",
          "`as: KIND`",
          "what the kind becomes; `shape` for its shape alone. The kind, `shape` or `clear` can stand alone",
          "{\"$ref\": \"#/$defs/kind\"}",
          List.of("full-name", "shape"),
          StepSort.Takes.ALL,
          Set.of(),
          As::read);

  /** The step of a kind's name, or of {@code shape}. */
  public static MaskStep read(YamlValue word, StepSort.Known known) {
    if (word.word().equals(Kinds.SHAPE)) {
      return new As("");
    }
    if (known.kinds().of(word.word()).isEmpty()) {
      Set<String> words = new TreeSet<>(known.kinds().names());
      words.add(Kinds.SHAPE);
      words.add(Clear.WORD);
      throw word.place()
          .problem(Failure.KIND_UNKNOWN, "unknown kind \"" + word.word() + "\"")
          .remedy(Nearest.hint(word.word(), words, Kinds.SEE_ALL));
    }
    return new As(word.word());
  }

  @Override
  public StepSort sort() {
    return SORT;
  }

  @Override
  public String words() {
    return kind.isEmpty() ? Kinds.SHAPE : kind;
  }

  @Override
  public Mask mask(Making making) {
    return making.masks().as(kind, making.kind());
  }
}
