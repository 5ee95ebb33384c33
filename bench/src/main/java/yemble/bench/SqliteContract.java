package yemble.bench;

import java.util.List;

/** The contracts of {@link Contract} in an SQLite file. */
final class SqliteContract {
  private SqliteContract() {}

  private static String one(String of, String index) {
    String[] words = of.split(",");
    StringBuilder sql = new StringBuilder("CASE " + index);
    for (int i = 0; i < words.length; i++) {
      sql.append(" WHEN ").append(i).append(" THEN '").append(words[i]).append("'");
    }
    return sql + " END";
  }

  /** What makes the source. */
  static List<String> source(int thousands) {
    String given =
        one("Ba,Be,Bo,Da,De,Do,La,Le,Lo,Ma,Mi,Mo", "i % 12")
            + " || "
            + one("ra,ri,ro,na,ni,no,sa,si,so", "i / 12 % 9")
            + " || "
            + one(",n,l,s,m", "i / 108 % 5");
    String family =
        one("Tar,Ter,Tor,Ker,Kar,Ver,Var,Ser", "i % 8")
            + " || "
            + one("ing,ell,ow,and,ick,ard", "i / 8 % 6")
            + " || "
            + one("ton,sen,ley,wick,by,ford,dale", "i / 48 % 7");
    return List.of(
        "CREATE TABLE contract (id INTEGER PRIMARY KEY, given_name TEXT NOT NULL,"
            + " family_name TEXT NOT NULL, email TEXT, phone TEXT, birth_date TEXT, iban TEXT,"
            + " made_at TEXT NOT NULL, cents INTEGER NOT NULL, rate REAL, state TEXT NOT NULL,"
            + " weight REAL, reference TEXT, open INTEGER)",
        "CREATE TABLE line (contract_id INTEGER REFERENCES contract (id), no INTEGER,"
            + " cents INTEGER NOT NULL, what TEXT, PRIMARY KEY (contract_id, no))",
        "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < "
            + thousands * 1_000L
            + "), p AS (SELECT i, "
            + given
            + " AS g, "
            + family
            + " AS f FROM n) INSERT INTO contract SELECT i, g, f,"
            + " lower(g || '.' || f || i || '@mail' || (i % 50) || '.example'),"
            + " '+44 7700 ' || substr('000000' || (i % 1000000), -6),"
            + " date('1940-01-01', ((i % 100000 * 7919) % 25000) || ' days'),"
            + " 'QO14ORLI' || substr('0000000000000' || i, -13),"
            + " datetime('2020-01-01', (i % 1000000) || ' minutes'), (i % 100000 * 31) % 100000,"
            + " round((i % 9999) / 7.0, 4), "
            + one("new,active,ended", "i % 3")
            + ", i / 3.0, lower(hex(i * 7919)) || hex(i), i % 2 FROM p",
        "CREATE INDEX contract_name ON contract (family_name, given_name)",
        "INSERT INTO line SELECT id, 1, cents, 'crossing' FROM contract");
  }
}
