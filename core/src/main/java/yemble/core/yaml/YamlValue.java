package yemble.core.yaml;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import yemble.core.file.TextFile;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;

/**
 * A value of a YAML file with its place. Scalars are read as they are written: {@code no} is a
 * word, {@code 010} are three digits; what they mean is up to who asks.
 */
public final class YamlValue {
  private final Node node;
  private final String file;
  private final Place place;

  private YamlValue(Node node, String file) {
    this.node = node;
    this.file = file;
    this.place = place(file, node.getStartMark());
  }

  /**
   * The top of a file.
   *
   * @param shown the file's name in messages
   * @throws Problem if the file cannot be read or is not YAML
   */
  public static YamlValue read(Path file, String shown) {
    String text;
    try {
      text = TextFile.read(file, shown);
    } catch (NoSuchFileException e) {
      throw Problem.of(Failure.PROJECT_MISSING, "there is no project file")
          .at(shown)
          .remedy("start a project with \"yemble init\", or name its folder with --project DIR");
    } catch (CharacterCodingException e) {
      throw Problem.of(Failure.FILE_FORM, "the file is not UTF-8 text")
          .at(shown)
          .remedy("save it as UTF-8")
          .causedBy(e);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_FORM, "the file cannot be read")
          .at(shown)
          .because("the system refuses it");
    }
    return parse(text, shown);
  }

  /**
   * The top of a text.
   *
   * @param shown the file's name in messages
   * @throws Problem if it is not YAML
   */
  public static YamlValue parse(String text, String shown) {
    LoadSettings settings =
        LoadSettings.builder().setLabel(shown).setAllowDuplicateKeys(true).build();
    try {
      Optional<Node> top = new Compose(settings).composeString(text);
      return new YamlValue(
          top.orElseThrow(
              () ->
                  new Place(shown, 1, 1)
                      .problem(Failure.FILE_FORM, "the file is empty")
                      .remedy("see the guide")),
          shown);
    } catch (MarkedYamlEngineException e) {
      Place at =
          e.getProblemMark()
              .map(mark -> place(shown, Optional.of(mark)))
              .orElse(new Place(shown, 1, 1));
      throw at.problem(Failure.FILE_FORM, "this is not YAML: " + withoutWords(e.getProblem()))
          .remedy("check the indentation, colons and quotes at this place");
    } catch (StackOverflowError e) {
      throw new Place(shown, 1, 1)
          .problem(Failure.FILE_FORM, "lists or maps lie too deep within each other")
          .remedy("see whether brackets were left open, and close them");
    } catch (YamlEngineException e) {
      throw Problem.of(Failure.FILE_FORM, "this is not YAML").at(shown).causedBy(e);
    }
  }

  /**
   * What the parser says, without words of the file: a secret may stand there without quotes, as
   * {@code *name} or {@code !name}.
   */
  private static String withoutWords(String problem) {
    if (problem.contains("undefined alias")) {
      return "found an alias that nothing defines; put a value that begins with * into quotes";
    }
    return problem
        .replaceFirst("(?s)(, but (found|got)|escape character|tag handle|anchor).*", "$1")
        .replaceFirst(", but (found|got)$", "");
  }

  private static Place place(String file, Optional<Mark> mark) {
    return mark.map(m -> new Place(file, m.getLine() + 1, m.getColumn() + 1))
        .orElse(new Place(file, 1, 1));
  }

  public Place place() {
    return place;
  }

  /** Whether nothing is written: {@code key:} with nothing behind it, or {@code {}}. */
  public boolean isEmpty() {
    return (node instanceof ScalarNode scalar && scalar.isPlain() && scalar.getValue().isEmpty())
        || (node instanceof MappingNode mapping && mapping.getValue().isEmpty());
  }

  /**
   * The fields of a mapping whose words are all known; a field with nothing behind it is left out.
   */
  public Map<String, YamlValue> fields(Collection<String> known) {
    Map<String, YamlValue> fields = new LinkedHashMap<>();
    for (Map.Entry<YamlValue, YamlValue> entry : entries()) {
      String word = entry.getKey().text();
      if (!known.contains(word)) {
        throw entry
            .getKey()
            .place
            .problem(Failure.WORD_UNKNOWN, "unknown word \"" + word + "\"")
            .remedy(Nearest.hint(word, known));
      }
      fields.put(word, entry.getValue());
    }
    return fields;
  }

  /** The entries of a mapping whose keys are the user's own names, in the order of the file. */
  public List<Map.Entry<YamlValue, YamlValue>> entries() {
    if (isEmpty()) {
      return List.of();
    }
    if (!(node instanceof MappingNode mapping)) {
      throw place.problem(
          Failure.VALUE_FORM, "expected words with values here, one a line: \"word: value\"");
    }
    Map<String, Place> seen = new LinkedHashMap<>();
    List<Map.Entry<YamlValue, YamlValue>> entries = new ArrayList<>();
    for (NodeTuple tuple : mapping.getValue()) {
      YamlValue key = new YamlValue(tuple.getKeyNode(), file);
      Place first = seen.putIfAbsent(key.text(), key.place);
      if (first != null) {
        throw key.place
            .problem(Failure.WORD_TWICE, "\"" + key.text() + "\" stands here a second time")
            .because("the first one is at " + first)
            .remedy("keep one of them");
      }
      entries.add(Map.entry(key, new YamlValue(tuple.getValueNode(), file)));
    }
    return entries;
  }

  /** The items of a list. */
  public List<YamlValue> items() {
    if (isEmpty()) {
      return List.of();
    }
    if (!(node instanceof SequenceNode sequence)) {
      throw place
          .problem(Failure.VALUE_FORM, "expected a list here")
          .remedy("write it as [one, two]");
    }
    return sequence.getValue().stream().map(item -> new YamlValue(item, file)).toList();
  }

  /** The text of a scalar, as it is written. */
  public String text() {
    if (!(node instanceof ScalarNode scalar)) {
      throw place.problem(Failure.VALUE_FORM, "expected a single value here");
    }
    return scalar.getValue();
  }

  /** All texts in it, keys and values, in the order of the file. */
  public void texts(Consumer<String> visitor) {
    if (node instanceof ScalarNode scalar) {
      visitor.accept(scalar.getValue());
    } else if (node instanceof SequenceNode sequence) {
      sequence.getValue().forEach(item -> new YamlValue(item, file).texts(visitor));
    } else if (node instanceof MappingNode mapping) {
      for (NodeTuple tuple : mapping.getValue()) {
        new YamlValue(tuple.getKeyNode(), file).texts(visitor);
        new YamlValue(tuple.getValueNode(), file).texts(visitor);
      }
    }
  }

  /** Whether it has words with values of their own. */
  public boolean isMapping() {
    return node instanceof MappingNode;
  }

  /** Whether it is a list. */
  public boolean isList() {
    return node instanceof SequenceNode;
  }

  /** A text that must not be empty. */
  public String word() {
    String text = text().strip();
    if (text.isEmpty()) {
      throw place.problem(Failure.VALUE_FORM, "a value is missing here");
    }
    return text;
  }

  /** A whole number from {@code least} on. */
  public long number(long least) {
    String text = word();
    if (!text.matches("[0-9][0-9_]*") || text.length() > 18) {
      throw place.problem(Failure.VALUE_FORM, "expected a whole number here, digits only");
    }
    long number = Long.parseLong(text.replace("_", ""));
    if (number < least) {
      throw place.problem(Failure.VALUE_FORM, "this number must be at least " + least);
    }
    return number;
  }

  /** {@code true} or {@code false}. */
  public boolean flag() {
    return switch (word()) {
      case "true" -> true;
      case "false" -> false;
      default ->
          throw place
              .problem(Failure.VALUE_FORM, "this is neither true nor false")
              .remedy("write true or false");
    };
  }

  /** A share from 0 to 1, written as 0.8 or 80%. */
  public double share() {
    String word = word();
    boolean percent = word.endsWith("%");
    String digits = percent ? word.substring(0, word.length() - 1).strip() : word;
    if (!digits.matches("[0-9]{1,3}(\\.[0-9]{1,6})?")) {
      throw place
          .problem(Failure.VALUE_FORM, "expected a share here")
          .remedy("write it as 80% or 0.8");
    }
    double share = Double.parseDouble(digits) / (percent ? 100 : 1);
    if (share > 1) {
      throw place.problem(Failure.VALUE_FORM, "a share lies between 0 and 100%");
    }
    return share;
  }

  /** One of the constants of an enum, written in lower case with hyphens. */
  public <E extends Enum<E>> E oneOf(Class<E> type) {
    String word = word();
    List<String> known = new ArrayList<>();
    for (E constant : type.getEnumConstants()) {
      String name = constant.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
      if (name.equals(word)) {
        return constant;
      }
      known.add(name);
    }
    throw place
        .problem(Failure.WORD_UNKNOWN, "unknown word \"" + word + "\"")
        .remedy(Nearest.hint(word, known));
  }
}
