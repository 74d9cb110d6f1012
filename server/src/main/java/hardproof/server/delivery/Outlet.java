package hardproof.server.delivery;

import java.time.Instant;

/** Takes parcels to those they are for. */
public interface Outlet {
  /** A parcel was not taken; what it says is for people. */
  final class NotTaken extends Exception {
    private static final long serialVersionUID = 1L;

    public NotTaken(String why) {
      super(why);
    }
  }

  /**
   * @throws NotTaken where it was not taken; it may be tried again
   */
  void deliver(Parcel parcel, Instant now) throws NotTaken;
}
