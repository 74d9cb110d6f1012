package hardproof.proving.stores;

import java.net.ConnectException;
import java.net.NoRouteToHostException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import javax.net.ssl.SSLException;
import javax.net.ssl.SSLPeerUnverifiedException;

/** Why a host can't be talked with, in words. */
final class Away {
  private Away() {}

  /** What is behind an error, by what people know of networks; else its own message. */
  static String reason(Throwable error) {
    for (Throwable at = error; at != null; at = at.getCause()) {
      String known = known(at);
      if (known != null) {
        return known;
      }
    }
    Throwable deepest = error;
    while (deepest.getCause() != null && deepest.getMessage() == null) {
      deepest = deepest.getCause();
    }
    return deepest.getMessage() == null
        ? deepest.getClass().getSimpleName()
        : deepest.getMessage().lines().findFirst().orElse("");
  }

  private static String known(Throwable at) {
    if (at instanceof UnknownHostException) {
      return "no host of that name is known here: " + at.getMessage();
    } else if (at instanceof SocketTimeoutException) {
      return "it does not answer in time";
    } else if (at instanceof ConnectException || at instanceof NoRouteToHostException) {
      return "nothing listens there (" + at.getMessage() + ")";
    } else if (at instanceof SSLPeerUnverifiedException) {
      return "its certificate is of another host";
    } else if (at instanceof SSLException) {
      return "no trust in its certificate, or no TLS there (" + at.getMessage() + ")";
    }
    return null;
  }
}
