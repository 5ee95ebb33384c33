package yemble.core.crypto;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HexFormat;
import java.util.Random;
import org.bouncycastle.crypto.digests.SHA256Digest;
import org.bouncycastle.crypto.engines.AESEngine;
import org.bouncycastle.crypto.generators.HKDFBytesGenerator;
import org.bouncycastle.crypto.macs.CMac;
import org.bouncycastle.crypto.params.HKDFParameters;
import org.bouncycastle.crypto.params.KeyParameter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PrfTest {
  private static final HexFormat HEX = HexFormat.of();

  /** The four examples of RFC 4493, section 4. */
  @ParameterizedTest
  @CsvSource({
    "'', bb1d6929e95937287fa37d129b756746",
    "6bc1bee22e409f96e93d7e117393172a, 070a16b46b4d4144f79bdd9dd04a287c",
    "6bc1bee22e409f96e93d7e117393172aae2d8a571e03ac9c9eb76fac45af8e5130c81c46a35ce411,"
        + " dfa66747de9ae63030ca32611497c827",
    "6bc1bee22e409f96e93d7e117393172aae2d8a571e03ac9c9eb76fac45af8e5130c81c46a35ce411e5fbc1191a0a52ef"
        + "f69f2445df4f9b17ad2b417be66c3710, 51f0bebf7e3b9d92fc49741779363cfe"
  })
  void agreesWithTheExamplesOfRfc4493(String message, String tag) {
    Prf prf = new Prf(HEX.parseHex("2b7e151628aed2a6abf7158809cf4f3c"));
    assertThat(HEX.formatHex(prf.of(HEX.parseHex(message)))).isEqualTo(tag);
  }

  @Test
  void agreesWithTheLibraryOnRandomMessages() {
    Random random = new Random(1);
    for (int i = 0; i < 2_000; i++) {
      byte[] key = new byte[16];
      byte[] message = new byte[random.nextInt(70)];
      random.nextBytes(key);
      random.nextBytes(message);
      CMac library = new CMac(AESEngine.newInstance());
      library.init(new KeyParameter(key));
      library.update(message, 0, message.length);
      byte[] expected = new byte[16];
      library.doFinal(expected, 0);
      assertThat(new Prf(key).of(message)).isEqualTo(expected);
    }
  }

  @Test
  void theKeyOfAScopeIsHkdfOfTheProjectsKey() {
    SecretKey key = SecretKey.parse("AAECAwQFBgcICQoLDA0ODxAREhMUFRYXGBkaGxwdHh8").orElseThrow();
    HKDFBytesGenerator library = new HKDFBytesGenerator(new SHA256Digest());
    byte[] bytes = HEX.parseHex("000102030405060708090a0b0c0d0e0f101112131415161718191a1b1c1d1e1f");
    library.init(new HKDFParameters(bytes, null, "yemble/1/email".getBytes()));
    byte[] expected = new byte[16];
    library.generateBytes(expected, 0, 16);
    assertThat(key.derive("yemble/1/email")).isEqualTo(expected);
    assertThat(key.prf("email").of("a")).isEqualTo(new Prf(expected).of("a"));
  }

  @Test
  void theNextValueDoesNotDependOnTheOneBefore() {
    SecretKey key = SecretKey.random();
    Prf used = key.prf("s");
    used.of("something long enough for more than a single block");
    used.draw("other").bytes(100);
    assertThat(used.of("value")).isEqualTo(key.prf("s").of("value"));
  }

  @Test
  void aDrawGoesOnForeverAndIsTheSameForTheSameText() {
    SecretKey key = SecretKey.random();
    byte[] first = key.prf("s").draw("value").bytes(1_000);
    assertThat(key.prf("s").draw("value").bytes(1_000)).isEqualTo(first);
    assertThat(key.prf("s").draw("other").bytes(1_000)).isNotEqualTo(first);
    long distinct =
        new String(first, java.nio.charset.StandardCharsets.ISO_8859_1).chars().distinct().count();
    assertThat(distinct).as("of 256 byte values in 1,000 bytes").isGreaterThan(220);
  }

  @Test
  void aKeyIsThirtyTwoBytesOfBase64Url() {
    SecretKey key = SecretKey.random();
    assertThat(key.reveal()).hasSize(43);
    assertThat(SecretKey.parse(key.reveal() + "\n"))
        .hasValueSatisfying(same -> assertThat(same.fingerprint()).isEqualTo(key.fingerprint()));
    assertThat(SecretKey.parse("short")).isEmpty();
    assertThat(SecretKey.parse("not base64 at all, with spaces and so on !!")).isEmpty();
    assertThat(key.toString()).doesNotContain(key.reveal());
  }
}
