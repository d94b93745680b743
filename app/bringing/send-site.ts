import type { Remark } from '#core/bringing'
import { mostFileBytes } from '#core/site'
import { away } from '../parts/away'
import { patiently, Unreachable } from '../parts/patience'
import { sendFile, unreadable as notRead } from '../parts/send-file'
import { isJson } from '../document/post'
import { readProgress } from '../parts/read-progress'
import { type FolderFile } from '../parts/files-of-drop'

/** Said of what does not come. */
export const unreadable = 'Your computer does not let it be read: it did not come.'
const tooLarge = 'It is larger than 200 MB, which is the most that one file may have: it did not come.'

/** Files sent at the same time. */
const atOnce = 4

/** Why something was not taken. */
export class NotTaken extends Error {}

/** What a window knows of how far it is with what it sends. */
export interface Sent {
  readonly files: number
  readonly bytes: number
}

export interface Telling {
  readonly signal: AbortSignal
  /** The line is down, or up again. */
  readonly onPause: (isPausing: boolean) => void
}

/** What was answered, where it is that; @throws `Unreachable` where nobody answered, `NotTaken` where it was refused */
async function answerOf(asked: Promise<Response>, signal: AbortSignal): Promise<Response> {
  const response = await asked.catch((error: unknown) => {
    throw signal.aborted ? error : new Unreachable(0)
  })
  if (response.status === 401) throw new Unreachable(401)
  if (isJson(response)) {
    const told = (await response.clone().json()) as { problem?: { message: string } }
    // The database is away for a moment (RFC 9110, section 15.6.4).
    if (told.problem && response.status === 503) throw new Unreachable(503, told.problem.message)
    if (told.problem) throw new NotTaken(told.problem.message)
  } else if (!response.ok) throw new Unreachable(response.status)
  return response
}

/** Asks the server until it answers, and fails with its sentence where it does not do what was asked. */
export const ask = <Answer>(
  address: string,
  init: RequestInit,
  { signal, onPause }: Telling,
): Promise<Answer> =>
  answered(
    async () => (await (await answerOf(fetch(address, { ...init, signal }), signal)).json()) as Answer,
    signal,
    onPause,
  )

/** Asks for what takes a while, once, and tells how far it is. */
async function askLong<Answer>(
  address: string,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
  init: RequestInit = {},
): Promise<Answer> {
  const response = await answerOf(fetch(address, { ...init, signal }), signal)
  if (isJson(response)) return (await response.json()) as Answer
  // Cut in its midst it is no answer either.
  const ended = await readProgress(response.body!, tell).catch((error: unknown) => {
    throw signal.aborted ? error : new Unreachable(0)
  })
  if (ended === null) throw new Unreachable(0)
  if ('problem' in ended) throw new NotTaken(ended.problem)
  return ended.result as Answer
}

/** The same until it is answered. */
export const askForLong = <Answer>(
  address: string,
  { signal, onPause }: Telling,
  tell: (done: number, all: number) => void,
): Promise<Answer> => answered(() => askLong<Answer>(address, signal, tell), signal, onPause)

const answered = <T>(work: () => Promise<T>, signal: AbortSignal, onPause?: Telling['onPause']): Promise<T> =>
  patiently(work, signal, onPause).catch(asNotTaken)

/** Whoever reads it is told why, or that nobody answers. */
function asNotTaken(error: unknown): never {
  throw error instanceof Unreachable ? new NotTaken(error.said ?? away) : error
}

export const begin = (name: string, example: boolean, telling: Telling): Promise<{ id: string }> =>
  ask('/bringing', asPost({ name, example }), telling)

const fromHost = (id: string) => `/bringing/${id}/from-host`
export const asPost = (body: object): RequestInit => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

/** Asks how a host shows that it is itself. */
export const learnHost = async (id: string, place: object, telling: Telling): Promise<string> =>
  (await ask<{ hostKey: string }>(fromHost(id), asPost(place), telling)).hostKey

/** Fetches what stands at a host. Cut, it is asked for again by its author, who sees what has become of it. */
export const fetchFromHost = (
  id: string,
  place: object,
  hostKey: string,
  signal: AbortSignal,
  onFetched: (done: number, all: number) => void,
): Promise<unknown> =>
  askLong(fromHost(id), signal, onFetched, asPost({ ...place, hostKey })).catch(asNotTaken)

/** Sends one file of a folder, at its path, or a ZIP with all of them. @returns whether it could be read */
async function sendOne(
  id: string,
  path: string | null,
  file: Blob,
  { signal, onPause }: Telling,
  onSent: (bytes: number) => void,
): Promise<boolean> {
  const upload = crypto.randomUUID()
  const sent = await sendFile(
    {
      file,
      at: `/bringing/${id}/files`,
      query: { upload, ...(path !== null && { path }) },
      portionsAt: `/bringing/${id}/uploads/${upload}`,
    },
    signal,
    { onSent, onPause },
  )
  signal.throwIfAborted()
  if (!('problem' in sent)) return true
  if (!sent.isUnreadable) throw new NotTaken(sent.problem)
  return false
}

/**
 * Sends the files of a folder, some at a time.
 * @returns what does not come: what the computer does not let be read, and what is too large to be sent
 */
export async function sendFolder(
  id: string,
  files: readonly FolderFile[],
  { signal, onPause }: Telling,
  tell: (sent: Sent) => void,
): Promise<Remark[]> {
  const leftOut: Remark[] = []
  const own = new AbortController()
  signal.addEventListener('abort', () => own.abort(), { once: true })
  const telling = { signal: own.signal, onPause: pausesOf(onPause) }
  let next = 0
  let sent = 0
  let bytes = 0
  const work = async () => {
    while (next < files.length && !telling.signal.aborted) {
      const { path, file } = files[next++]!
      let own = 0
      const onSent = (now: number) => {
        bytes += now - own
        own = now
        tell({ files: sent, bytes })
      }
      if (file.size > mostFileBytes) leftOut.push({ path, why: tooLarge })
      else if (!(await sendOne(id, path, file, telling, onSent))) leftOut.push({ path, why: unreadable })
      sent += 1
      onSent(file.size)
    }
  }
  // Where one is refused, the others are not sent for nothing.
  const all = Array.from({ length: atOnce }, () =>
    work().catch((error: unknown) => {
      own.abort()
      throw error
    }),
  )
  await Promise.all(all)
  return leftOut
}

/** Of several that pause, one is told. */
function pausesOf(onPause: Telling['onPause']): Telling['onPause'] {
  let pausing = 0
  return (isPausing) => {
    pausing += isPausing ? 1 : -1
    onPause(pausing > 0)
  }
}

export async function sendZip(
  id: string,
  file: File,
  telling: Telling,
  tell: (sent: Sent) => void,
): Promise<void> {
  const isRead = await sendOne(id, null, file, telling, (bytes) => tell({ files: 0, bytes }))
  if (!isRead) throw new NotTaken(notRead)
}

export const filesOfChoice = (files: Iterable<File>): FolderFile[] =>
  [...files].map((file) => ({ path: file.webkitRelativePath || file.name, file }))
