package yemble.core.job;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import yemble.core.file.WrittenFile;
import yemble.core.mark.Loaded;
import yemble.core.moment.Now;
import yemble.core.parcel.ParcelReader;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.Project;

/**
 * A file with the originals of a rewrite: a sealed parcel, which is removed at the end of its time
 * by whichever command comes next. As long as it is there, it is a way back to them.
 *
 * @param database the name that the project has for the copy
 * @param until when it goes
 */
public record UndoFile(Path file, String database, Instant until) {
  private static final String FOLDER = "undo";
  private static final Pattern NAME = Pattern.compile("(.+)\\.until-(\\d{8}T\\d{6}Z)\\.undo");
  private static final DateTimeFormatter WHEN =
      DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  /** Where the originals of a rewrite that begins now are to be. */
  static UndoFile next(Project project, String database, Duration kept) {
    Instant until = Now.moment().plus(kept).truncatedTo(ChronoUnit.SECONDS);
    Path folder = folder(project);
    try {
      WrittenFile.folder(folder);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "originals cannot be kept")
          .at(folder.toString())
          .causedBy(e);
    }
    String name = database + ".until-" + WHEN.format(until) + ".undo";
    return new UndoFile(folder.resolve(name), database, until);
  }

  private static Path folder(Project project) {
    return project.directory().resolve(Project.STATE).resolve(FOLDER);
  }

  /** All of a project, the one that goes first first. */
  public static List<UndoFile> all(Project project) {
    List<UndoFile> all = new ArrayList<>();
    Path folder = folder(project);
    if (!Files.isDirectory(folder)) {
      return all;
    }
    try (Stream<Path> files = Files.list(folder)) {
      for (Path file : files.sorted().toList()) {
        Matcher name = NAME.matcher(file.getFileName().toString());
        if (name.matches()) {
          try {
            Instant until = WHEN.parse(name.group(2), Instant::from);
            all.add(new UndoFile(file, name.group(1), until));
          } catch (DateTimeParseException no) {
            // Not one of ours.
          }
        }
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the folder of originals cannot be read")
          .at(folder.toString())
          .causedBy(e);
    }
    all.sort((one, other) -> one.until().compareTo(other.until()));
    return all;
  }

  /** Removes those whose time is over. */
  public static void expire(Project project) {
    for (UndoFile each : all(project)) {
      if (each.until().isBefore(Now.moment())) {
        each.remove();
      }
    }
  }

  /** Whether it holds the originals of a rewrite. */
  boolean isOf(Loaded rewrite) {
    Loaded kept = ParcelReader.manifest(file).load();
    return kept.job().equals(rewrite.job()) && rewrite.at().equals(kept.at());
  }

  /** The day and minute of its end, in UTC. */
  public String when() {
    return until.toString().replace('T', ' ').replaceFirst(":\\d\\d(\\.\\d+)?Z$", " UTC");
  }

  /** Removes it: from then on nothing leads back. */
  public void remove() {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "a file with originals cannot be removed")
          .at(file.toString())
          .causedBy(e)
          .remedy("remove it yourself: its time is over");
    }
  }
}
