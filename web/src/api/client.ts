import createClient, { type FetchResponse } from 'openapi-fetch'
import type { MediaType } from 'openapi-typescript-helpers'
import type { paths } from './schema'

/** An answer that is not the one asked for; `message` is a sentence a person can act on. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message)
  }
}

/** What went wrong, for people. */
export function sentenceOf(e: unknown): string {
  return e instanceof Problem ? e.message : String(e)
}

function csrfToken(): string {
  const match = /(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)
  return match ? decodeURIComponent(match[1] ?? '') : ''
}

function problemOf(response: Response, body: unknown): Problem {
  let detail = ''
  if (typeof body === 'object' && body !== null && 'detail' in body) detail = String(body.detail)
  if (!detail && response.status === 401) detail = 'You are not signed in any more. Sign in again.'
  if (!detail && response.status === 403) {
    detail = 'Your role does not allow this. Ask an operator or an administrator.'
  }
  if (!detail)
    detail = `The server answered ${response.status}. Try again; if it stays, see its log.`
  return new Problem(response.status, detail)
}

/** The server changed nothing because others write; so often it is asked again, a second apart. */
const BUSY_TRIES = 6
const BUSY = 503

async function patiently(request: Request): Promise<Response> {
  for (let tries = 0; ; tries++) {
    let response: Response
    try {
      response = await fetch(request.clone())
    } catch (e) {
      if (request.signal.aborted) throw e
      throw new Problem(0, 'The server can’t be reached. What you see is from before; try again.')
    }
    if (response.status !== BUSY || tries === BUSY_TRIES) return response
    await new Promise((resolve) => setTimeout(resolve, 1000))
  }
}

/**
 * The server, by its own description (openapi.json): a wrong address, parameter, field or code does not
 * compile. {@link answerOf} gives what it answers.
 */
export const api = createClient<paths>({ baseUrl: location.origin, fetch: patiently })

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-XSRF-TOKEN', csrfToken())
    return request
  },
})

/**
 * What the server answers; undefined for an empty answer.
 *
 * @throws Problem with the server's own words where it gave some
 */
export async function answerOf<T extends Record<string | number, unknown>, O, M extends MediaType>(
  asked: Promise<FetchResponse<T, O, M>>,
): Promise<NonNullable<FetchResponse<T, O, M>['data']>> {
  const { data, error, response } = await asked
  if (!response.ok) throw problemOf(response, error)
  return data as NonNullable<FetchResponse<T, O, M>['data']>
}

/** What a form holds files in; the description knows only its fields. */
export function formOf(form: FormData): { body: never; bodySerializer: () => FormData } {
  return { body: form as never, bodySerializer: () => form }
}
