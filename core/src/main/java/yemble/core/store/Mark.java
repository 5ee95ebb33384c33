package yemble.core.store;

import java.util.List;

/**
 * What Yemble leaves in a target: who loaded it, what with, and which tables it made. It says
 * nothing of when, so that the same load twice gives the same target; the run log and the file's
 * own date do.
 *
 * @param tool Yemble with its version
 * @param job the job's name
 * @param source the source's name and environment in the project
 * @param by the name of the user who ran it
 * @param key the fingerprint of the key
 * @param rows how many rows were loaded
 * @param made what Yemble made, in the engine's own spelling
 */
public record Mark(
    String tool, String job, String source, String by, String key, long rows, List<String> made) {
  public Mark {
    made = List.copyOf(made);
  }

  /** The same mark for a load that made these. */
  public Mark with(List<String> made) {
    return new Mark(tool, job, source, by, key, rows, made);
  }
}
