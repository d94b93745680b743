import { useRef } from 'react'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { LongList } from '../parts/long-list'
import { Path } from '../parts/path'
import type { WantedPicture } from './picture-dialog'

/** Pictures of the site to choose from, and the way to further ones. */
export function ChoosePicture({
  onChoose,
  onFiles,
}: {
  onChoose: (picture: WantedPicture) => void
  onFiles: (files: readonly File[]) => void
}) {
  const { site, names } = useSite()
  const input = useRef<HTMLInputElement>(null)
  const pictures = site.files.filter((file) => file.kind === 'image')
  return (
    <div className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto] px-7 pb-5">
      {pictures.length === 0 ? (
        <p className="text-quiet">The site has no picture yet.</p>
      ) : (
        <LongList label="Pictures of the site" count={pictures.length} rowHeight={64} className="max-h-96">
          {(index) => {
            const file = pictures[index]!
            const shown = `/sites/${site.id}/files/${file.id}`
            return (
              <button
                type="button"
                className="flex h-16 w-full items-center gap-4 text-left hover:bg-vellum"
                onClick={() =>
                  onChoose({
                    name: file.label,
                    shown,
                    sizeBytes: file.sizeBytes,
                    bytes: async () => (await fetch(shown)).blob(),
                    fileId: Promise.resolve(file.id),
                  })
                }
              >
                <img src={shown} alt="" loading="lazy" className="size-14 object-contain" />
                <Path path={names.files.get(file.id) ?? file.label} className="min-w-0 grow" />
              </button>
            )
          }}
        </LongList>
      )}
      <div className="pt-4">
        <Button onClick={() => input.current?.click()}>Add one from this computer</Button>
        <input
          ref={input}
          type="file"
          accept="image/*"
          multiple
          hidden
          aria-label="Pictures to add"
          onChange={(event) => {
            onFiles([...(event.target.files ?? [])])
            event.target.value = ''
          }}
        />
      </div>
    </div>
  )
}
