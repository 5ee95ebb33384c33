package yemble.core.problem;

import java.util.Locale;

/**
 * Every failure that a user can meet, by its stable code. The code outlives the wording of
 * messages: scripts and tests go by it. The remedy is what a message says to do where nothing more
 * exact is known; {@code docs/errors.md} has an example of each.
 */
public enum Failure {
  // The command line.
  OPTION(Type.USAGE, "see the command's --help"),
  CHOICE_MISSING(Type.USAGE, "name one; see the command's --help"),
  PROJECT_FOLDER(Type.USAGE, "check --project; paths start where you are"),
  ROW_NAME(Type.USAGE, "name the row by its primary key"),
  NOTHING_FOUND(Type.USAGE, "see what there is, and choose another word"),
  CATEGORY_UNKNOWN(Type.USAGE, "yemble masks lists the categories"),

  // The project's files.
  PROJECT_MISSING(Type.USAGE, "yemble init makes one"),
  FILE_FORM(Type.USAGE, "save it as UTF-8 text of the form that the guide shows"),
  WORD_UNKNOWN(Type.USAGE, "see the reference for the words that are known here"),
  WORD_TWICE(Type.USAGE, "keep one of them"),
  WORD_MISSING(Type.USAGE, "add it; the reference has an example"),
  VALUE_FORM(Type.USAGE, "write it as the reference shows"),
  VERSION_UNKNOWN(Type.USAGE, "use a Yemble that knows this version"),
  SETTING_UNREADABLE(Type.USAGE, "set it before calling yemble, or check the file's path"),
  PATTERN_FORM(Type.USAGE, "the reference says what a pattern may hold"),
  LIST_FORM(Type.USAGE, "one value a line, each with something in it"),
  TEMPLATE_FORM(Type.USAGE, "put names of columns or kinds into braces"),
  MASK_RULE(Type.USAGE, "say one mask, as the reference shows"),
  MASK_CIRCLE(Type.USAGE, "take as: out of one of the kinds that it leads to"),
  MASK_NEEDS_COLUMN(Type.USAGE, "say it for a column, under columns:"),
  KIND_UNKNOWN(Type.USAGE, "yemble masks lists the kinds"),
  KIND_INCOMPLETE(Type.USAGE, "say its category, and how it is masked"),
  JOB_UNKNOWN(Type.USAGE, "name one of the project's jobs"),
  DATABASE_UNKNOWN(Type.USAGE, "name one of the project's databases"),
  PINS_UNKNOWN(Type.USAGE, "name one of the project's lists of stand-ins"),
  PINS_MISSING(Type.USAGE, "restore the list's file from version control"),
  LEARNED_NAMES(Type.USAGE, "restore the file from version control"),
  PINS_FORM(Type.USAGE, "see the guide for how a list of stand-ins looks"),
  PLUGIN(Type.USAGE, "docs/own-masks.md shows how such a jar is made"),
  PLUGIN_OTHER(Type.REFUSED, "see who changed the jar, and write its digest"),
  PLUGIN_FAILED(Type.USAGE, "mend the mask, or take another one"),
  STORE_UNKNOWN(Type.USAGE, "name one of the project's token stores"),
  PINS_WAY(Type.USAGE, "declare the link that leads there, or name it with through:"),

  // Rules against the schema, and against each other.
  TABLE_UNKNOWN(Type.USAGE, "see how the source names its tables"),
  COLUMN_UNKNOWN(Type.USAGE, "see how the source names the table's columns"),
  LINK_UNKNOWN(Type.USAGE, "write child.column -> parent.column"),
  LINK_WOULD_BREAK(Type.USAGE, "mask both sides of the link, or keep both"),
  RULES_CONTRADICT(Type.USAGE, "take one of the two back"),
  RULE_UNFIT(Type.USAGE, "choose a mask that the column can have"),
  RULE_OF_KEPT_COLUMN(Type.USAGE, "decide to mask the column, or delete the rule"),
  PICK_EMPTY(Type.USAGE, "widen the condition"),
  CONDITION(Type.USAGE, "write one SQL condition over the table's columns"),
  CONDITION_REFUSED(Type.REFUSED, "use functions that change nothing"),
  REFERENCES_BROKEN(Type.USAGE, "say broken: keep, null or leave-out for the link"),
  CUT_NOT_NULLABLE(Type.USAGE, "leave the link whole, or let its column be NULL"),
  MASKED_UNFIT(Type.USAGE, "give the column a mask that fits it"),
  MASK_WITHOUT_EFFECT(Type.USAGE, "choose a mask that changes the values, or keep the column"),
  TOKEN_UNFIT(Type.USAGE, "write a pattern that all values are like"),
  SOURCE_UNFIT(Type.USAGE, "say what becomes of such values under unfit:"),

