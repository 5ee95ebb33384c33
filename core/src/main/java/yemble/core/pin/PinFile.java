package yemble.core.pin;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.IntStream;
import yemble.core.file.HeldFile;
import yemble.core.file.SameFile;
import yemble.core.file.TextFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.project.CsvLines;
import yemble.core.project.PinList;
import yemble.core.yaml.Place;

/**
 * The file of a list of stand-ins: a line for each key, with the values that it stands for. Holds
 * nothing of the source but digests, see {@link PinKey}. Survives being saved by a spreadsheet.
 *
 * <p>Whoever changes it holds a lock of the system on a file beside it from reading to renaming, so
 * that of two at a time no line is lost.
 */
public final class PinFile {
  private static final long PAUSE = 20;

  private final String shown;
  private final List<String> fields;
  private final List<PinKey> keys = new ArrayList<>();
  private final List<String[]> values = new ArrayList<>();
  private final List<Integer> numbers = new ArrayList<>();
  private final Map<PinKey, Integer> first = new HashMap<>();
  private final Map<PinKey, Integer> ambiguous = new HashMap<>();

  private PinFile(String shown, List<String> fields) {
    this.shown = shown;
    this.fields = List.copyOf(fields);
  }

  /**
   * Reads the file of a list.
   *
   * @param directory the project's folder
   * @throws Problem of type USAGE if it is not there, or not of its form
   */
  public static PinFile read(Path directory, PinList list) {
    return at(directory.resolve(list.file()), list);
  }

  /** The same, without lines where there is no file yet. */
  public static PinFile readIfThere(Path directory, PinList list) {
    return Files.exists(directory.resolve(list.file()))
        ? read(directory, list)
        : new PinFile(list.file(), list.fields());
  }

  private static PinFile at(Path file, PinList list) {
    try {
      return parse(TextFile.read(file, list.file()), list.file(), list.fields());
    } catch (NoSuchFileException e) {
      throw Problem.of(
              Failure.PINS_MISSING, "the file of the list \"" + list.name() + "\" is missing")
          .at(list.file())
          .because("without it everybody on it would get another stand-in than before")
          .remedy(
              "restore it from version control; a new list begins with yemble pins add "
                  + list.name()
                  + " -");
    } catch (CharacterCodingException e) {
      throw Problem.of(Failure.PINS_FORM, "the file is not UTF-8 text")
          .at(list.file())
          .remedy("save it as UTF-8");
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the file cannot be read")
          .at(list.file())
          .causedBy(e);
    }
  }

  /**
   * Reads a file's text.
   *
   * @param fields the headings that are known beside the key's
   */
  static PinFile parse(String text, String shown, List<String> fields) {
    PinFile file = new PinFile(shown, fields);
    int[][] positions = new int[1][];
    CsvLines.read(
        text,
        shown,
        Failure.PINS_FORM,
        (cells, place) -> {
          if (positions[0] == null) {
            positions[0] = file.header(cells, place);
          } else {
            file.line(cells, positions[0], place);
          }
        });
    if (positions[0] == null) {
      throw new Place(shown, 1, 1)
          .problem(Failure.PINS_FORM, "the file is empty")
          .remedy("its first line reads " + file.heading());
    }
    return file;
  }

  private List<String> headings() {
    List<String> headings = new ArrayList<>(fields);
    headings.add(0, PinList.KEY);
    return headings;
  }

  private String heading() {
    return String.join(",", headings());
  }

  private int[] header(List<String> cells, Place place) {
    if (!cells.contains(PinList.KEY)) {
      throw place
          .problem(Failure.PINS_FORM, "this is no list of stand-ins")
          .because("its first line, which is not shown here, has no heading \"key\"")
          .remedy("the first line reads " + heading());
    }
    return CsvLines.positions(cells, headings(), Failure.PINS_FORM, place);
  }

  private void line(List<String> cells, int[] positions, Place place) {
    String[] ordered = CsvLines.ordered(cells, positions, Failure.PINS_FORM, place);
    PinKey key =
        PinKey.parse(ordered[0])
            .orElseThrow(
                () ->
                    place
                        .problem(Failure.PINS_FORM, "the key of this line is no digest")
                        .because("it may be an original, and is not shown")
                        .remedy(
                            "take the line out, and let yemble pins add write it: digests alone"
                                + " may stand here"));
    String[] held = new String[fields.size()];
    System.arraycopy(ordered, 1, held, 0, held.length);
    add(key, held, place.line());
  }

