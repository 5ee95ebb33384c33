package yemble.core.official;

import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;

/** All forms of official numbers that are known, one record each. */
public final class NumberForms {
  /** In the order in which a value is held against them. */
  public static final List<NumberForm> ALL =
      List.of(
          AmericanForms.american(),
          WesternForms.britishInsurance(),
          WesternForms.britishHealth(),
          WesternForms.germanTax(),
          WesternForms.germanPension(),
          WesternForms.germanHealth(),
          WesternForms.french(),
          SouthernForms.italian(),
          SouthernForms.spanish(),
          SouthernForms.portuguese(),
          WesternForms.dutch(),
          WesternForms.belgian(),
          EasternForms.polish(),
          EasternForms.polishTax(),
          SouthernForms.turkish(),
          NorthernForms.swedish(),
          NorthernForms.norwegian(),
          NorthernForms.danish(),
          NorthernForms.finnish(),
          NorthernForms.estonian(),
          NorthernForms.lithuanian(),
          NorthernForms.latvian(),
          EasternForms.birthNumber("CZ"),
          EasternForms.birthNumber("SK"),
          EasternForms.hungarian(),
          EasternForms.hungarianHealth(),
          EasternForms.romanian(),
          EasternForms.bulgarian(),
          SouthernForms.greek(),
          EasternForms.croatian(),
          EasternForms.masterNumber("SI"),
          EasternForms.masterNumber("RS"),
          EasternForms.masterNumber("BA"),
          EasternForms.masterNumber("MK"),
          EasternForms.masterNumber("ME"),
          WesternForms.irish(),
          WesternForms.swiss(),
          WesternForms.austrian(),
          NorthernForms.icelandic(),
          AmericanForms.brazilian(),
          AmericanForms.argentine(),
          AmericanForms.chilean(),
          AmericanForms.mexican(),
          OverseasForms.indian(),
          OverseasForms.indianTax(),
          OverseasForms.chinese(),
          OverseasForms.korean(),
          OverseasForms.japanese(),
          OverseasForms.southAfrican(),
          OverseasForms.australianTax(),
          OverseasForms.australianHealth(),
          AmericanForms.canadian(),
          OverseasForms.israeli(),
          OverseasForms.taiwanese(),
          OverseasForms.hongKong(),
          OverseasForms.singaporean(),
          OverseasForms.malaysian(),
          OverseasForms.thai(),
          EasternForms.ukrainian());

  private NumberForms() {}

  /**
   * The forms whose numbers can become others, in the order in which a number is looked for among
   * them.
   *
   * @param asOf the day at which two digits of a year are understood
   */
  public static List<Permuted> permuted(LocalDate asOf) {
    return ALL.stream()
        .flatMap(form -> form.permutations().apply(asOf).stream())
        .sorted(Comparator.comparingInt(Permuted::rank))
        .toList();
  }
}
