import { useRef, useState } from 'react'
import { Film, Volume2 } from 'lucide-react'
import { playedAs } from '#core/pictures'
import type { SiteFile } from '#core/site'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { LongList } from '../parts/long-list'
import { Path } from '../parts/path'
import { fileAddress } from '../files/file-address'

/** Files from which on they are looked for by letters. */
const worthLooking = 8

/** Pictures, films and sounds of the site to choose from, the latest first, one or several; and the way to further ones. */
export function ChooseShown({
  onChoose,
  onFiles,
}: {
  onChoose: (files: readonly SiteFile[]) => void
  onFiles: (files: readonly File[]) => void
}) {
  const { site, names } = useSite()
  const input = useRef<HTMLInputElement>(null)
  const [letters, setLetters] = useState('')
  /** Ids in the order in which they were ticked, which is that in which they will stand. */
  const [ticked, setTicked] = useState<readonly string[]>([])
  const pathOf = (file: SiteFile) => names.files.get(file.id) ?? file.label
  const all = site.files
    .filter((file) => file.kind === 'image' || playedAs(file.label) !== null)
    .sort((a, b) => b.seq - a.seq)
  const wanted = letters.trim().toLowerCase()
  const found = all.filter((file) => pathOf(file).toLowerCase().includes(wanted))
  const chosen = ticked.flatMap((id) => all.find((file) => file.id === id) ?? [])
  return (
    <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)_auto] px-7 pb-5">
      {all.length > worthLooking && (
        <input
          type="search"
          aria-label="Only files with these letters"
          placeholder="Only those with…"
          className="field mb-3"
          value={letters}
          onChange={(event) => setLetters(event.target.value)}
        />
      )}
      {found.length === 0 ? (
        <p className="row-start-2 text-quiet">
          {all.length === 0
            ? 'The site has no picture, film or sound yet.'
            : 'None of them has these letters in its name.'}
        </p>
      ) : (
        <LongList
          label="Pictures, films and sounds of the site"
          count={found.length}
          rowHeight={64}
          className="row-start-2 max-h-96"
        >
          {(index) => {
            const file = found[index]!
            const nth = ticked.indexOf(file.id)
            return (
              <span className="flex h-16 items-center gap-3 hover:bg-vellum">
                <input
                  type="checkbox"
                  className="accent-lapis"
                  aria-label={`Put ${pathOf(file)} in with others`}
                  checked={nth >= 0}
                  onChange={() =>
                    setTicked(nth >= 0 ? ticked.filter((id) => id !== file.id) : [...ticked, file.id])
                  }
                />
                <button
                  type="button"
                  className="flex h-full min-w-0 grow items-center gap-4 text-left"
                  onClick={() => onChoose([...chosen.filter((one) => one !== file), file])}
                >
                  <Seen file={file} address={fileAddress(site.id, file.id)} />
                  <Path path={pathOf(file)} className="min-w-0 grow" />
                </button>
              </span>
            )
          }}
        </LongList>
      )}
      <div className="row-start-3 flex flex-wrap gap-3 pt-4">
        {chosen.length > 0 && (
          <Button look="go" onClick={() => onChoose(chosen)}>
            {chosen.length === 1 ? 'Put the one in' : `Put these ${chosen.length} in`}
          </Button>
        )}
        <Button onClick={() => input.current?.click()}>Add some from this computer</Button>
        <input
          ref={input}
          type="file"
          accept="image/*,video/*,audio/*"
          multiple
          hidden
          aria-label="Pictures, films and sounds to add"
          onChange={(event) => {
            onFiles([...(event.target.files ?? [])])
            event.target.value = ''
          }}
        />
      </div>
    </div>
  )
}

/** What a file looks like, small: of a film, that it is one. */
function Seen({ file, address }: { file: SiteFile; address: string }) {
  const recording = playedAs(file.label)
  const Sign = recording === 'video' ? Film : Volume2
  return recording ? (
    <span className="grid size-14 shrink-0 place-items-center text-quiet">
      <Sign className="size-6" aria-label={recording === 'video' ? 'Film' : 'Sound'} />
    </span>
  ) : (
    <img src={address} alt="" loading="lazy" className="size-14 object-contain" />
  )
}
