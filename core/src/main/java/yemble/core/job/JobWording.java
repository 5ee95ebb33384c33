package yemble.core.job;

import yemble.core.wording.Wording;

/** What is said of a job's outcome beside what the proof says. */
enum JobWording implements Wording {
  WITNESS("${method}"),
  SOURCE_CHANGED("the source is not what it was when the run began: another program wrote?"),
  // verify
  OWN_BESIDE("rows of the target's own lie beside those that were loaded; these were proved then"),
  TARGET_ALONE("only the target was asked for"),
  SOURCE_UNREAD("the source cannot be compared: ${what}"),
  SOURCE_UNREAD_AT("the source cannot be compared: ${what} (${where})"),
  WAY_BACK("there is one: ${way}"),
  ORIGINALS_KEPT("there is one: originals are kept until ${moment}, for whoever has undo.key"),
  RESOLVED_BEFORE("some resolve to nothing; nobody remembers whether they did in the copy before"),
  BEFORE_ALONE("originals and masks were compared before the rewrite alone"),
  PART("only ${tables} was loaded: a part, to look at"),
  NO_CLIENT_YET(
      "no client has loaded it yet; the script stops unless all rows are in, and yemble verify"
          + " --into NAME proves what it has made"),
  // parcels and scripts
  SCRIPT_HEAD(
      "${rows} masked rows, job ${job} from ${database}, packed ${moment}; written by ${tool}"),
  DAYS_OLD("it is ${days} days old, and max-age allows ${allowed}"),
  HOURS_OLD("it is ${hours} hours old, and max-age allows ${allowed}"),
  RULES_CHANGED("its job, links, masks or register are not what they were when it was packed"),
  // ways back
  BY_STORE("${column} by the token store ${store}, without an end"),
  BY_STORE_UNTIL("${column} by the token store ${store}, until ${days} days after the last run"),
  BY_MASK("${column} by the mask ${mask}, without an end"),
  // rewrites
  REWRITTEN("${rows} rows in ${tables} tables are what was proved beside them"),
  REWRITTEN_NOT("${rows} rows in ${tables} tables were looked at, and not all are what was proved"),
  NOT_PROVED("not the rows that were proved"),
  NOT_OF_JOB("${rows} rows of ${database} are not of job ${job}: they are as they were, unmasked"),
  ROWS("${rows} rows"),
  PUT_BACK("${rows} rows are what they were before the rewrite"),
  ALIKE("${alike} of ${rows} rows are what they were"),
  // what is new since a rewrite
  CHANGED_WITH_WHAT("rows that were masked before were changed since: nobody knows with what"),
  ROWS_GONE("${rows} rows up to ${key} are gone"),
  AMONG_THOSE("among those up to ${key}"),
  OTHERWISE("new rows are masked by another rule than those of before: what was equal may differ"),
  COLUMN("${column}");

  private final String words;

  JobWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
