package yemble.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What the benchmarks on servers measure with: contracts of people, and lines of contracts. */
final class Contract {
  private Contract() {}

  /** The columns that are masked, with their kinds; all others are kept. */
  private static final Map<String, String> MASKED = new LinkedHashMap<>();

  static {
    MASKED.put("given_name", "given-name");
    MASKED.put("family_name", "family-name");
    MASKED.put("email", "email");
    MASKED.put("phone", "phone");
    MASKED.put("birth_date", "birth-date");
    MASKED.put("iban", "iban");
  }

  private static final List<String> KEPT =
      List.of("id", "made_at", "cents", "rate", "state", "weight", "reference", "open");

  /** Writes the register of both tables. */
  static void register(Path folder) throws IOException {
    StringBuilder register = new StringBuilder("column,type,kind,decision\n");
    MASKED.forEach(
        (name, kind) ->
            register.append("contract.").append(name).append(",,").append(kind).append(",mask\n"));
    KEPT.forEach(name -> register.append("contract.").append(name).append(",,,keep\n"));
    for (String name : List.of("contract_id", "no", "cents", "what")) {
      register.append("line.").append(name).append(",,,keep\n");
    }
    Files.writeString(folder.resolve("register.csv"), register);
  }
}
