package yemble.core.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.LongStream;
import yemble.core.file.TextFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.mask.LearnedNames;
import yemble.core.mask.LearnedNames.Generation;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;

/**
 * The file of the names that a project has learned. It belongs into version control, as the masks
 * of addresses depend on it; it holds fingerprints under the project's key, and no name.
 */
public final class LearnedFile {
  /** In the project's folder. */
  public static final String FILE = "learned-names.txt";

  private static final String HEAD =
      """
      # Names of the source that no vocabulary knows, as fingerprints under the project's key: written by yemble names learn.
      # Belongs into version control: what addresses and logins become depends on it. Who has the key can try names on it.
      """;
  private static final Pattern GENERATION =
      Pattern.compile("generation ([0-9]+) ([0-9]{4}-[0-9]{2}-[0-9]{2})");
  private static final Pattern NAME = Pattern.compile("([gf]) ([0-9a-f]{16})");

  private LearnedFile() {}

  /**
   * What a project has learned; nothing if it does not want any.
   *
   * @throws Problem of type USAGE if the file is missing or not of its form
   */
  public static LearnedNames of(Project project) {
    if (!project.learnsNames()) {
      return LearnedNames.NONE;
    }
    LearnedNames learned = readIfThere(project.directory());
    if (learned.isEmpty()) {
      throw Problem.of(Failure.LEARNED_NAMES, "the names that the project has learned are missing")
          .at(FILE)
          .because("without them addresses would become others than for the rest of the team")
          .remedy("restore the file from version control, or begin it with yemble names learn");
    }
    return learned;
  }

  /** The same, nothing where there is no file yet. */
  public static LearnedNames readIfWanted(Project project) {
    return project.learnsNames() ? readIfThere(project.directory()) : LearnedNames.NONE;
  }

  /** What the file in a folder holds; nothing without a file. */
  public static LearnedNames readIfThere(Path directory) {
    String text;
    try {
      text = TextFile.read(directory.resolve(FILE), FILE);
    } catch (NoSuchFileException e) {
      return LearnedNames.NONE;
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the file cannot be read").at(FILE).causedBy(e);
    }
    List<Generation> generations = new ArrayList<>();
    List<Long> given = new ArrayList<>();
    List<Long> family = new ArrayList<>();
    String day = "";
    List<String> lines = text.lines().toList();
    for (int i = 0; i < lines.size(); i++) {
      String line = lines.get(i).strip();
      Matcher begins = GENERATION.matcher(line);
      Matcher name = NAME.matcher(line);
      if (begins.matches()
          && Integer.parseInt(begins.group(1)) == generations.size() + (day.isEmpty() ? 1 : 2)) {
        if (!day.isEmpty()) {
          generations.add(generation(day, given, family));
        }
        day = begins.group(2);
      } else if (name.matches() && !day.isEmpty()) {
        (name.group(1).equals("g") ? given : family).add(Long.parseUnsignedLong(name.group(2), 16));
      } else if (!line.isEmpty() && !line.startsWith("#")) {
        throw Problem.of(Failure.LEARNED_NAMES, "this line is none of a file of learned names")
            .at(FILE + ":" + (i + 1))
            .remedy("restore the file from version control");
      }
    }
    if (!day.isEmpty()) {
      generations.add(generation(day, given, family));
    }
    return new LearnedNames(generations);
  }

  private static Generation generation(String day, List<Long> given, List<Long> family) {
    Generation generation = new Generation(day, sorted(given), sorted(family));
    given.clear();
    family.clear();
    return generation;
  }

  private static long[] sorted(List<Long> prints) {
    return prints.stream().mapToLong(Long::longValue).sorted().toArray();
  }

  /** Writes all that was learned. */
  public static void write(Path directory, LearnedNames learned) {
    StringBuilder text = new StringBuilder(HEAD);
    int number = 0;
    for (Generation generation : learned.generations()) {
      text.append("generation ").append(++number).append(' ').append(generation.day()).append('\n');
      LongStream.of(generation.given())
          .forEach(print -> text.append(String.format("g %016x%n", print)));
      LongStream.of(generation.family())
          .forEach(print -> text.append(String.format("f %016x%n", print)));
    }
    Path file = directory.resolve(FILE);
    try {
      if (Files.exists(file)) {
        WrittenFile.replace(file, text.toString(), Readers.USUAL);
      } else {
        WrittenFile.create(file, text.toString(), Readers.USUAL);
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the file cannot be written").at(FILE).causedBy(e);
    }
  }
}
