import type { Remark } from '#core/bringing'
import { mostFileBytes } from '#core/site'
import { away } from '../parts/away'
import { isJson } from '../document/post'
import { readProgress } from '../parts/read-progress'
import { type FolderFile, isReadable } from '../parts/files-of-drop'

/** Said of what does not come. */
export const unreadable = 'Your computer does not let it be read: it did not come.'
const tooLarge = 'It is larger than 200 MB, which is the most that one file may have: it did not come.'

/** Files sent at the same time. */
const atOnce = 4

/** Why something was not taken. */
export class NotTaken extends Error {}

/** Asks the server, and fails with its sentence where it does not do what was asked. */
export async function ask<Answer>(address: string, init: RequestInit): Promise<Answer> {
  const response = await fetch(address, init).catch((error: unknown) => {
    if (init.signal?.aborted) throw error
    throw new NotTaken(away)
  })
  if (!isJson(response)) throw new NotTaken(away)
  const told = (await response.json()) as Answer & { problem?: { message: string } }
  if (told.problem) throw new NotTaken(told.problem.message)
  return told
}

/** Asks for what takes a while, and tells how far it is. */
export async function askForLong<Answer>(
  address: string,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
  init: RequestInit = {},
): Promise<Answer> {
  const response = await fetch(address, { ...init, signal }).catch((error: unknown) => {
    if (signal.aborted) throw error
    throw new NotTaken(away)
  })
  if (isJson(response)) {
    const told = (await response.json()) as Answer & { problem?: { message: string } }
    if (told.problem) throw new NotTaken(told.problem.message)
    return told
  }
  if (!response.ok || !response.body) throw new NotTaken(away)
  const ended = await readProgress(response.body, tell)
  if (ended === null) throw new NotTaken(away)
  if ('problem' in ended) throw new NotTaken(ended.problem)
  return ended.result as Answer
}

const post = (body: BodyInit, signal: AbortSignal): RequestInit => ({ method: 'POST', body, signal })

export const begin = (name: string, example: boolean, signal: AbortSignal): Promise<{ id: string }> =>
  ask('/bringing', {
    ...post(JSON.stringify({ name, example }), signal),
    headers: { 'content-type': 'application/json' },
  })

const fromHost = (id: string) => `/bringing/${id}/from-host`
const asPost = (body: object): RequestInit => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

/** Asks how a host shows that it is itself. */
export const learnHost = async (id: string, place: object, signal: AbortSignal): Promise<string> =>
  (await ask<{ hostKey: string }>(fromHost(id), { ...asPost(place), signal })).hostKey

/** Fetches what stands at a host. */
export const fetchFromHost = (
  id: string,
  place: object,
  hostKey: string,
  signal: AbortSignal,
  onFetched: (done: number, all: number) => void,
): Promise<unknown> => askForLong(fromHost(id), signal, onFetched, asPost({ ...place, hostKey }))

/**
 * Sends the files of a folder, some at a time.
 * @returns what does not come: what the computer does not let be read, and what is too large to be sent
 */
export async function sendFolder(
  id: string,
  files: readonly FolderFile[],
  signal: AbortSignal,
  onSent: (count: number) => void,
): Promise<Remark[]> {
  const leftOut: Remark[] = []
  let next = 0
  let sent = 0
  const work = async () => {
    while (next < files.length && !signal.aborted) {
      const { path, file } = files[next++]!
      if (file.size > mostFileBytes) {
        leftOut.push({ path, why: tooLarge })
        continue
      }
      try {
        await ask(`/bringing/${id}/files?path=${encodeURIComponent(path)}`, post(file, signal))
      } catch (error) {
        if (signal.aborted || (await isReadable(file))) throw error
        leftOut.push({ path, why: unreadable })
      }
      onSent(++sent)
    }
  }
  await Promise.all(Array.from({ length: atOnce }, work))
  return leftOut
}

export const sendZip = (id: string, file: File, signal: AbortSignal): Promise<unknown> =>
  ask(`/bringing/${id}/files`, post(file, signal))

export const filesOfChoice = (files: Iterable<File>): FolderFile[] =>
  [...files].map((file) => ({ path: file.webkitRelativePath || file.name, file }))
