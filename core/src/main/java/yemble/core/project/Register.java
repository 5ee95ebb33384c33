package yemble.core.project;

import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import yemble.core.file.TextFile;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Nearest;
import yemble.core.problem.Problem;
import yemble.core.project.RegisterLine.Decision;
import yemble.core.yaml.Place;

/**
 * The register: one line a column, in the order of the file. Survives being saved by a spreadsheet:
 * a byte order mark, CRLF and semicolons are understood.
 */
public final class Register {
  /** The headings, in the order in which they are written. */
  public static final List<String> HEADER =
      List.of("column", "type", "kind", "decision", "confidence", "evidence", "by", "on", "reason");

  /** Those that no register can do without. */
  public static final List<String> NEEDED = List.of("column", "decision");

  private final Map<String, RegisterLine> lines = new LinkedHashMap<>();

  public Register(Collection<RegisterLine> lines) {
    for (RegisterLine line : lines) {
      this.lines.put(line.column(), line);
    }
  }

  /** All lines, in the order of the file. */
  public Collection<RegisterLine> lines() {
    return lines.values();
  }

  /** The line of a column as written, {@code table.column}; null if there is none. */
  public RegisterLine line(String column) {
    return lines.get(column);
  }

  /** Reads a register; {@code shown} is the file's name in messages. */
  public static Register read(Path file, String shown) {
    String text;
    try {
      text = TextFile.read(file, shown);
    } catch (NoSuchFileException e) {
      throw Problem.of(Failure.REGISTER_MISSING, "there is no register")
          .at(shown)
          .because("a column that nobody has decided on is never copied")
          .remedy("\"yemble init\" writes one with every column of the source");
    } catch (CharacterCodingException e) {
      throw Problem.of(Failure.REGISTER_FORM, "the register is not UTF-8 text")
          .at(shown)
          .remedy("save it as UTF-8");
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNREADABLE, "the register cannot be read")
          .at(shown)
          .causedBy(e);
    }
    return parse(text, shown);
  }

  static Register parse(String text, String shown) {
    Map<String, RegisterLine> lines = new LinkedHashMap<>();
    int[][] positions = new int[1][];
    CsvLines.read(
        text,
        shown,
        Failure.REGISTER_FORM,
        (fields, place) -> {
          if (positions[0] == null) {
            positions[0] = header(fields, place);
          } else {
            add(lines, read(fields, positions[0], place), place);
          }
        });
    if (positions[0] == null) {
      throw new Place(shown, 1, 1)
          .problem(Failure.REGISTER_FORM, "the register is empty")
          .remedy("yemble init");
    }
    return new Register(lines.values());
  }

  private static int[] header(List<String> fields, Place place) {
    if (fields.stream().noneMatch(HEADER::contains)) {
      throw place
          .problem(Failure.REGISTER_FORM, "this is not a register")
          .because("its first line, which is not shown here, has none of a register's headings")
          .remedy("the first line reads " + String.join(",", HEADER));
    }
    int[] positions = CsvLines.positions(fields, HEADER, Failure.REGISTER_FORM, place);
    for (String needed : NEEDED) {
      if (!fields.contains(needed)) {
        throw place
            .problem(Failure.REGISTER_FORM, "the heading \"" + needed + "\" is missing")
            .remedy("the first line reads " + String.join(",", HEADER));
      }
    }
    return positions;
  }

  private static RegisterLine read(List<String> fields, int[] positions, Place place) {
    String[] ordered = CsvLines.ordered(fields, positions, Failure.REGISTER_FORM, place);
    return new RegisterLine(
        ordered[0],
        ordered[1],
        ordered[2],
        decision(ordered[3], place),
        ordered[4],
        ordered[5],
        ordered[6],
        ordered[7],
        ordered[8],
        place.line());
  }

  private static Decision decision(String word, Place place) {
    List<String> known = new ArrayList<>();
    for (Decision decision : Decision.values()) {
      if (decision.toString().equals(word.toLowerCase(Locale.ROOT))) {
        return decision;
      }
      known.add(decision.toString());
    }
    if (word.isEmpty()) {
      return Decision.UNDECIDED;
    }
    throw place
        .problem(Failure.REGISTER_FORM, "unknown decision \"" + word + "\"")
        .remedy(Nearest.hint(word, known));
  }

  private static void add(Map<String, RegisterLine> lines, RegisterLine line, Place place) {
    RegisterLine first = lines.putIfAbsent(line.column(), line);
    if (first != null) {
      throw place
          .problem(Failure.REGISTER_FORM, line.column() + " stands here a second time")
          .because("its first line is line " + first.line())
          .remedy("keep one of them");
    }
  }

  /** The register as the text of its file. */
  public String toText() {
    return CsvLines.text(HEADER, lines.values().stream().map(Register::fields)::iterator);
  }

  private static List<String> fields(RegisterLine line) {
    return List.of(
        line.column(),
        line.type(),
        line.kind(),
        line.decision().toString(),
        line.confidence(),
        line.evidence(),
        line.by(),
        line.on(),
        line.reason());
  }

  /** Writes the register, whole or not at all. */
  public void write(Path file) {
    try {
      WrittenFile.replace(file, toText(), Readers.USUAL);
    } catch (IOException e) {
      throw Problem.of(Failure.FILE_UNWRITABLE, "the register cannot be written")
          .at(file.getFileName().toString())
          .causedBy(e);
    }
  }
}
