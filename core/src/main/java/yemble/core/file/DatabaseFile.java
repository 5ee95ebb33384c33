package yemble.core.file;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What files databases are made of. */
public final class DatabaseFile {
  private static final List<String> BESIDE = List.of("-wal", "-shm", "-journal");

  /** What a load of ours is built in, beside the database. */
  public static final String PART = ".yemble-part";

  /** What waits beside a database to take the place of its rows. */
  public static final String REWRITE = ".yemble-rewrite";

  /** What was written into a database in the place of its rows, kept beside it. */
  public static final String WRITTEN = ".yemble-written";

  private static final int LOOKED_AT = 16;

  private DatabaseFile() {}

  /** The files that a program may make beside an SQLite database, and that belong to it. */
  public static List<Path> beside(Path database) {
    return BESIDE.stream().map(ending -> with(database, ending)).toList();
  }

  /** All files that belong to an SQLite database: itself, what lies beside it, a load under way. */
  public static List<Path> family(Path database) {
    List<Path> family = new ArrayList<>(List.of(database));
    family.addAll(beside(database));
    for (Path ours :
        List.of(with(database, PART), with(database, REWRITE), with(database, WRITTEN))) {
      family.add(ours);
      family.addAll(beside(ours));
    }
    return family;
  }

  private static Path with(Path file, String ending) {
    return file.resolveSibling(file.getFileName() + ending);
  }

  /** Whether a file belongs to a database: by what it begins with, or by its name beside one. */
  public static boolean is(Path file) {
    if (isDatabase(file)) {
      return true;
    }
    String name = file.getFileName() == null ? "" : file.getFileName().toString();
    Optional<String> ending =
        BESIDE.stream().filter(e -> name.endsWith(e) && name.length() > e.length()).findFirst();
    return ending.isPresent()
        && Files.exists(
            file.resolveSibling(name.substring(0, name.length() - ending.get().length())));
  }

  private static boolean isDatabase(Path file) {
    if (!Files.isRegularFile(file)) {
      return false;
    }
    byte[] head = new byte[LOOKED_AT];
    try (InputStream in = Files.newInputStream(file)) {
      int read = in.readNBytes(head, 0, head.length);
      String text = new String(head, 0, read, StandardCharsets.ISO_8859_1);
      return text.startsWith("SQLite format 3\0")
          || text.startsWith("7\u007f\u0006\u0082")
          || text.startsWith("7\u007f\u0006\u0083")
          || text.startsWith("\u00d9\u00d5\u0005\u00f9 \u00a1c\u00d7")
          || text.startsWith("DUCK", 8)
          || text.startsWith("H:2,")
          || text.startsWith("\0\u0001\0\0Standard ");
    } catch (IOException e) {
      return true; // What cannot be looked into is not written over.
    }
  }
}
