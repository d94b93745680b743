import { away, isAnswered } from '../parts/away'
import { isReadable } from '../parts/files-of-drop'
import { session, whenBack } from '../session/session'

/** Said of a file that the window cannot read. */
export const unreadable = 'This computer does not let it be read, or it has changed since.'

/** A larger file goes in portions of this size: what a cut loses is at most one of them. */
const portionBytes = 4_000_000
/** Pauses before a file is gone on with that could not be sent; over when none is left. */
const retryMs = [1_000, 2_000, 4_000, 8_000, 15_000, 30_000]

/** What the server says to a part of a file, or to the whole. */
type Told =
  | { readonly problem: { readonly code: string; readonly message: string } }
  | { readonly received?: number; readonly fileId?: string }

/** One file, and where it goes. */
export interface FileToSend {
  readonly siteId: string
  readonly id: string
  readonly file: Blob
  readonly name: string
  readonly replaces?: string | null
  readonly actId?: string
  readonly keepsPlace: boolean
  /** The revision of the site that the window has seen. */
  readonly seen: number
}

export interface Progress {
  readonly onSent: (bytes: number) => void
  /** The line is down, or up again. */
  readonly onPause: (isPausing: boolean) => void
}

/** Nobody answered, or nothing that can be read: asked again, it may be. */
class Unreachable extends Error {
  /** @param said why the server cannot do it now, where it says so */
  constructor(
    readonly status: number,
    readonly said: string | null = null,
  ) {
    super(String(status))
  }
}

/** Resolves after a while, or as soon as the line is back, or whoever sends is signed in again. */
const pausing = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    const go = () => {
      clearTimeout(timer)
      unsubscribe()
      resolve()
    }
    const timer = setTimeout(go, ms)
    const unsubscribe = whenBack(go)
  })

/** Posts a body; `fetch` does not tell how much of one has gone. */
function post(
  address: string,
  body: Blob | null,
  signal: AbortSignal,
  onSent: (bytes: number) => void,
): Promise<Told> {
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
      const told = request.response as Told | null
      const isAnswer = told !== null && status >= 200 && status < 500 && status !== 401
      if (isAnswer) resolve(told)
      else reject(new Unreachable(status, told && 'problem' in told ? told.problem.message : null))
    }
    request.send(body)
  })
}

/** Sends what the server does not have of a file yet; null when all of it is there. */
async function sendPortions(
  { siteId, id, file }: FileToSend,
  signal: AbortSignal,
  { onSent }: Progress,
): Promise<Told | null> {
  const address = `/sites/${siteId}/uploads/${id}`
  const answer = await fetch(address, { signal })
  if (!answer.ok) throw new Unreachable(answer.status)
  let { received } = (await answer.json()) as { received: number }
  onSent(received)
  while (received < file.size) {
    const from = received
    const portion = file.slice(from, from + portionBytes)
    const told = await post(`${address}?from=${from}`, portion, signal, (sent) => onSent(from + sent))
    if ('problem' in told) return told
    received = told.received ?? 0
  }
  return null
}

/**
 * Sends a file and goes on after cuts, as long as it gets any further. What has come of a large one stays at
 * the server for a day, under its id.
 * @returns the file of the site that it is, or why it was not taken; never when it was called off
 */
export async function sendFile(
  what: FileToSend,
  signal: AbortSignal,
  progress: Progress,
): Promise<{ readonly fileId: string } | { readonly problem: string }> {
  const { siteId, id, file, name, replaces, actId, keepsPlace, seen } = what
  const query = new URLSearchParams({ id, name, seen: String(seen) })
  if (replaces) query.set('replaces', replaces)
  if (actId !== undefined) query.set('actId', actId)
  if (keepsPlace) query.set('keepsPlace', 'true')
  const isLarge = file.size > portionBytes
  if (isLarge) query.set('whole', String(file.size))
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
  for (let failures = 0; !signal.aborted;) {
    gained = false
    try {
      const refused = isLarge ? await sendPortions(what, signal, watched) : null
      const told =
        refused ??
        (await post(
          `/sites/${siteId}/files?${query}`,
          isLarge ? null : file,
          signal,
          isLarge ? () => {} : watched.onSent,
        ))
      if (!('problem' in told)) return { fileId: told.fileId ?? id }
      // Some of it was let go of meanwhile: what is there now is asked for, and the rest sent again.
      if (told.problem.code !== 'upload-gone' || failures >= retryMs.length)
        return { problem: told.problem.message }
      failures++
    } catch (error) {
      if (signal.aborted) break
      if (!(await isReadable(file))) return { problem: unreadable }
      // A line that is down says nothing of the file, nor does a session that has ended: it is waited for, however long.
      const status = error instanceof Unreachable ? error.status : 0
      const isDown = status === 401 || (status === 0 && !(await isAnswered(signal)))
      failures = isLarge && gained ? 1 : isDown ? Math.min(failures + 1, retryMs.length) : failures + 1
      const pause = retryMs[failures - 1]
      if (pause === undefined) return { problem: (error instanceof Unreachable && error.said) || away }
      progress.onPause(true)
      await pausing(pause)
      progress.onPause(false)
    }
  }
  return { problem: away }
}

/** Lets the server forget what has come of a file. */
export const dropSent = (siteId: string, id: string): void =>
  void fetch(`/sites/${siteId}/uploads/${id}?drop=true`, { method: 'POST', keepalive: true }).catch(() => {})

/** Whether a file is sent in portions, of which some may be there already. */
export const isSentInPortions = (file: Blob): boolean => file.size > portionBytes
