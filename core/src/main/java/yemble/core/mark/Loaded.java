package yemble.core.mark;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import yemble.core.wording.Sentence;

/**
 * One load, as the mark in its target remembers it.
 *
 * @param tool Yemble with its version
 * @param at when it was committed, to the second; null in a mark of before this was kept
 * @param by the name of the user who ran it
 * @param job the job's name
 * @param source the source's name and environment in the project
 * @param key the fingerprint of the project's key
 * @param rules a digest of what the project and the register asked for, keyed with the project's
 *     key
 * @param rows how many rows were loaded
 * @param made what Yemble made, in the engine's own spelling
 * @param digestKey the 16 bytes under which its rows are digested; drawn for this load alone
 * @param tables what was loaded; empty in a mark of before this was kept
 * @param parcel the name of the parcel that it came from, or an empty string
 * @param way how rows came beside those that were there, in the project's word; an empty string if
 *     the load made or emptied its tables. Then what is remembered is the tables with all their
 *     rows
 */
public record Loaded(
    String tool,
    Instant at,
    String by,
    String job,
    String source,
    String key,
    String rules,
    long rows,
    List<String> made,
    byte[] digestKey,
    List<LoadedTable> tables,
    String parcel,
    String way,
    String part) {
  /** The way of rows that were masked where they stood. */
  public static final String REWRITTEN = "rewrite";

  /** One that came from its source. */
  public Loaded(
      String tool,
      Instant at,
      String by,
      String job,
      String source,
      String key,
      String rules,
      long rows,
      List<String> made,
      byte[] digestKey,
      List<LoadedTable> tables) {
    this(tool, at, by, job, source, key, rules, rows, made, digestKey, tables, "", "", "");
  }

  public Loaded {
    made = List.copyOf(made);
    tables = List.copyOf(tables);
  }

  /** What is remembered of a table, by its name in the target. */
  public Optional<LoadedTable> table(yemble.core.name.TableName name) {
    return tables.stream().filter(table -> table.table().equals(name)).findFirst();
  }

  /** Whether it can be told what has changed since. */
  public boolean isDigested() {
    return !tables.isEmpty();
  }

  /** The day and minute of the load, in UTC; empty where it is not known. */
  public String when() {
    return at == null
        ? ""
        : at.toString().replace('T', ' ').replaceFirst(":\\d\\d(\\.\\d+)?Z$", " UTC");
  }

  /** Who loaded what, for people. */
  public String description() {
    return LoadWording.LOADED
        .of(
            rows,
            said(LoadWording.WAY, way),
            by,
            said(LoadWording.PART, part),
            job,
            source,
            said(LoadWording.PARCEL, parcel),
            said(LoadWording.WHEN, when()))
        .toString();
  }

  private static Sentence said(LoadWording wording, String value) {
    return value.isEmpty() ? Sentence.NONE : wording.of(value);
  }

  /** The same for rows that came beside others. */
  public Loaded beside(String byWay) {
    return new Loaded(
        tool, at, by, job, source, key, rules, rows, made, digestKey, tables, parcel, byWay, part);
  }

  /** The same for some tables of the job alone. */
  public Loaded part(String ofTables) {
    return new Loaded(
        tool, at, by, job, source, key, rules, rows, made, digestKey, tables, parcel, way,
        ofTables);
  }

  /** The same with other digests of its tables. */
  public Loaded of(List<LoadedTable> others) {
    return new Loaded(
        tool, at, by, job, source, key, rules, rows, made, digestKey, others, parcel, way, part);
  }

  /** Whether only some tables of the job were loaded. */
  public boolean isPart() {
    return !part.isEmpty();
  }

  /** Whether its tables hold rows of the target's own. */
  public boolean isBeside() {
    return !way.isEmpty();
  }

  /** The same without what tells its rows. */
  public Loaded undigested() {
    return new Loaded(
        tool,
        at,
        by,
        job,
        source,
        key,
        rules,
        rows,
        made,
        new byte[digestKey.length],
        List.of(),
        parcel,
        way,
        part);
  }

  /** The same without what another load has replaced. */
  Loaded without(List<String> gone, List<LoadedTable> replaced) {
    List<String> left = made.stream().filter(name -> !gone.contains(name)).toList();
    List<LoadedTable> kept =
        tables.stream()
            .filter(table -> replaced.stream().noneMatch(r -> r.table().equals(table.table())))
            .toList();
    return new Loaded(
        tool, at, by, job, source, key, rules, rows, left, digestKey, kept, parcel, way, part);
  }
}
