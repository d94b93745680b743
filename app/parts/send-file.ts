import { session } from '../session/session'
import { away } from './away'
import { isReadable } from './files-of-drop'
import { Patience, Unreachable } from './patience'

/** Said of a file that the window cannot read. */
export const unreadable = 'This computer does not let it be read, or it has changed since.'

/** A larger file goes in portions of this size: what a cut loses is at most one of them. */
const portionBytes = 4_000_000

/** What the server says to a part of a file, or to the whole. */
type Told<Taken> =
  | { readonly problem: { readonly code: string; readonly message: string } }
  | ({ readonly received?: number } & Taken)

/** One file, and where it goes. */
export interface FileToSend {
  readonly file: Blob
  /** Takes it, as the body of a POST; one that came in portions before is told by its size, as `whole`. */
  readonly at: string
  readonly query: Readonly<Record<string, string>>
  /** Takes the portions of a large one, and tells how much of it is there. */
  readonly portionsAt: string
}

/** Why a file was not taken. */
export interface NotSent {
  readonly problem: string
  /** The window could not even read it. */
  readonly isUnreadable?: boolean
}

export interface Progress {
  readonly onSent: (bytes: number) => void
  /** The line is down, or up again. */
  readonly onPause: (isPausing: boolean) => void
}

/** Posts a body; `fetch` does not tell how much of one has gone. */
function post<Taken = object>(
  address: string,
  body: Blob | null,
  signal: AbortSignal,
  onSent: (bytes: number) => void,
): Promise<Told<Taken>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    const stop = () => request.abort()
    signal.addEventListener('abort', stop)
    request.open('POST', address)
    for (const [name, value] of Object.entries(session.headers)) request.setRequestHeader(name, value)
    request.responseType = 'json'
    request.upload.onprogress = ({ loaded }) => onSent(loaded)
    request.onloadend = () => {
      signal.removeEventListener('abort', stop)
      const { status } = request
      session.note(status)
      const told = request.response as Told<Taken> | null
      const isAnswer = told !== null && status >= 200 && status < 500 && status !== 401
      if (isAnswer) resolve(told)
      else reject(new Unreachable(status, told && 'problem' in told ? told.problem.message : null))
    }
    request.send(body)
  })
}

/** Sends what the server does not have of a file yet; null when all of it is there. */
async function sendPortions(
  { portionsAt, file }: FileToSend,
  signal: AbortSignal,
  { onSent }: Progress,
): Promise<Told<object> | null> {
  const answer = await fetch(portionsAt, { signal })
  if (!answer.ok) throw new Unreachable(answer.status)
  let { received } = (await answer.json()) as { received: number }
  onSent(received)
  while (received < file.size) {
    const from = received
    const portion = file.slice(from, from + portionBytes)
    const told = await post(`${portionsAt}?from=${from}`, portion, signal, (sent) => onSent(from + sent))
    if ('problem' in told) return told
    received = told.received ?? 0
  }
  return null
}

/**
 * Sends a file and goes on after cuts, as long as it gets any further. What has come of a large one stays at
 * the server for a day, under its id.
 * @returns what the server says of it, or why it was not taken; never when it was called off
 */
export async function sendFile<Taken extends object>(
  what: FileToSend,
  signal: AbortSignal,
  progress: Progress,
): Promise<Taken | NotSent> {
  const { file, at, query } = what
  const isLarge = isSentInPortions(file)
  const address = `${at}?${new URLSearchParams({ ...query, ...(isLarge && { whole: String(file.size) }) })}`
  const patience = new Patience(signal, progress.onPause)
  let furthest = 0
  let gained = false
  const watched: Progress = {
    ...progress,
    onSent(bytes) {
      gained ||= bytes > furthest
      furthest = Math.max(furthest, bytes)
      progress.onSent(Math.min(bytes, file.size))
    },
  }
  while (!signal.aborted) {
    gained = false
    try {
      const refused = isLarge ? await sendPortions(what, signal, watched) : null
      const told =
        refused ??
        (await post<Taken>(address, isLarge ? null : file, signal, isLarge ? () => {} : watched.onSent))
      if (!('problem' in told)) return told as Taken
      // Some of it was let go of meanwhile: what is there now is asked for, and the rest sent again.
      if (told.problem.code !== 'upload-gone' || !patience.count()) return { problem: told.problem.message }
    } catch (error) {
      if (signal.aborted) break
      if (!(await isReadable(file))) return { problem: unreadable, isUnreadable: true }
      if (isLarge && gained) patience.gained()
      if (!(await patience.waits(error)))
        return { problem: (error instanceof Unreachable && error.said) || away }
    }
  }
  return { problem: away }
}

/** Lets the server forget what has come of a file. */
export const dropSent = (portionsAt: string): void =>
  void fetch(`${portionsAt}?drop=true`, { method: 'POST', keepalive: true }).catch(() => {})

/** Whether a file is sent in portions, of which some may be there already. */
export const isSentInPortions = (file: Blob): boolean => file.size > portionBytes
