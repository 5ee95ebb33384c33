package yemble.core.project;

import java.io.IOException;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import yemble.core.file.TextFile;
import yemble.core.problem.Failure;
import yemble.core.yaml.Place;

/**
 * A text of the project file that may refer to the surroundings: {@code ${env:NAME}} is an
 * environment variable, {@code ${file:PATH}} the content of a file, without its last line end. What
 * it refers to is looked up only when it is needed, and never shown.
 *
 * @param secret whether a secret belongs here, so that what is written is not quoted either
 */
public record Setting(String written, Place place, boolean secret) {
  private static final Pattern REFERENCE = Pattern.compile("\\$\\{([a-z]*):([^}]*)}");

  /** Nothing written. */
  public static final Setting NONE = new Setting("", new Place("", 0, 0), true);

  /** The text with its references looked up; relative paths start at {@code directory}. */
  public String value(Path directory, Map<String, String> environment) {
    Matcher reference = REFERENCE.matcher(written);
    StringBuilder value = new StringBuilder();
    while (reference.find()) {
      String content =
          switch (reference.group(1)) {
            case "env" -> variable(reference.group(2), environment);
            case "file" -> file(directory, reference.group(2));
            default ->
                throw place
                    .problem(Failure.SETTING_UNREADABLE, "unknown reference")
                    .because("there are two; what stands here may be a secret, and is not shown")
                    .remedy("write ${env:NAME} or ${file:PATH}");
          };
      reference.appendReplacement(value, Matcher.quoteReplacement(content));
    }
    return reference.appendTail(value).toString();
  }

  private String variable(String name, Map<String, String> environment) {
    String content = environment.get(name);
    if (content == null) {
      throw place
          .problem(
              Failure.SETTING_UNREADABLE,
              "the environment variable " + (isShown(name) ? name + " " : "here ") + "is not set")
          .remedy("set it before calling yemble: export " + (isShown(name) ? name : "NAME") + "=…");
    }
    return content;
  }

  /** A name of the usual form is no secret; anything else in a secret's place may be one. */
  private boolean isShown(String name) {
    return name.matches(secret ? "[A-Z][A-Z0-9]*(_[A-Z0-9]+)+" : "[A-Za-z_][A-Za-z0-9_]*");
  }

  private String file(Path directory, String name) {
    try {
      return TextFile.read(directory.resolve(name), place.toString()).replaceFirst("\\R$", "");
    } catch (IOException | InvalidPathException e) {
      throw place
          .problem(
              Failure.SETTING_UNREADABLE,
              "the file " + (secret ? "here " : name + " ") + "cannot be read")
          .remedy("check that it exists; paths start at the project's folder")
          .causedBy(e);
    }
  }
}
