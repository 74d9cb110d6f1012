package hardproof.server.storage;

import org.springframework.dao.DataAccessResourceFailureException;

/** The disk is full. The transaction was undone; what was stored before is as it was. */
public final class NoSpaceLeft extends DataAccessResourceFailureException {
  private static final long serialVersionUID = 1L;

  public NoSpaceLeft(Throwable cause) {
    super(
        "There is no space left for the database. Nothing of this change was kept and nothing stored"
            + " before is lost. Free some space on the disk of the data folder, then try again.",
        cause);
  }
}
