package hardproof.proving.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

/** What dumps of MariaDB and MySQL tell of themselves; their lines are those that mariadb-dump writes. */
class MySqlDumpTest {
  private static MySqlDump of(String... lines) throws IOException {
    return MySqlDump.of(
        new ByteArrayInputStream(String.join("\n", lines).getBytes(StandardCharsets.UTF_8)),
        () -> {});
  }

  @Test
  void itsEndIsSeen() throws IOException {
    assertThat(of("-- MariaDB dump 10.19", "SELECT 1;", "-- Dump completed on 2026-11-24")
            .cutOff())
        .isFalse();
    assertThat(of("-- MariaDB dump 10.19", "SELECT 1;").cutOff()).isTrue();
    assertThat(of("-- MariaDB dump 10.19", "-- Dump completed", "SELECT 1;").cutOff())
        .isTrue();
    assertThat(of("-- MySQL dump 8", "/*!40111 SET SQL_NOTES=@OLD_SQL_NOTES */;", "", "-- x")
            .cutOff())
        .isFalse();
    assertThat(of("SELECT 1;").unmarked()).isTrue();
    assertThat(of("-- MySQL dump 10.13").ofMySql()).isTrue();
  }

  @Test
  void itsDatabasesAndAccountsAreFound() throws IOException {
    MySqlDump dump = of(
        "CREATE DATABASE /*!32312 IF NOT EXISTS*/ `har``bour` /*!40100 DEFAULT CHARACTER SET utf8mb4 */;",
        "USE `second`;",
        "USE `mysql`;",
        "/*!50013 DEFINER=`app`@`%` SQL SECURITY DEFINER */",
        "INSERT INTO `t` VALUES ('DEFINER=`nobody`@`x`');");
    assertThat(dump.databases()).containsExactly("har`bour", "second");
    assertThat(dump.definers()).containsExactly("'app'@'%'");
  }

  @Test
  void databasesThatAPersonWroteAreFoundToo() throws IOException {
    MySqlDump dump = of(
        "create database if not exists other; use other;",
        "CREATE TABLE t (a INT COMMENT 'x; USE `mysql`');",
        "DELIMITER ;;",
        "USE `routine`;",
        "DELIMITER ;");
    assertThat(dump.databases()).containsExactly("other");
    assertThat(dump.passed("CREATE TABLE t (a INT COMMENT 'x; USE `mysql`');"))
        .startsWith("CREATE");
    assertThat(dump.passed("INSERT INTO t VALUES (1);")).startsWith("INSERT");
  }

  @Test
  void itsVersionIsRead() throws IOException {
    assertThat(of("-- Server version\t10.11.19-MariaDB-0+deb12u1").version()).isEqualTo(10011);
    assertThat(of("-- MariaDB dump 10.19").version()).isZero();
    assertThat(MySqlDump.version("11.4.2-MariaDB")).isEqualTo(11004);
  }

  @Test
  void whatIsAboutTheServerIsNotSentOn() throws IOException {
    MySqlDump dump = of();
    assertThat(dump.passed("INSERT INTO `t` VALUES ('USE `mysql`;');")).startsWith("INSERT");
    for (String line : new String[] {
      "SET @@GLOBAL.GTID_PURGED='x';",
      "SET @@SESSION.SQL_LOG_BIN= 0;",
      "CHANGE MASTER TO x;",
      "/*! FLUSH PRIVILEGES */;".replace("/*! ", ""),
      "GRANT ALL ON *.* TO x;"
    }) {
      assertThat(dump.passed(line)).as(line).isEmpty();
    }
    for (String line : new String[] {
      "CREATE USER `u`@`%` IDENTIFIED BY PASSWORD '*B6';",
      "/*M!100005 SET DEFAULT ROLE NONE FOR 'u'@'%' */;",
      "/*!80001 CREATE ROLE 'r' */;",
      "CREATE OR REPLACE FUNCTION f RETURNS STRING SONAME 'x.so';",
      "REVOKE ALL ON `x`.* FROM `u`;"
    }) {
      assertThat(dump.passed(line)).as(line).isEmpty();
    }
    assertThat(dump.leftOut()).isEqualTo(10);
    assertThat(dump.passed("DELIMITER ;;")).isEqualTo("DELIMITER ;;");
    assertThat(dump.passed("GRANT SELECT ON x TO y;")).isEqualTo("GRANT SELECT ON x TO y;");
    assertThat(dump.passed("USE `mysql`;")).isEqualTo("USE `mysql`;");
    assertThat(dump.passed("DELIMITER ;")).isEqualTo("DELIMITER ;");
    assertThat(dump.passed("USE `mysql`;")).isEmpty();
    assertThat(dump.passed("INSERT INTO `global_priv` VALUES (1);")).isEmpty();
    assertThat(dump.passed("USE `harbour`;")).isEqualTo("USE `harbour`;");
    assertThat(dump.passed("INSERT INTO `t` VALUES (1);")).startsWith("INSERT");
  }
}
