package fiador.files.ledger;

import java.io.IOException;
import java.sql.SQLException;

/** A statement of the ledger's that its database did not carry out. */
final class StatementException extends IOException {
  private static final long serialVersionUID = 1L;

  StatementException(SQLException refused) {
    super(refused.getMessage(), refused);
  }
}
