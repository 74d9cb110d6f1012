/** The server's clock, which in a demo may be another than that of this machine. */
let began = Date.now()
let server = began
let pace = 1

/** What the server says the time is, and how many times as fast as ours it goes. */
export function setClock(now: string, faster: number) {
  began = Date.now()
  server = Date.parse(now)
  pace = faster
}

/** Milliseconds since 1970 by the server's clock. */
export function now(): number {
  return server + (Date.now() - began) * pace
}
