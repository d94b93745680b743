import {
  createContext,
  type Dispatch,
  type ReactNode,
  type SetStateAction,
  useContext,
  useMemo,
  useState,
  useSyncExternalStore,
} from 'react'
import { useSite } from '../document/site-context'
import { type FolderFile, isReadable } from '../parts/files-of-drop'
import { unreadable } from '../parts/send-file'
import { couldBePage, isWebPage, labelOf } from './text-name'
import { type OnTheirWay, Uploads } from './uploads'

interface FilesValue {
  readonly uploads: Uploads
  /** The file that the right-hand side shows; null while it shows a view. */
  readonly chosenId: string | null
  readonly choose: (id: string | null) => void
  /** Texts that were brought, and whose author is asked what is to become of them. */
  readonly offered: readonly File[]
  readonly offer: Dispatch<SetStateAction<readonly File[]>>
  /** Files with web pages among them, whose author is asked whether they are brought in as such. */
  readonly offeredWhole: readonly FolderFile[]
  readonly offerWhole: (files: readonly FolderFile[]) => void
  /** Takes files that were dropped or chosen: web pages and texts are asked about. */
  readonly bring: (files: readonly FolderFile[]) => void
  /** Takes each by itself: texts are asked about. */
  readonly bringEach: (files: readonly FolderFile[]) => void
}

const FilesContext = createContext<FilesValue | null>(null)

export function FilesProvider({ children }: { children: ReactNode }) {
  const { site, store } = useSite()
  const [uploads] = useState(() => new Uploads(site.id, store))
  const [chosenId, choose] = useState<string | null>(null)
  const [offered, offer] = useState<readonly File[]>([])
  const [offeredWhole, offerWhole] = useState<readonly FolderFile[]>([])
  const value = useMemo(() => {
    const bringEach = (files: readonly FolderFile[]) => {
      const actId = crypto.randomUUID()
      const texts: File[] = []
      const known = new Set(store.get().site.files.map(({ id }) => id))
      const all = files.map(async ({ file: given }) => {
        const file = await uploads.shown(given)
        if (!file) return
        const label = await labelOf(file)
        if (label === file.name && couldBePage(file.name)) {
          if (await isReadable(file)) texts.push(file)
          else uploads.refuse(file.name, unreadable)
        } else
          // Added again, it is the one that was there: that is shown, since nothing else is to be seen of it.
          void uploads
            .send(file, label, { actId })
            .then((id) => files.length === 1 && id !== null && known.has(id) && choose(id))
      })
      void Promise.all(all).then(() => texts.length > 0 && offer((was) => [...was, ...texts]))
    }
    const bring = async (files: readonly FolderFile[]) => {
      const named = files.filter(({ file }) => isWebPage(file.name))
      const labels = await Promise.all(named.map(({ file }) => labelOf(file)))
      const pages = labels.filter((label, index) => label === named[index]!.file.name)
      // One is a text as good as any; several share what stands around their texts.
      if (pages.length > 1 && store.may('manage')) offerWhole(files)
      else bringEach(files)
    }
    return {
      uploads,
      chosenId,
      choose,
      offered,
      offer,
      offeredWhole,
      offerWhole,
      bring: (files: readonly FolderFile[]) => void bring(files),
      bringEach,
    }
  }, [uploads, chosenId, offered, offeredWhole, store])
  return <FilesContext value={value}>{children}</FilesContext>
}

export function useFiles(): FilesValue {
  const value = useContext(FilesContext)
  if (!value) throw new Error('Used outside FilesProvider')
  return value
}

/** What is on its way; whoever uses it is drawn again with every bit of progress. */
export function useOnTheirWay(): OnTheirWay {
  const { uploads } = useFiles()
  return useSyncExternalStore(uploads.subscribe, uploads.get, uploads.get)
}
