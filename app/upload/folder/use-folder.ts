import { useCallback, useEffect, useRef, useState } from 'react'
import type { ComparedFile } from '#core/delivery'
import { type Folder, folderPicker } from './folder-files'
import { keepFolder, keptFolder, type KeptFolder } from './kept-folder'
import { type Beside, lookBeside, putFiles, type PutFiles, sayWhatEnded } from './put-files'

/** How far putting the site into a folder has come. */
export type FolderStep =
  | { readonly at: 'choosing'; readonly problem: string | null }
  | { readonly at: 'looking' | 'writing'; readonly done: number; readonly all: number }
  | { readonly at: 'compared'; readonly beside: Beside }
  | { readonly at: 'done'; readonly put: PutFiles }

/** Drawn so many times a second while it works. */
const tellMs = 100

/** The way of a site into a folder of this computer. */
export function useFolder(accountId: string, siteId: string) {
  const [step, setStep] = useState<FolderStep>({ at: 'choosing', problem: null })
  /** The one that it was put into before. */
  const [before, setBefore] = useState<KeptFolder | null>(null)
  const work = useRef<AbortController | null>(null)
  useEffect(() => {
    void keptFolder(accountId, siteId).then(setBefore)
    // Whoever closes it calls it off.
    return () => work.current?.abort()
  }, [accountId, siteId])

  const run = useCallback(
    async <T>(at: 'looking' | 'writing', job: (signal: AbortSignal, tell: (done: number, all: number) => void) => Promise<T>): Promise<T | null> => {
      work.current?.abort()
      const { signal } = (work.current = new AbortController())
      let told = 0
      setStep({ at, done: 0, all: 0 })
      try {
        return await job(signal, (done, all) => {
          if (performance.now() - told < tellMs || signal.aborted) return
          told = performance.now()
          setStep({ at, done, all })
        })
      } catch (error) {
        if (!signal.aborted) setStep({ at: 'choosing', problem: sayWhatEnded(error) })
        return null
      }
    },
    [],
  ) // prettier-ignore

  const look = async (kept: KeptFolder) => {
    const beside = await run('looking', (signal, tell) => lookBeside(siteId, kept, signal, tell))
    if (beside) setStep({ at: 'compared', beside })
  }
  const lookInto = async (folder: Folder) => {
    const isBefore = (await before?.folder.isSameEntry(folder)) ?? false
    const kept = isBefore ? before! : { folder, record: [] }
    setBefore(kept)
    await keepFolder(accountId, siteId, kept)
    await look(kept)
  }
  return {
    step,
    before,
    async choose() {
      // Whoever closes the browser's own question has chosen none.
      const folder = await folderPicker()!({ mode: 'readwrite', id: 'site' }).catch(() => null)
      if (folder) await lookInto(folder)
    },
    /** The browser asks again whether it may. */
    async again() {
      const may = (await before!.folder.requestPermission?.({ mode: 'readwrite' })) ?? 'granted'
      if (may === 'granted') await look(before!)
      else setStep({ at: 'choosing', problem: sayWhatEnded(new DOMException('', 'NotAllowedError')) })
    },
    async put(beside: Beside, files: readonly ComparedFile[], removing: readonly string[]) {
      const put = await run('writing', (signal, tell) =>
        putFiles(siteId, beside, files, removing, signal, tell, (kept) => {
          setBefore(kept)
          return keepFolder(accountId, siteId, kept)
        }),
      )
      if (put) setStep({ at: 'done', put })
    },
    /** Stops what is under way; what was written stays. */
    cancel() {
      work.current?.abort()
      setStep({ at: 'choosing', problem: null })
    },
  }
}
