package yemble.core.plan;

import yemble.core.wording.Wording;

/** Why a column is open. */
enum GateWording implements Wording {
  NOT_IN_REGISTER("${column} is not in the register"),
  HOLDS("${definition} holds what looks like ${looks}"),
  UNDECIDED("${column} is undecided (line ${line})"),
  ANOTHER_TYPE("${column} was reviewed as ${type} and is now ${now} (line ${line})"),
  WITHOUT_TYPE("without a type"),
  NAMED_TYPE("${type}"),
  WITHOUT_REASON("${column} is kept though it is a ${kind}, without a reason (line ${line})"),
  WITHOUT_MASK("${column} is a ${kind}, a kind that has no mask yet (line ${line})"),
  BY_SURVEY(
      "${column} was decided by survey, and \"review: people\" asks for a person (line ${line})");

  private final String words;

  GateWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