  // The register, the key, the gate.
  REGISTER_MISSING(Type.REFUSED, "yemble survey writes one"),
  REGISTER_FORM(Type.USAGE, "the guide shows how a register looks"),
  REGISTER_COLUMN(Type.USAGE, "yemble survey brings the register up to the schema"),
  DECISION(Type.USAGE, "decide mask, or keep with a reason"),
  COLUMNS_OPEN(Type.REFUSED, "yemble register settles them one by one"),
  PATH_OPEN(Type.REFUSED, "yemble survey, then settle the new path"),
  SCHEMA_OTHER(Type.REFUSED, "give this database a register of its own"),
  KEY_FORM(Type.USAGE, "a key is 43 characters of base64url; yemble key new makes one"),
  KEY_MISSING(Type.USAGE, "yemble key new makes one; a team shares one key"),
  KEY_EXPOSED(Type.REFUSED, "chmod 600 on the file"),

  // What is never done.
  NOT_CONFIRMED(Type.REFUSED, "answer yes, or say --yes where nobody can be asked"),
  TARGET_NOT_TEST(Type.REFUSED, "name a database whose environment is test"),
  TARGET_IS_SOURCE(Type.REFUSED, "name another database as the target"),
  TARGET_UNCONFIRMED(Type.REFUSED, "write confirmed: under it once you are sure"),
  TARGET_NOT_EMPTY(Type.REFUSED, "empty it, or say load: replace"),
  TARGET_FOREIGN(Type.REFUSED, "name an empty database, or drop what is not needed"),
  TARGET_TABLES(Type.REFUSED, "change the target's tables, or let Yemble create them"),
  ROWS_CONFLICT(Type.REFUSED, "say conflicts: leave, if the target's rows are to stay"),
  ROWS_ALIKE(Type.REFUSED, "name the columns that tell its rows apart: match:"),
  KEYS_SPENT(Type.REFUSED, "give the target's key a wider type, or free some of its range"),
  KEYS_TAKEN(Type.REFUSED, "say same:, keys: or broken: for the table"),
  NOT_A_COPY(Type.REFUSED, "say environment: copy, if it is one that may be rewritten"),
  COPY_IN_USE(Type.REFUSED, "cut it off from all others first"),
  STORE_PLACE(Type.REFUSED, "give the token store a database of its own"),
  REWRITTEN(Type.REFUSED, "restore it again, and rewrite that"),
  TARGET_SERVER(Type.REFUSED, "name a database on a server that Yemble writes to"),
  TARGET_KIND(Type.USAGE, "name a target that Yemble writes to"),
  PARCEL_KEY_MISSING(
      Type.REFUSED, "yemble key new parcel makes one; name it with parcels: { key: … }"),
  PARCEL_STALE(Type.REFUSED, "pack a new one, or add --stale if this one is meant"),
  FILE_PROTECTED(Type.REFUSED, "name another file"),
  FILE_THERE(Type.REFUSED, "name another file, or remove this one yourself"),

  // Steps of one's own.
  STEP_FORM(Type.USAGE, "see what stands there"),
  STEP_REFUSED(Type.REFUSED, "let it act on the target"),
  STEP_FAILED(Type.DATABASE, "see what the statement does, and run the same command again"),

