import { type DragEvent, useState } from 'react'
import { useFiles } from './files-context'

const holdsFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files')

/** Takes files that are dropped on an element into the site. */
export function useDroppedFiles() {
  const { bring } = useFiles()
  const [isDraggedOver, setDraggedOver] = useState(false)
  return {
    isDraggedOver,
    dropping: {
      onDragOver(event: DragEvent) {
        if (!holdsFiles(event)) return
        event.preventDefault()
        setDraggedOver(true)
      },
      onDragLeave(event: DragEvent) {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setDraggedOver(false)
      },
      onDrop(event: DragEvent) {
        if (!holdsFiles(event)) return
        event.preventDefault()
        setDraggedOver(false)
        bring(event.dataTransfer.files)
      },
    },
  }
}
