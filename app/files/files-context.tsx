import { createContext, type ReactNode, useContext, useMemo, useState, useSyncExternalStore } from 'react'
import { useSite } from '../document/site-context'
import { couldBePage, labelOf } from './text-name'
import { type Upload, Uploads } from './uploads'

interface FilesValue {
  readonly uploads: Uploads
  /** The file that the right-hand side shows; null while it shows a view. */
  readonly chosenId: string | null
  readonly choose: (id: string | null) => void
  /** Texts that were brought, and whose author is asked what is to become of them. */
  readonly offered: readonly File[]
  readonly offer: (texts: readonly File[]) => void
  /** Takes files that were dropped or chosen: texts are asked about. */
  readonly bring: (files: Iterable<File>) => void
}

const FilesContext = createContext<FilesValue | null>(null)

export function FilesProvider({ children }: { children: ReactNode }) {
  const { site, store } = useSite()
  const [uploads] = useState(() => new Uploads(site.id, store))
  const [chosenId, choose] = useState<string | null>(null)
  const [offered, offer] = useState<readonly File[]>([])
  const value = useMemo(() => {
    const bring = (files: Iterable<File>) => {
      const texts: File[] = []
      const all = [...files].map(async (file) => {
        const label = await labelOf(file)
        if (label === file.name && couldBePage(file.name)) texts.push(file)
        else void uploads.send(file, label)
      })
      void Promise.all(all).then(() => texts.length > 0 && offer(texts))
    }
    return { uploads, chosenId, choose, offered, offer, bring }
  }, [uploads, chosenId, offered])
  return <FilesContext value={value}>{children}</FilesContext>
}

export function useFiles(): FilesValue & { readonly underWay: readonly Upload[] } {
  const value = useContext(FilesContext)
  if (!value) throw new Error('Used outside FilesProvider')
  const { uploads } = value
  const underWay = useSyncExternalStore(uploads.subscribe, uploads.get, uploads.get)
  return { ...value, underWay }
}
