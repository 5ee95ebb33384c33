package yemble.core.verify;

import java.util.List;
import yemble.core.wording.Sentence;
import yemble.core.wording.Wording;

/** What the proof says. */
enum ProofWording implements Wording {
  // rows
  ROWS_EXACT("${rows} rows in ${tables} tables, exactly those that the rules ask for"),
  ROWS_OTHERS("${rows} rows in ${tables} tables, not the ${asked} that the rules ask for"),
  ROWS_NOW("${compared} of ${rows} rows in ${tables} tables are those that the rules ask for now"),
  TABLE_MISSING("${table} is missing, or has lost a column"),
  ROWS_MISSING("${rows:row} of the plan missing"),
  ROWS_EXTRA("${rows:row} too many"),
  ROWS_AND_NOT("${rows} rows and not ${asked}"),
  // source since
  NONE_COMPARED("no row is what the source's becomes now: see source since"),
  RULES_ASK_ELSE("project, register or key ask for something else than at the load${others}"),
  SOURCE_MOVED_ON("the source has moved on${others}"),
  WOULD_BE_OTHERS(": ${rows:row} would be others if loaded now"),
  COLUMNS_ARE_OTHERS("is not compared, as its columns are others than when it was loaded"),
  NOT_LOADED("a table that was not loaded"),
  // kept values, no leak, equal stays equal
  KEPT("unmasked cells are what they were${where}"),
  IN_COMPARED_ROWS(" in the rows that are compared"),
  NOT_KEPT("unmasked cells are not what they were"),
  ALTERED("${cells:cell} altered"),
  RECOMPUTED(
      "${cells} masked cells recomputed${fresh}; ${left} that the mask leaves as they are,"
          + " ${others} that somebody else had before"),
  RECOMPUTED_ABOUT(
      "${cells} masked cells recomputed${fresh}; ${left} that the mask leaves as they are, about"
          + " ${others} that somebody else had before"),
  BUT_FRESH(" (but for ${columns:column} fresh in each run)"),
  LEAKS("${cells:cell} not what the mask makes of the source's"),
  AS_MANY("as many different values as before in every kind"),
  FEWER("different values: ${kinds}; all others as many as before"),
  FEWER_OF_ONE("${kind} ${before} → ${after}"),
  BECAME_SEVERAL("one value became several"),
  BECAME_DIFFERENT("in ${cells:cell} equal values of the source became different ones"),
  // masks change
  CHANGING("${columns} masked columns hold other values than before${idle}"),
  NO_TEXT_CHANGES("; no text changes in ${columns}, where nothing was found to be personal"),
  UNCHANGED("${columns:column is|columns are} to be masked, and as before"),
  // references
  NO_LINK("there is no link to follow"),
  RESOLVE("every reference of ${links} links resolves${broken}${unknown}"),
  BROKEN_IN_SOURCE(" but for ${rows} that did not in the source"),
  NOT_UNDERSTOOD("; not checked, as the target does not understand its condition: ${links}"),
  RESOLVE_NOT("references of ${broken:link} out of ${links} do not resolve"),
  NO_PARENT("${rows:row} without a parent"),
  NO_FOREIGN_KEY("the target declares no foreign key"),
  DECLARED_RESOLVE("every reference of ${links} links that the target declares resolves"),
  // unique stays unique
  KEYS_BY_LOAD("there is no database here that could compare keys; each load of it checks them"),
  NO_DUPLICATE("${keys} keys without a duplicate"),
  DUPLICATES("${broken:key} out of ${keys} with duplicates"),
  DUPLICATE("${values:value} more than once"),
  // rows agree
  AGREE("names, places and ages go together as before in ${looked:row}"),
  DISAGREE("in ${rows} of ${looked:row} names, places or ages no longer go together"),
  // paths in JSON
  PATHS_KNOWN("every path is in the register"),
  PATHS_UNKNOWN("not in the register, masked by their shape: ${columns}"),
  PATHS_OF_ONE("${column} ${values:value} at ${paths:path}"),
  // as loaded, changed since, as packed
  AS_LOADED("${rows} rows in ${tables} tables are what ${loaded}${when} by ${tool}"),
  PARTLY_AS_LOADED("${same} of ${rows} rows are what ${loaded}${when} by ${tool}"),
  WAS_LOADED("was loaded"),
  HELD_AFTER_LOAD("the tables held after the load"),
  HELD_AFTER_REWRITE("the tables held after the rewrite"),
  ON(" on ${moment}"),
  CHANGED_SINCE(
      "${rows:row} in ${tables:table} ${rows?is another one|are others} than were loaded"),
  GONE_OR_LACKING("gone, or has lost a column"),
  SINCE("${parts}"),
  ROWS_CHANGED("${rows} changed"),
  ROWS_NEW("${rows} new"),
  ROWS_GONE("${rows} gone"),
  ROWS_OR_MORE("${rows} or more changed"),
  AS_PACKED("${rows} rows in ${tables} tables are what was packed${when} by ${tool}"),
  NOT_AS_PACKED("${tables:table} not as packed"),
  STRUCTURE_ALONE("only the structure was asked for"),
  NOT_AS_PROVED("its rows in the parcel are not those that were proved"),
  AT_LEAST_OTHERS("at least ${rows} rows are others"),
  // rows beside others
  MERGED(
      "${inserted} rows inserted, ${updated} updated, ${left} left; each is what came, and leads"
          + " where it led"),
  MERGED_NOT("${faults:fault} in what was merged"),
  OWN_ROWS("${rows} rows of the target are what they were"),
  OWN_ROWS_OTHERS("rows of the target are not what they were"),
  TABLE("${table}"),
  BESIDE_RESOLVE("every reference of ${links} links resolves${broken}"),
  BROKEN_BEFORE(" but for ${rows} that did not before"),
  BESIDE_RESOLVE_NOT("references of ${links:link} do not resolve"),
  // absence
  NOTHING_TELLS(
      "no masked column holds what tells a person by itself: addresses, numbers, full names"),
  NONE_FOUND(
      "${originals} originals looked for in ${cells} cells${share}${chance}${accepted}${lacking}:"
          + " none"),
  FOUND(
      "${originals} originals looked for in ${cells} cells${share}${chance}${accepted}${lacking}:"
          + " found in ${columns:column}"),
  ONE_IN(", one in ${number} of them, chosen by a key"),
  BY_CHANCE("; ${hits} that chance explains"),
  ACCEPTED("; not in ${columns}, accepted by the project file"),
  LACKING("; not in ${tables}, with other columns than loaded"),
  ADDRESSES("${number:mail address|mail addresses} of ${columns}"),
  LOGINS("${number:login} of ${columns}"),
  PHONES("${number:telephone number} of ${columns}"),
  CARDS("${number:card number} of ${columns}"),
  CODES("${number:number} of ${columns}"),
  NAMES("${number:full name} of ${columns}"),
  TEXTS("${number:text} of ${columns}"),
  COLUMNS_AND_MORE("${columns} and ${number} more"),
  STAYED("${names} stayed in masked texts"),
  HELD_AGAIN("${cells:cell holds|cells hold} again what the source has there"),
  MASK_IT(
      "${originals} in ${cells:cell}${where}; mask it, or accept it: proof: { accept: [${column}]"
          + " }"),
  MASK_OTHERWISE(
      "${originals} in ${cells:cell}${where}; give it another mask, or accept it: proof: { accept:"
          + " [${column}] }"),
  MAY_ACCEPT(
      "${originals} in ${cells:cell}${where}; a person may accept it: proof: { accept: [${column}]"
          + " }"),
  OF_ROWS_CHANGED(" of rows changed since"),
  NAME_IN_MASKED("a name of its row stands in ${texts:masked text}"),
  NAME_IN_KEPT("a name of its row stands in ${texts:kept text}"),
  STAYED_IN_MASKED(
      "a ${kind} of its row, or of one that it belongs to, stayed in ${texts:masked text}"),
  TWO_OF_ONE("${first}; ${second}");

  private final String words;

  ProofWording(String words) {
    this.words = words;
  }

  /** Several of one column. */
  static Sentence joined(List<Sentence> parts) {
    return parts.stream().reduce(TWO_OF_ONE::of).orElse(Sentence.NONE);
  }

  @Override
  public String words() {
    return words;
  }
}
