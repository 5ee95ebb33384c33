package yemble.core.crypto;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.HexFormat;
import java.util.Random;
import org.bouncycastle.crypto.engines.AESEngine;
import org.bouncycastle.crypto.macs.CMac;
import org.bouncycastle.crypto.params.KeyParameter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CmacTest {
  private static byte[] of(Cmac cmac, byte[] message) {
    byte[] room = Arrays.copyOf(message, Cmac.room(message.length));
    cmac.of(room, message.length);
    return Arrays.copyOf(room, Cmac.SIZE);
  }

  /** Two of the examples of RFC 4493, section 4. */
  @ParameterizedTest
  @CsvSource({
    "'', bb1d6929e95937287fa37d129b756746",
    "6bc1bee22e409f96e93d7e117393172aae2d8a571e03ac9c9eb76fac45af8e5130c81c46a35ce411,"
        + " dfa66747de9ae63030ca32611497c827",
  })
  void agreesWithTheExamplesOfRfc4493(String message, String tag) {
    HexFormat hex = HexFormat.of();
    Cmac cmac = new Cmac(hex.parseHex("2b7e151628aed2a6abf7158809cf4f3c"));
    assertThat(hex.formatHex(of(cmac, hex.parseHex(message)))).isEqualTo(tag);
  }

  @Test
  void agreesWithTheLibraryOnLongMessages() {
    Random random = new Random(2);
    byte[] key = new byte[16];
    random.nextBytes(key);
    Cmac cmac = new Cmac(key);
    for (int i = 0; i < 2_000; i++) {
      byte[] message = new byte[random.nextInt(700)];
      random.nextBytes(message);
      CMac library = new CMac(AESEngine.newInstance());
      library.init(new KeyParameter(key));
      library.update(message, 0, message.length);
      byte[] expected = new byte[16];
      library.doFinal(expected, 0);
      assertThat(of(cmac, message)).isEqualTo(expected);
    }
  }
}
