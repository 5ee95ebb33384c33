package yemble.core.parcel;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;
import yemble.core.file.WrittenFile;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;

/** A folder of parcels. */
public final class Shelf {
  public static final String ENDING = ".parcel";

  /** A file under way that nobody has written to for so long is nobody's. */
  private static final Duration ABANDONED = Duration.ofDays(1);

  private final Path folder;

  /**
   * @param folder that need not be there yet
   */
  public Shelf(Path folder) {
    this.folder = folder;
  }

  /**
   * What lies on it.
   *
   * @param manifest empty if the file is no parcel, or a damaged one
   * @param problem what is wrong then; null otherwise
   */
  public record Item(Path file, long bytes, Optional<Manifest> manifest, Problem problem) {
    private Instant at() {
      return manifest.map(known -> known.load().at()).orElse(Instant.MIN);
    }
  }

  /** Removes what packs have left that were stopped before a moment. */
  private void abandoned(Instant before) {
    try (DirectoryStream<Path> files =
        Files.newDirectoryStream(folder, ".*" + ENDING + ".*.part")) {
      for (Path file : files) {
        if (Files.getLastModifiedTime(file).toInstant().isBefore(before)) {
          Files.delete(file);
        }
      }
    } catch (IOException e) {
      return; // They are in nobody's way.
    }
  }

  /** Everything on it, the newest first. */
  public List<Item> items() {
    List<Item> items = new ArrayList<>();
    if (!Files.isDirectory(folder)) {
      return items;
    }
    try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, "*" + ENDING)) {
      for (Path file : files) {
        items.add(item(file));
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the shelf cannot be read")
          .at(folder.toString())
          .causedBy(e);
    }
    items.sort(
        Comparator.comparing(Item::at).thenComparing(item -> item.file().toString()).reversed());
    return items;
  }

  private static Item item(Path file) throws IOException {
    try {
      return new Item(file, Files.size(file), Optional.of(ParcelReader.manifest(file)), null);
    } catch (Problem problem) {
      return new Item(file, Files.size(file), Optional.empty(), problem);
    }
  }

  /**
   * The newest parcel of a job.
   *
   * @param job its name; empty for the only one that is there
   * @throws Problem of type USAGE if there is none
   */
  public Path newest(String job) {
    List<Item> all = items();
    TreeSet<String> jobs = new TreeSet<>();
    all.forEach(item -> item.manifest().ifPresent(known -> jobs.add(known.load().job())));
    if (job.isEmpty() && jobs.size() != 1) {
      throw Problem.of(
              Failure.CHOICE_MISSING,
              jobs.isEmpty() ? "the shelf is empty" : "which job? The shelf has parcels of several")
          .at(folder.toString())
          .remedy(
              jobs.isEmpty()
                  ? "yemble pack makes a parcel"
                  : "name one of: " + String.join(", ", jobs));
    }
    return all.stream()
        .filter(
            item ->
                item.manifest()
                    .filter(known -> job.isEmpty() || known.load().job().equals(job))
                    .isPresent())
        .map(Item::file)
        .findFirst()
        .orElseThrow(
            () ->
                Problem.of(Failure.NOTHING_FOUND, "the shelf has no parcel of the job " + job)
                    .at(folder.toString())
                    .remedy(jobs.isEmpty() ? "yemble pack makes one" : Nearest.hint(job, jobs)));
  }

  /**
   * Removes what need not be kept beside a parcel that has just been packed.
   *
   * @param newest that parcel, which stays
   * @param keepLast how many of its job stay with it; 0 for all
   * @param keepFor how old others may be
   * @return what was removed
   */
  public List<Path> tidy(Path newest, long keepLast, Optional<Duration> keepFor, Instant now) {
    List<Item> all = items();
    String job =
        all.stream()
            .filter(item -> item.file().equals(newest))
            .flatMap(item -> item.manifest().stream())
            .map(known -> known.load().job())
            .findFirst()
            .orElse("");
    List<Path> removed = new ArrayList<>();
    long seen = 1;
    for (Item item : all) {
      if (item.manifest().isEmpty() || item.file().equals(newest)) {
        continue; // Whoever looks at the shelf is to see that something is wrong with it.
      }
      boolean same = item.manifest().get().load().job().equals(job);
      seen += same ? 1 : 0;
      boolean many = same && keepLast > 0 && seen > keepLast;
      boolean old = keepFor.isPresent() && item.at().isBefore(now.minus(keepFor.get()));
      if (many || old) {
        remove(item.file());
        removed.add(item.file());
      }
    }
    return removed;
  }

  /** Takes a parcel away. */
  public static void remove(Path file) {
    try {
      Files.delete(file);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the parcel cannot be removed")
          .at(file.toString())
          .causedBy(e);
    }
  }

  /** The file for a parcel of a job that is packed now; the folder is made. */
  public Path place(String job, Instant now) {
    String moment =
        DateTimeFormatter.ofPattern("yyyyMMdd-HHmmss", Locale.ROOT)
            .withZone(ZoneOffset.UTC)
            .format(now);
    String name = job.replaceAll("[^\\p{L}\\p{N}_.-]", "_").replaceFirst("^\\.", "_");
    try {
      WrittenFile.folder(folder);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the shelf cannot be made")
          .at(folder.toString())
          .causedBy(e);
    }
    abandoned(now.minus(ABANDONED));
    Path file = folder.resolve(name + "-" + moment + ENDING);
    for (int i = 2; Files.exists(file); i++) {
      file = folder.resolve(name + "-" + moment + "-" + i + ENDING);
    }
    return file;
  }
}
