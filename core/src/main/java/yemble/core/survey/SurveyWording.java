package yemble.core.survey;

import yemble.core.wording.Wording;

/** What survey says of a column. */
enum SurveyWording implements Wording {
  UNREAD("not looked at: its table cannot be read"),
  CALLED("its name says \"${words}\""),
  COMMENT("its comment says: ${words}"),
  NO_VALUES("no values"),
  NOTHING_SPEAKS("nothing speaks for personal data"),
  UNKNOWN_TEXT("text that nothing is known of"),
  UUIDS("${values} of ${sampled} sampled values are UUIDs, of which no more is known"),
  HEXADECIMAL("${values} of ${sampled} sampled values are hexadecimal, of which no more is known"),
  VARIOUS("another thing in each row, as ${column} says: ${sorts}"),
  WHOLE_NUMBERS(
      "${values} of ${sampled} sampled values are whole numbers, of which no more is known"),
  CODES(
      "${values} of ${sampled} sampled values are codes of capitals and digits, of which no more is"
          + " known"),
  PAGES("${values} of ${sampled} sampled values are addresses of pages, of which no more is known"),
  PATHS("${values} of ${sampled} sampled values are paths of files, of which no more is known"),
  UNKNOWN_BYTES("bytes that nothing is known of"),
  SHORT_VALUES("only ${different:different short value}"),
  SHORT_LIKE("only ${different:different short value} like ${shapes}"),
  FORMAT("${values} of ${sampled} sampled values are ${format}"),
  VALUES("${values} of ${sampled} sampled values (${percent}) ${look}${sort}${known}"),
  AS_SORT(", as ${sort}"),
  KNOWN(", ${known} of them surely"),
  REFUSED("${values} were refused: ${why}"),
  MENTION("${values} mention ${what}"),
  HOLD_LOGINS("${values} of ${sampled} sampled values (${percent}) are paths that hold a login"),
  MENTION_TOO("${values} ${what}"),
  ALL_OF("${parts}"),
  FAMILY_FIRST("the family name comes first in ${values}, the given name in ${others}"),
  MOST_BETWEEN("most between ${from} and ${to}"),
  REPEATS(
      "${values} of ${sampled} sampled values (${percent}) repeat what other columns of their row hold"),
  JSON_OF_NOBODY("JSON in which nothing was found to be personal"),
  XML("XML that holds ${paths}"),
  REFERS("refers to ${column}"),
  // the table around
  NOT_SAID("nothing says whether the table is about people"),
  ABOUT_PEOPLE("the table is about people by its name"),
  ABOUT_THINGS("the table is about things by its name"),
  COLUMNS_OF_PEOPLE("beside it are ${columns:column} such as only people have"),
  TABLE_REFERS("the table refers to ${table}"),
  ADDRESSES("the table holds addresses"),
  SEEN("the table holds ${kinds}"),
  PERHAPS("perhaps ${kind} (${percent})"),
  LIKE("values like ${shapes}"),
  ASKED("a number or day in a table about people"),
  // definitions, and what differs from the register
  ONE_TEXT("a text in it"),
  TEXTS("${texts} texts in it"),
  NOT_IN_REGISTER("${column} is not in the register"),
  ANOTHER_TYPE("${column} is ${type}, in the register ${registered}"),
  REGISTER_ONLY("${column} is in the register only");

  private final String words;

  SurveyWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