  // Addresses and drivers.
  URL_FORM(Type.USAGE, "write it as the guide shows"),
  URL_PASSWORD(Type.USAGE, "move it to password: under the database"),
  URL_PARAMETER(Type.USAGE, "leave the parameter out"),
  ENGINE_UNKNOWN(Type.USAGE, "see docs/engines.md for the databases that are known"),
  DRIVER_MISSING(Type.USAGE, "put the driver's jar into the project's folder drivers"),
  DRIVER_FAILED(Type.DATABASE, "use another version of the driver"),

  // Databases and files.
  DATABASE_UNREACHABLE(Type.DATABASE, "check the url, and that the server runs"),
  LOGIN_REFUSED(Type.DATABASE, "check user and password"),
  DATABASE_MISSING(Type.DATABASE, "check the database's name in the url"),
  RIGHT_MISSING(Type.DATABASE, "grant it; yemble doctor says what the account may do"),
  DATABASE_FULL(Type.DATABASE, "make room, then run the same command again"),
  DATABASE_LOCKED(Type.DATABASE, "wait until the other session has finished, or end it"),
  DATABASE_READ_ONLY(Type.DATABASE, "name a database that accepts writes"),
  DATABASE_CANCELLED(Type.DATABASE, "run the same command again; see the server's timeouts"),
  DATABASE_DAMAGED(Type.DATABASE, "restore it from a backup"),
  CONSTRAINT(Type.DATABASE, "see which mask or link brought these rows there"),
  VALUE_REFUSED(Type.DATABASE, "see which mask makes such values"),
  DATABASE_FAILED(Type.DATABASE, "see the database's own log; --debug prints where it happened"),
  SOURCE_CHANGED(Type.DATABASE, "run the same command again while nobody writes"),
  ROWS_INDISTINCT(Type.DATABASE, "give the table a primary key, or leave it empty"),
  IDENTITY_UNKNOWN(Type.DATABASE, "use an account that may see what the guard needs"),
  ANOTHER_RUN(Type.REFUSED, "wait until it has finished"),
  FILE_UNREADABLE(Type.DATABASE, "check that it exists and may be read"),
  FILE_UNWRITABLE(Type.DATABASE, "check the rights of the folder, and its disk"),
  PARCEL_DAMAGED(Type.DATABASE, "take another parcel, or pack it once more"),
  PARCEL_CUT(Type.DATABASE, "fetch it again: its end is missing"),
  PARCEL_KEY(Type.DATABASE, "ask who packed it for the key of these parcels"),
  PARCEL_NEWER(Type.DATABASE, "use a newer Yemble"),
  STORE_MISSING(Type.DATABASE, "restore it; a new one begins with yemble tokens begin"),
  STORE_KEY(Type.DATABASE, "ask whoever began the store for its key"),
  INTERRUPTED(Type.DATABASE, "run the same command again"),
  OUTPUT_CLOSED(Type.DATABASE, "let it lead to where there is room"),
  DEMO_SERVER(Type.DATABASE, "yemble demo without --engine needs no server"),

  // Ours.
  MEMORY(Type.BUG, "give Java more with JAVA_TOOL_OPTIONS=-Xmx…"),
  BUG(Type.BUG, "run it again with --debug and report what it prints");

  /** What sort of failure it is; the number is the exit code of the program. */
  public enum Type {
    /** Wrong usage, project file or register; rules that contradict each other or the schema. */
    USAGE(2),
    /** Refused for safety. */
    REFUSED(3),
    /** A database or a file failed. */
    DATABASE(4),
    /** A bug of ours. */
    BUG(70);

    private final int exitCode;

    Type(int exitCode) {
      this.exitCode = exitCode;
    }

    public int exitCode() {
      return exitCode;
    }
  }

  private final Type type;
  private final String remedy;

  Failure(Type type, String remedy) {
    this.type = type;
    this.remedy = remedy;
  }

  public Type type() {
    return type;
  }

  /** What to do where the message knows nothing more exact. */
  public String remedy() {
    return remedy;
  }

  /** The code as people and scripts see it: {@code columns-open}. */
  public String code() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
