import { type DragEvent, useState } from 'react'
import { useFiles } from './files-context'
import { unreadable } from '../parts/send-file'
import { ownFilesOfDrop } from '../parts/files-of-drop'

const holdsFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files')
/** What takes files itself: a text that is written. */
const takesItself = (event: DragEvent) =>
  event.isDefaultPrevented() || (event.target as Element).closest('.cm-editor') !== null

/**
 * Takes files and folders that are dropped anywhere on an element into the site: left to itself, a browser would go to them
 * instead of what its window shows.
 */
export function useDroppedFiles() {
  const { bring, uploads } = useFiles()
  const [isDraggedOver, setDraggedOver] = useState(false)
  return {
    isDraggedOver,
    dropping: {
      onDragOver(event: DragEvent) {
        if (!holdsFiles(event)) return
        if (takesItself(event)) return setDraggedOver(false)
        event.preventDefault()
        setDraggedOver(true)
      },
      onDragLeave(event: DragEvent) {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setDraggedOver(false)
      },
      onDrop(event: DragEvent) {
        setDraggedOver(false)
        if (!holdsFiles(event) || takesItself(event)) return
        event.preventDefault()
        void ownFilesOfDrop(event.dataTransfer).then(({ files, unread }) => {
          for (const path of unread) uploads.refuse(path, unreadable)
          bring(files)
        })
      },
    },
  }
}
