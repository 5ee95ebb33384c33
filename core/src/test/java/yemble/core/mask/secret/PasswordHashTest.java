package yemble.core.mask.secret;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import org.apache.commons.codec.digest.Crypt;
import org.apache.commons.codec.digest.DigestUtils;
import org.bouncycastle.crypto.generators.OpenBSDBCrypt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import yemble.core.crypto.SecretKey;
import yemble.core.mask.MaskRule;
import yemble.core.mask.Masks;
import yemble.core.mask.step.Password;

/** Testers log in with one password, whatever scheme the hashes are of. */
class PasswordHashTest {
  private final Masks masks = new Masks(SecretKey.random(), LocalDate.of(2026, 1, 1));

  private String masked(String hash) {
    return masks.of("password-hash").apply(hash);
  }

  @ParameterizedTest
  @ValueSource(strings = {"$2a$", "$2b$", "$2y$"})
  void aPasswordFitsItsBcryptHash(String version) {
    String hash = version + "05$abcdefghijklmnopqrstuuE1b2c3d4e5f6g7h8i9j0k1l2m3n4o5p";
    String masked = masked(hash);
    assertThat(masked).startsWith(version + "05$").hasSameSizeAs(hash);
    assertThat(OpenBSDBCrypt.checkPassword(masked, PasswordHash.USUAL.toCharArray())).isTrue();
    assertThat(masked(masked)).isEqualTo(masked);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "$1$abcdefgh$0123456789012345678901",
        "$5$abcdefghijklmnop$0123456789012345678901234567890123456789012",
        "$6$rounds=6000$abcdefghijklmnop$"
            + "01234567890123456789012345678901234567890123456789012345678901234567890123456789012345"
      })
  void aPasswordFitsItsCryptHash(String hash) {
    String masked = masked(hash);
    assertThat(masked).hasSameSizeAs(hash);
    assertThat(Crypt.crypt(PasswordHash.USUAL, masked)).isEqualTo(masked);
  }

  @Test
  void aPlainDigestIsThatOfThePassword() {
    assertThat(masked("0CC175B9C0F1B6A831C399E269772661"))
        .isEqualTo(DigestUtils.md5Hex(PasswordHash.USUAL).toUpperCase());
    assertThat(masked("0cc175b9c0f1b6a831c399e26977266100000000"))
        .isEqualTo(DigestUtils.sha1Hex(PasswordHash.USUAL));
    MaskRule own = MaskRule.of(List.of(new Password("harbour")), null);
    assertThat(masks.of("", own).apply("0".repeat(63) + "a"))
        .isEqualTo(DigestUtils.sha256Hex("harbour"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "$argon2id$v=19$m=256,t=2,p=1$c29tZXNhbHRzb21l$RdescudvJCsgt3ub+b27dWRJJTmaaJObGRdescudvJA",
        "pbkdf2_sha256$1000$abcdefghij$RdescudvJCsgt3ubZb27dWRJJTmaaJObGRdescudvJA=",
        "$pbkdf2-sha512$1000$c29tZXNhbHRzb21l$RdescudvJCsgt3ubZb27dWRJJTmaaJObGRdescudvJA",
        "{SSHA}vJCsgt3ubZb27dWRJJTmaaJObGRdescuvJCsgg==",
        "{SHA256}RdescudvJCsgt3ubZb27dWRJJTmaaJObGRdescudvJA="
      })
  void otherSchemesKeepCostAndLength(String hash) {
    String masked = masked(hash);
    int parameters = hash.lastIndexOf('$', hash.lastIndexOf('$') - 1);
    assertThat(masked).hasSameSizeAs(hash).isNotEqualTo(hash);
    assertThat(masked.substring(0, Math.max(5, parameters)))
        .isEqualTo(hash.substring(0, Math.max(5, parameters)));
    assertThat(
            masked(
                hash.substring(0, hash.length() - 8) + "AAAAAAA" + hash.charAt(hash.length() - 1)))
        .isEqualTo(masked);
  }

  @Test
  void whatIsOfNoSchemeKeepsItsShape() {
    assertThat(masked("$9$xyz$AbC")).matches("\\$9\\$[a-zA-Z$]+").isNotEqualTo("$9$xyz$AbC");
  }
}
