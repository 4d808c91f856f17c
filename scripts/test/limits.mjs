// All limits of time in tests. None is near what a test needs: they end what hangs, and measure nothing.
export const limits = {
  /** Milliseconds for a test, and for what comes before and after tests. */
  test: 300_000,
  /** Milliseconds a test of the browser waits for what the person waits for. */
  wait: 60_000,
  /** How many times the ordinary time the application waits for the database (15 s for a statement). */
  timeouts: 10,
}
