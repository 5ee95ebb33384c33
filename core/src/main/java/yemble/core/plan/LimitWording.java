package yemble.core.plan;

import yemble.core.wording.Wording;

/** What is said of masked values and their columns before anything is loaded. */
enum LimitWording implements Wording {
  // does not fit, or may not
  MISFIT("${values} of ${sampled} masked values ${why}"),
  MISFIT_DECLARED(
      "${values} of ${sampled} masked values ${why} (declared, but not enforced by the database)"),
  SHORTER("${why}; for all of its kind alike: masks: { ${kind}: { login-length: ${length} } }"),
  NO_VALUE_OF_TYPE("are no ${type}, as the database says"),
  BREAK_CONDITION("break a condition of the table that speaks of ${columns}"),
  MEET("meet others, and (${columns}) is unique: ${values} values become ${masked}"),
  TYPE_UNSURE("whether masked values are of its type ${type} is seen at the load"),
  CONDITION_UNSURE(
      "a condition on ${columns} could not be put to the database; the load will show whether it"
          + " holds"),
  TOO_MANY("too many rows to see beforehand whether masked values meet"),
  PIN_MISFIT("the ${field} at ${place} ${why}"),
  PIN_MEETS("the ${field} at ${place} meets ${other}, and the column is unique"),
  PIN_AT("the one at ${place}"),
  MADE_FOR_ANOTHER("what ${mask} makes for another row"),
  // is not masked
  FORMAT(
      "${texts} of ${sampled} sampled texts are ${format}, which note would break or not see into"),
  SEARCH_WORDS("its values are search words, which note would break or not see into"),
  NONE_CHANGES("none of ${cells} cells changes (${by})"),
  SOME_CHANGE("${changed} of ${cells} cells change (${by})"),
  OF_SAMPLE("of a sample ${found}"),
  // worth knowing
  NOTHING_PERSONAL("of a sample ${found}: nothing in it was found to be personal"),
  FEW_DIFFERENT(
      "only ${different} different values in ${sampled} sampled cells; how often each comes still"
          + " tells which is which"),
  DISAGREE("${rows} of ${looked:row} no longer ${rows?agrees|agree} with ${other}"),
  ROWS_STAY("${rows} of ${all:row} ${rows?stays as it is|stay as they are}, as its rule says"),
  STAYS_THE_SAME("the same in each run, though its kind is to be fresh: it is in a key or a link"),
  NOT_CLEARED("not cleared, though its kind is to be: ${why}"),
  IN_KEY_OR_LINK("it is in a key or a link"),
  NEEDS_VALUE("it must hold a value"),
  FALL_TOGETHER(
      "${different} different values of the sample become ${masked}, more fall together than"
          + " testers may expect"),
  NAMES_REMAIN(
      "${holding} of ${texts} sampled texts still ${holding?holds|hold} a word that is somebody's"
          + " name (of ${names} names in the sample)"),
  CONTRADICTED(
      "${column} is masked as ${kind}, but only ${values} of ${sampled} sampled values look like"
          + " one"),
  // breaks its promise
  OWN_FAILS("the mask ${mask} fails at ${values} of ${sampled} sampled values: ${why}"),
  OWN_DIFFERS(
      "the mask ${mask} is not deterministic: asked once more it gives another result, for"
          + " ${values} of ${sampled} sampled values");

  private final String words;

  LimitWording(String words) {
    this.words = words;
  }

  @Override
  public String words() {
    return words;
  }
}
