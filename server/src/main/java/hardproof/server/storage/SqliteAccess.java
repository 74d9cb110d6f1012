package hardproof.server.storage;

import hardproof.core.wording.WrongValue;
import javax.sql.DataSource;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.PreparedStatementCreator;
import org.springframework.jdbc.core.PreparedStatementSetter;
import org.springframework.jdbc.core.ResultSetExtractor;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.JdbcTransactionManager;
import org.springframework.transaction.support.DefaultTransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;

/** How statements and transactions are run, and what SQLite says of them is told. */
final class SqliteAccess {
  private SqliteAccess() {}

  static JdbcClient client(DataSource source) {
    JdbcTemplate template = new OwnRows(source);
    template.setExceptionTranslator(new SqliteErrors());
    return JdbcClient.create(template);
  }

  static TransactionTemplate transactions(DataSource source) {
    JdbcTransactionManager manager = new SqliteTransactions(source);
    manager.setExceptionTranslator(new SqliteErrors());
    return new TransactionTemplate(manager);
  }

  /** What was written here was right when it was: a row that can't be read is no fault of whoever asks. */
  private static final class OwnRows extends JdbcTemplate {
    OwnRows(DataSource source) {
      super(source);
    }

    @Override
    public <T> T query(
        PreparedStatementCreator statement,
        PreparedStatementSetter setter,
        ResultSetExtractor<T> rows) {
      try {
        return super.query(statement, setter, rows);
      } catch (WrongValue e) {
        throw new UnreadableRow(e);
      }
    }
  }

  /** SQLite undoes a transaction by itself when the disk is full; then there is none to roll back. */
  private static final class SqliteTransactions extends JdbcTransactionManager {
    private static final long serialVersionUID = 1L;

    SqliteTransactions(DataSource source) {
      super(source);
    }

    @Override
    protected void doRollback(DefaultTransactionStatus status) {
      try {
        super.doRollback(status);
      } catch (DataAccessException e) {
        if (!String.valueOf(e.getMessage()).contains("no transaction is active")) {
          throw e;
        }
      }
    }
  }
}