  private void add(PinKey key, String[] held, int number) {
    Integer before = first.putIfAbsent(key, keys.size());
    if (before != null && !List.of(values.get(before)).equals(List.of(held))) {
      ambiguous.putIfAbsent(key, number);
    }
    keys.add(key);
    values.add(held);
    numbers.add(number);
  }

  /** What the file is called in messages. */
  public String shown() {
    return shown;
  }

  /** The headings of its values. */
  public List<String> fields() {
    return fields;
  }

  /** How many lines it has. */
  public int size() {
    return keys.size();
  }

  /** The key of a line, counted from 0. */
  public PinKey key(int line) {
    return keys.get(line);
  }

  /** A value of a line; empty if it has none. */
  public String value(int line, int field) {
    return values.get(line)[field];
  }

  /** Where a line stands in the file. */
  public Place place(int line) {
    return new Place(shown, numbers.get(line), 1);
  }

  /**
   * The line of a key.
   *
   * @return -1 if there is none, or if there are two that say different things
   */
  public int line(PinKey key) {
    Integer line = first.get(key);
    return line == null || (!ambiguous.isEmpty() && ambiguous.containsKey(key)) ? -1 : line;
  }

  /** Whether two lines say different things of a key. */
  public boolean isAmbiguous(PinKey key) {
    return ambiguous.containsKey(key);
  }

  /** Where such lines stand: of each key the first one and the first that differs from it. */
  public List<Place[]> ambiguities() {
    List<Place[]> places = new ArrayList<>();
    ambiguous.forEach(
        (key, number) ->
            places.add(new Place[] {place(first.get(key)), new Place(shown, number, 1)}));
    return places;
  }

  /** Adds a line without values for a key that has none; whether it was added. */
  public boolean add(PinKey key) {
    if (first.containsKey(key)) {
      return false;
    }
    String[] held = new String[fields.size()];
    Arrays.fill(held, "");
    add(key, held, keys.size() + 2);
    return true;
  }

  /** Gives a line a value where it has none; whether it had none. */
  public boolean fill(int line, int field, String value) {
    String[] held = values.get(line);
    if (!held[field].isEmpty() || value.isEmpty()) {
      return false;
    }
    held[field] = value;
    return true;
  }

  /**
   * Changes the file of a list: nobody else does meanwhile. It is begun if it is not there, and not
   * written if nothing came of it.
   *
   * @param change makes the changes, and says what came of it
   * @param written whether what came of it is to be written
   */
  public static <T> T update(
      Path directory, PinList list, Function<PinFile, T> change, Function<T, Boolean> written) {
    Path path = directory.resolve(list.file());
    try {
      begin(path, list);
      Path file = SameFile.real(path);
      WrittenFile.refuseOthers(file);
      HeldFile held = hold(lockOf(file));
      try {
        PinFile read = at(file, list);
        T result = change.apply(read);
        if (written.apply(result)) {
          WrittenFile.replace(file, read.toText(), Readers.USUAL);
        }
        return result;
      } finally {
        held.close();
      }
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the list of stand-ins cannot be written")
          .at(list.file())
          .causedBy(e);
    }
  }

  /**
   * What is locked: a file beside that stays and that nobody reads. A lock of the list itself would
   * be gone as soon as this process has read the list and closed it, and its place is taken by
   * another file with each change.
   */
  private static Path lockOf(Path file) {
    return file.resolveSibling("." + file.getFileName() + ".lock");
  }

  private static void begin(Path file, PinList list) throws IOException {
    if (!Files.exists(file)) {
      WrittenFile.folder(file.toAbsolutePath().getParent());
      try {
        WrittenFile.create(file, new PinFile(list.file(), list.fields()).toText(), Readers.USUAL);
      } catch (FileAlreadyExistsException another) {
        // Somebody else has begun it at this moment.
      }
    }
  }

  /** Waits until nobody else holds it. */
  private static HeldFile hold(Path lock) throws IOException {
    while (true) {
      HeldFile held = HeldFile.hold(lock, "process " + ProcessHandle.current().pid()).held();
      if (held != null) {
        return held;
      }
      try {
        Thread.sleep(PAUSE);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IllegalStateException(e);
      }
    }
  }

  /** The text of the file. */
  String toText() {
    return CsvLines.text(headings(), IntStream.range(0, size()).mapToObj(this::cells)::iterator);
  }

  private List<String> cells(int line) {
    List<String> cells = new ArrayList<>(fields.size() + 1);
    cells.add(keys.get(line).toString());
    cells.addAll(Arrays.asList(values.get(line)));
    return cells;
  }
}
