import { useRef, useState } from 'react'
import { Button } from '../parts/button'
import { FileButton } from '../parts/picks/files'
import { type Dropped, filesOfDrop } from '../parts/files-of-drop'
import { filesOfChoice } from './send-site'

/** Where a site comes from: a folder, a ZIP, or the example. */
export function ChooseSite({
  onFolder,
  onZip,
  onHost,
  onExample,
  isJoining,
}: {
  onFolder: (dropped: Dropped) => void
  onZip: (file: File) => void
  onHost: () => void
  onExample: () => void
  /** Whether they join a site that is here already. */
  isJoining: boolean
}) {
  const folder = useRef<HTMLInputElement>(null)
  const [isOver, setOver] = useState(false)
  return (
    <div
      className={`grid justify-items-start gap-5 border-2 border-dashed p-8 ${isOver ? 'border-lapis bg-lapis-wash' : 'border-rule'}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false)
      }}
      onDrop={(event) => {
        event.preventDefault()
        setOver(false)
        const [first] = event.dataTransfer.files
        if (event.dataTransfer.files.length === 1 && first && /\.zip$/i.test(first.name)) onZip(first)
        else void filesOfDrop(event.dataTransfer).then(onFolder)
      }}
    >
      <p className="max-w-prose font-serif text-[18px]">
        {isJoining
          ? 'Drop a folder of pages here, with the pictures and style sheets they need. What they lead to is found again, here and among themselves.'
          : 'Drop the folder of your site here, as it lies on your disk; or fetch it from the host where it stands.'}{' '}
        Nothing is made before you have seen what was understood.
      </p>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-3">
        <Button look="go" onClick={() => folder.current?.click()}>
          Choose a folder
        </Button>
        <input
          ref={folder}
          type="file"
          hidden
          multiple
          aria-label="The folder of the site"
          // A folder, with all that is in it; React does not know the attribute.
          {...{ webkitdirectory: '' }}
          onChange={(event) => {
            const files = filesOfChoice(event.target.files ?? [])
            event.target.value = ''
            if (files.length > 0) onFolder({ files, unread: [] })
          }}
        />
        <FileButton words="Choose a ZIP" accept=".zip,application/zip" onFile={onZip} />
        <button type="button" className="link text-sm" onClick={onHost}>
          Fetch it from a host
        </button>
        <button type="button" className="link text-sm" onClick={onExample}>
          Try it with Saltings Ferry, a site made by hand
        </button>
      </div>
    </div>
  )
}
