import { createContext, type ReactNode, useContext, useMemo, useState, useSyncExternalStore } from 'react'
import { useSite } from '../document/site-context'
import { type Upload, Uploads } from './uploads'

interface FilesValue {
  readonly uploads: Uploads
  /** The file that the right-hand side shows; null while it shows a view. */
  readonly chosenId: string | null
  readonly choose: (id: string | null) => void
}

const FilesContext = createContext<FilesValue | null>(null)

export function FilesProvider({ children }: { children: ReactNode }) {
  const { site, store } = useSite()
  const [uploads] = useState(() => new Uploads(site.id, store))
  const [chosenId, choose] = useState<string | null>(null)
  const value = useMemo(() => ({ uploads, chosenId, choose }), [uploads, chosenId])
  return <FilesContext value={value}>{children}</FilesContext>
}

export function useFiles(): FilesValue & { readonly underWay: readonly Upload[] } {
  const value = useContext(FilesContext)
  if (!value) throw new Error('Used outside FilesProvider')
  const { uploads } = value
  const underWay = useSyncExternalStore(uploads.subscribe, uploads.get, uploads.get)
  return { ...value, underWay }
}
