import type { components } from './schema'

type Schemas = components['schemas']
export type BoardView = Schemas['BoardView']
export type BoardRow = Schemas['BoardRow']
export type CopyFigure = Schemas['CopyFigure']
export type LadderStrip = Schemas['LadderStrip']
export type CaseView = Schemas['CaseView']
export type Member = Schemas['Member']
export type ActionStep = Schemas['ActionStep']
export type CriterionOutcome = Schemas['CriterionOutcome']
export type ExposureView = Schemas['ExposureView']
export type FactRef = Schemas['FactRef']
export type FactState = Schemas['FactState']
export type ResourceLine = Schemas['ResourceLine']
export type DrillRuns = Schemas['DrillRuns']
export type RunView = Schemas['RunView']
export type RunStep = Schemas['RunStep']
export type CheckView = Schemas['CheckView']
export type CheckKind = Schemas['CheckKind']
export type KeptChecks = Schemas['KeptChecks']
export type TrialAnswer = Schemas['TrialAnswer']
export type ScreenView = Schemas['ScreenView']
export type EngineView = Schemas['EngineView']
export type SandboxSpace = Schemas['SandboxSpace']
export type SandboxView = Schemas['SandboxView']
export type IntegrityView = Schemas['IntegrityView']
export type StoreRead = Schemas['StoreRead']
export type Damage = Schemas['Damage']
export type SweepView = Schemas['SweepView']
export type SearchView = Schemas['SearchView']
export type PointFiles = Schemas['PointFiles']
export type RestoredFile = Schemas['RestoredFile']
export type RunComparison = Schemas['RunComparison']
export type LineComparison = Schemas['LineComparison']
export type DrillChoices = Schemas['DrillChoices']
export type DrillOrder = Schemas['DrillOrder']
export type PlannedDrill = Schemas['PlannedDrill']
export type Calendar = Schemas['Calendar']
export type NewProgramme = Schemas['NewProgramme']
export type Feeds = Schemas['Feeds']
export type FeedView = Schemas['FeedView']
export type ImportPreview = Schemas['ImportPreview']
export type FileResult = Schemas['FileResult']
export type Rejection = Schemas['Rejection']
export type Issued = Schemas['Issued']
export type PackOrder = Schemas['PackOrder']
export type PackTask = Schemas['PackTask']
export type PackPreview = Schemas['PackPreview']
export type Verification = Schemas['Verification']
export type Session = Schemas['Session']
export type FindingsPage = Schemas['FindingsPage']
export type FindingRow = Schemas['FindingRow']
export type FindingGroup = Schemas['FindingGroup']
export type FindingEvent = Schemas['Event']
export type PolicyView = Schemas['PolicyView']
export type PolicyTrial = Schemas['PolicyTrial']
export type ExceptionView = Schemas['ExceptionView']
export type SelectorMatches = Schemas['SelectorMatches']
export type SelectorMatch = Schemas['SelectorMatch']
export type SelectorFields = Schemas['SelectorFields']
export type Differences = Schemas['Differences']
export type VerdictMove = Schemas['VerdictMove']
export type OutcomeTurn = Schemas['OutcomeTurn']
export type Standards = Schemas['Standards']
export type StandardDraft = Schemas['StandardDraft']
export type StandardName = Schemas['StandardName']
export type Version = Schemas['Version']
export type Trial = Schemas['Trial']
export type ExpressionTrial = Schemas['ExpressionTrial']
export type OwnForm = Schemas['OwnForm']
export type ParameterForm = Schemas['ParameterForm']
export type CriterionForm = Schemas['CriterionForm']
export type InsightView = Schemas['InsightView']
export type JobSummary = Schemas['JobSummary']
export type FailureView = Schemas['FailureView']
export type VerdictEvent = Schemas['VerdictEvent']
export type MappingForm = Schemas['MappingForm']
export type MappingSuggestion = Schemas['MappingSuggestion']
export type ProgressView = Schemas['ProgressView']
export type NextToGo = Schemas['NextToGoView']
export type PersonView = Schemas['PersonView']
export type PasswordLink = Schemas['PasswordLink']
export type Linked = Schemas['Linked']
export type AllowedHosts = Schemas['AllowedHosts']
export type Proposed = Schemas['Proposed']

/** An answer that is not the one asked for; `message` is a sentence a person can act on. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message)
  }
}

function csrfToken(): string {
  const match = /(?:^|; )XSRF-TOKEN=([^;]+)/.exec(document.cookie)
  return match ? decodeURIComponent(match[1] ?? '') : ''
}

async function problemOf(response: Response): Promise<Problem> {
  let detail = ''
  try {
    const body: unknown = await response.json()
    if (typeof body === 'object' && body !== null && 'detail' in body) detail = String(body.detail)
  } catch {
    // The answer has no body that says more than its status.
  }
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

/**
 * Calls the server and gives its JSON; nothing for an empty answer.
 *
 * @throws Problem with the server's own words where it gave some
 */
export async function call<T>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
  tries = 0,
): Promise<T> {
  const form = body instanceof FormData
  let response: Response
  try {
    response = await fetch(`/api/${path}`, {
      method,
      headers: {
        ...headers,
        ...(method === 'GET' ? {} : { 'X-XSRF-TOKEN': csrfToken() }),
        ...(body === undefined || form ? {} : { 'Content-Type': 'application/json' }),
      },
      body: body === undefined ? undefined : form ? body : JSON.stringify(body),
    })
  } catch {
    throw new Problem(0, 'The server can’t be reached. What you see is from before; try again.')
  }
  if (response.status === BUSY && tries < BUSY_TRIES) {
    await new Promise((resolve) => setTimeout(resolve, 1000))
    return call(method, path, body, headers, tries + 1)
  }
  if (!response.ok) throw await problemOf(response)
  const text = await response.text()
  return (text ? JSON.parse(text) : undefined) as T
}

/** A path with its query; parameters that are empty are left out. */
export function withQuery(path: string, query: Record<string, string | undefined>): string {
  const search = new URLSearchParams()
  for (const [name, value] of Object.entries(query)) if (value) search.set(name, value)
  const text = search.toString()
  return text ? `${path}?${text}` : path
}
