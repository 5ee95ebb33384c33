package yemble.core.mask.money;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.HashSet;
import java.util.Set;
import org.apache.commons.validator.routines.checkdigit.IBANCheckDigit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.Masks;

/** Accounts by the check digits of their countries. */
class NationalAccountTest {
  private final Masks masks = new Masks(SecretKey.random(), LocalDate.EPOCH);

  /**
   * The examples of the registry of ISO 13616; their accounts are right by the countries' rules.
   */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "ES9121000418450200051332", "FR1420041010050500013M02606", "IT60X0542811101000000123456",
        "BE68539007547034", "NO9386011117947", "PT50000201231234567890154",
        "SI56263300012039086", "PL61109010140000071219812874", "HU42117730161111101800000000",
        "EE382200221020145685", "FI2112345600000785", "CZ6508000000192000145399",
        "SK3112000000198742637541", "NL91ABNA0417164300"
      })
  void anAccountStaysRightOrWrongByItsCountrysOwnDigits(String iban) {
    NationalAccount account =
        NationalAccount.ALL.stream()
            .filter(one -> one.country().equals(iban.substring(0, 2)))
            .findFirst()
            .orElseThrow();
    assertThat(account.isRight(iban.substring(4))).isTrue();
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 60; i++) {
      Masks other = new Masks(SecretKey.random(), LocalDate.EPOCH);
      String masked = other.of("iban").apply(iban);
      assertThat(IBANCheckDigit.IBAN_CHECK_DIGIT.isValid(masked)).as(masked).isTrue();
      assertThat(account.isRight(masked.substring(4))).as(masked).isTrue();
      seen.add(masked);
      String number = other.of("bank-account").apply(iban.substring(4));
      assertThat(account.isRight(number)).as(number).isTrue();
      String wrong =
          iban.substring(0, iban.length() - 1) + (iban.charAt(iban.length() - 1) - '0' + 1) % 10;
      if (!account.isRight(wrong.substring(4))) {
        assertThat(account.isRight(other.of("iban").apply(wrong).substring(4))).isFalse();
        assertThat(account.isRight(other.of("bank-account").apply(wrong.substring(4)))).isFalse();
      }
    }
    assertThat(seen).hasSizeGreaterThan(58);
  }

  @Test
  void differentAccountsStayDifferent() {
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < 20_000; i++) {
      String account = String.format("%011d", 86_011_100_000L + i);
      assertThat(seen.add(masks.of("bank-account").apply(account))).as(account).isTrue();
    }
    assertThat(masks.of("bank-account").apply("8601.11.17947")).matches("\\d{4}\\.\\d{2}\\.\\d{5}");
  }
}
