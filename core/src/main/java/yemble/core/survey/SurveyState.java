package yemble.core.survey;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import yemble.core.file.WrittenFile;
import yemble.core.file.WrittenFile.Readers;
import yemble.core.problem.Failure;
import yemble.core.problem.Problem;
import yemble.core.schema.Table;
import yemble.core.wording.Sentence;

/**
 * What surveys have found, kept in the project's state: of the last finished one, so that its
 * evidence can be looked at again, and of one that is under way, table by table, so that it can go
 * on after it was cut off. Holds names, counts and reasons, never a value.
 */
public final class SurveyState {
  private static final ObjectMapper JSON =
      new ObjectMapper().disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES);

  /**
   * One line: a table.
   *
   * @param print of the table's columns and of how it was looked at: only what has the same one is
   *     taken over
   */
  private record Line(
      String table,
      String print,
      List<StoredFinding> findings,
      long rows,
      long size,
      boolean complete,
      long nanos) {}

  /** A sentence of survey: its wording, and values of which those that are sentences lie within. */
  private record StoredReason(SurveyWording wording, List<StoredValue> values) {
    static StoredReason of(Sentence sentence) {
      return new StoredReason(
          sentence.isEmpty() ? null : (SurveyWording) sentence.wording(),
          sentence.values().stream().map(StoredValue::of).toList());
    }

    Sentence sentence() {
      return wording == null
          ? Sentence.NONE
          : wording.of(values.stream().map(StoredValue::value).toArray());
    }
  }

  /** One of the four. */
  private record StoredValue(
      Long number, String text, List<StoredValue> list, StoredReason sentence) {
    static StoredValue of(Object value) {
      return value instanceof Sentence sentence
          ? new StoredValue(null, null, null, StoredReason.of(sentence))
          : value instanceof List<?> list
              ? new StoredValue(null, null, list.stream().map(StoredValue::of).toList(), null)
              : value instanceof Long number
                  ? new StoredValue(number, null, null, null)
                  : new StoredValue(null, value.toString(), null, null);
    }

    Object value() {
      return sentence != null
          ? sentence.sentence()
          : list != null
              ? list.stream().map(StoredValue::value).toList()
              : number != null ? number : text;
    }
  }

  /** A finding without its examples. */
  @JsonIgnoreProperties(ignoreUnknown = true)
  private record StoredFinding(
      yemble.core.name.ColumnName column,
      String path,
      String type,
      String kind,
      double confidence,
      yemble.core.project.RegisterLine.Decision suggested,
      boolean sure,
      List<StoredReason> reasons,
      long sampled,
      long hits,
      List<Finding.Refusal> refusals,
      List<Finding.Candidate> others) {
    static StoredFinding of(Finding f) {
      return new StoredFinding(
          f.column(),
          f.path(),
          f.type(),
          f.kind(),
          f.confidence(),
          f.suggested(),
          f.sure(),
          f.reasons().stream().map(StoredReason::of).toList(),
          f.sampled(),
          f.hits(),
          f.refusals(),
          f.others());
    }

    Finding finding() {
      return new Finding(
          column,
          path,
          type,
          kind,
          confidence,
          suggested,
          sure,
          reasons.stream().map(StoredReason::sentence).toList(),
          sampled,
          hits,
          refusals,
          others,
          Finding.Examples.NONE);
    }
  }

  private final Path finished;
  private final Path underWay;
  private final String how;
  private final Map<String, Line> before = new LinkedHashMap<>();
  private int resumed;

  private SurveyState(Path folder, String database, String how) {
    this.finished = folder == null ? null : folder.resolve("survey-" + database + ".json");
    this.underWay = folder == null ? null : folder.resolve("survey-" + database + ".part");
    this.how = how;
  }

  /** Keeps nothing. */
  public static SurveyState none() {
    return new SurveyState(null, "", "");
  }

  /**
   * The state of a database's surveys.
   *
   * @param folder the project's state
   * @param how everything that makes one survey's results differ from another's: rows, rules
   */
  public static SurveyState of(Path folder, String database, String how) {
    SurveyState state = new SurveyState(folder, database, how);
    for (Line line : lines(state.underWay)) {
      state.before.put(line.table(), line);
    }
    return state;
  }

  /** The tables of the last finished survey of a database, if there was one, and when it ended. */
  public static Optional<Kept> last(Path folder, String database) {
    Path file = folder.resolve("survey-" + database + ".json");
    List<Line> lines = lines(file);
    if (lines.isEmpty()) {
      return Optional.empty();
    }
    try {
      return Optional.of(
          new Kept(
              lines.stream().map(SurveyState::result).toList(),
              Files.getLastModifiedTime(file).toInstant()));
    } catch (IOException e) {
      return Optional.empty();
    }
  }

  /** A finished survey. */
  public record Kept(List<Survey.TableResult> tables, java.time.Instant at) {
    public Kept {
      tables = List.copyOf(tables);
    }
  }

  private static List<Line> lines(Path file) {
    List<Line> lines = new ArrayList<>();
    if (file != null && Files.exists(file)) {
      try {
        for (String line : Files.readAllLines(file)) {
          lines.add(JSON.readValue(line, Line.class));
        }
      } catch (JsonProcessingException e) {
        return lines; // The last line of a survey that was cut off may be half a one.
      } catch (IOException e) {
        throw Problem.of(Failure.FILE_UNREADABLE, "the project's state cannot be read")
            .at(file.toString())
            .causedBy(e);
      }
    }
    return lines;
  }

  private static Survey.TableResult result(Line line) {
    return new Survey.TableResult(
        line.table(),
        line.findings().stream().map(StoredFinding::finding).toList(),
        line.rows(),
        line.size(),
        line.complete(),
        Duration.ofNanos(line.nanos()));
  }

  /** What an interrupted survey has found in a table, if it looked at it in the same way. */
  synchronized Survey.TableResult found(Table table) {
    Line line = before.get(table.name().toString());
    if (line == null || !line.print().equals(print(table))) {
      return null;
    }
    resumed++;
    return result(line);
  }

  /** How many tables were taken over from a survey that was cut off. */
  public synchronized int resumed() {
    return resumed;
  }

  private String print(Table table) {
    StringBuilder all = new StringBuilder(how);
    table.columns().forEach(c -> all.append('\n').append(c.name()).append(' ').append(c.type()));
    return UUID.nameUUIDFromBytes(all.toString().getBytes(StandardCharsets.UTF_8)).toString();
  }

  synchronized void keep(Table table, Survey.TableResult result) {
    if (underWay != null) {
      try {
        WrittenFile.folder(underWay.getParent());
        WrittenFile.append(underWay, text(List.of(line(print(table), result))));
      } catch (IOException e) {
        throw unwritable(e);
      }
    }
  }

  private static Line line(String print, Survey.TableResult result) {
    return new Line(
        result.table(),
        print,
        result.findings().stream().map(StoredFinding::of).toList(),
        result.rows(),
        result.size(),
        result.complete(),
        result.sampling().toNanos());
  }

  /** Keeps the results of a finished survey in the place of those of the one before. */
  public void finish(List<Survey.TableResult> results) {
    if (finished == null) {
      return;
    }
    try {
      WrittenFile.folder(finished.getParent());
      WrittenFile.replace(
          finished, text(results.stream().map(r -> line("", r)).toList()), Readers.USUAL);
      Files.deleteIfExists(underWay);
    } catch (IOException e) {
      throw unwritable(e);
    }
  }

  private static String text(List<Line> lines) throws JsonProcessingException {
    StringBuilder text = new StringBuilder();
    for (Line line : lines) {
      text.append(JSON.writeValueAsString(line)).append('\n');
    }
    return text.toString();
  }

  private static Problem unwritable(IOException e) {
    return Problem.of(Failure.FILE_UNWRITABLE, "the project's state cannot be written")
        .at(".yemble")
        .causedBy(e);
  }
}
