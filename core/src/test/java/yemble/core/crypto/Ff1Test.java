package yemble.core.crypto;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HexFormat;
import java.util.Random;
import org.bouncycastle.crypto.AlphabetMapper;
import org.bouncycastle.crypto.fpe.FPEFF1Engine;
import org.bouncycastle.crypto.params.FPEParameters;
import org.bouncycastle.crypto.params.KeyParameter;
import org.bouncycastle.crypto.util.BasicAlphabetMapper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class Ff1Test {
  private static final String LETTERS = "0123456789abcdefghijklmnopqrstuvwxyz";
  private static final HexFormat HEX = HexFormat.of();

  /** The nine samples that NIST publishes for FF1. */
  @ParameterizedTest
  @CsvSource({
    "2B7E151628AED2A6ABF7158809CF4F3C, '', 10, 0123456789, 2433477484",
    "2B7E151628AED2A6ABF7158809CF4F3C, 39383736353433323130, 10, 0123456789, 6124200773",
    "2B7E151628AED2A6ABF7158809CF4F3C, 3737373770717273373737, 36, 0123456789abcdefghi,"
        + " a9tv40mll9kdu509eum",
    "2B7E151628AED2A6ABF7158809CF4F3CEF4359D8D580AA4F, '', 10, 0123456789, 2830668132",
    "2B7E151628AED2A6ABF7158809CF4F3CEF4359D8D580AA4F, 39383736353433323130, 10, 0123456789,"
        + " 2496655549",
    "2B7E151628AED2A6ABF7158809CF4F3CEF4359D8D580AA4F, 3737373770717273373737, 36,"
        + " 0123456789abcdefghi, xbj3kv35jrawxv32ysr",
    "2B7E151628AED2A6ABF7158809CF4F3CEF4359D8D580AA4F7F036D6F04FC6A94, '', 10, 0123456789,"
        + " 6657667009",
    "2B7E151628AED2A6ABF7158809CF4F3CEF4359D8D580AA4F7F036D6F04FC6A94, 39383736353433323130, 10,"
        + " 0123456789, 1001623463",
    "2B7E151628AED2A6ABF7158809CF4F3CEF4359D8D580AA4F7F036D6F04FC6A94, 3737373770717273373737, 36,"
        + " 0123456789abcdefghi, xs8a0azh2avyalyzuwd"
  })
  void agreesWithTheSamplesOfNist(
      String key, String tweak, int radix, String plain, String cipher) {
    Ff1 ff1 = new Ff1(HEX.parseHex(key), HEX.parseHex(tweak), radix, plain.length());
    long[] halves = halves(plain, radix);
    ff1.encrypt(halves);
    assertThat(text(halves, radix, plain.length())).isEqualTo(cipher);
    ff1.decrypt(halves);
    assertThat(text(halves, radix, plain.length())).isEqualTo(plain);
  }

  @Test
  void agreesWithTheLibraryOnRandomInputs() {
    Random random = new Random(2);
    for (int i = 0; i < 1_500; i++) {
      int radix = 2 + random.nextInt(35);
      int least = (int) Math.ceil(Math.log(1_000_000) / Math.log(radix));
      int most = 2 * (int) Math.floor(61 * Math.log(2) / Math.log(radix));
      int length = least + random.nextInt(Math.max(1, most - least));
      byte[] key = new byte[16];
      byte[] tweak = new byte[random.nextInt(20)];
      random.nextBytes(key);
      random.nextBytes(tweak);
      StringBuilder plain = new StringBuilder();
      for (int n = 0; n < length; n++) {
        plain.append(LETTERS.charAt(random.nextInt(radix)));
      }
      long[] halves = halves(plain.toString(), radix);
      new Ff1(key, tweak, radix, length).encrypt(halves);
      assertThat(text(halves, radix, length))
          .as("radix %d, length %d, tweak of %d", radix, length, tweak.length)
          .isEqualTo(library(key, tweak, radix, plain.toString()));
    }
  }

  private static String library(byte[] key, byte[] tweak, int radix, String plain) {
    AlphabetMapper mapper = new BasicAlphabetMapper(LETTERS.substring(0, radix));
    FPEFF1Engine engine = new FPEFF1Engine();
    engine.init(true, new FPEParameters(new KeyParameter(key), radix, tweak));
    byte[] in = mapper.convertToIndexes(plain.toCharArray());
    byte[] out = new byte[in.length];
    engine.processBlock(in, 0, in.length, out, 0);
    return new String(mapper.convertToChars(out));
  }

  @Test
  void aDomainThatIsTooSmallOrTooLargeIsRefused() {
    assertThatThrownBy(() -> new Ff1(new byte[16], new byte[0], 10, 5))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Ff1(new byte[16], new byte[0], 10, 40))
        .isInstanceOf(IllegalArgumentException.class);
  }

  private static long[] halves(String text, int radix) {
    int left = text.length() / 2;
    return new long[] {
      Long.parseLong(text.substring(0, left), radix), Long.parseLong(text.substring(left), radix)
    };
  }

  private static String text(long[] halves, int radix, int length) {
    int left = length / 2;
    return padded(halves[0], radix, left) + padded(halves[1], radix, length - left);
  }

  private static String padded(long number, int radix, int length) {
    String text = Long.toString(number, radix);
    return "0".repeat(length - text.length()) + text;
  }
}
