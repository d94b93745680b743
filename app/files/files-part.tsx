import { isAskedForByName, mayBeProofOfOwner } from '#core/links'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { useSelection, useSite } from '../document/site-context'
import { count, size } from '../parts/format'
import { LongList } from '../parts/long-list'
import { Path } from '../parts/path'
import { useFiles } from './files-context'
import { OnTheirWay } from './on-their-way'
import { useUses } from './use-uses'

const rowHeight = 30
/** So many are looked through at a glance. */
const fewFiles = 8

/** The site's files below its pages: by folder, to be looked at, added to and dropped on. */
export function FilesPart() {
  const { site, store, names } = useSite()
  const { selected } = useSelection()
  const { uploads, chosenId, choose, bring } = useFiles()
  const [open, setOpen] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const [sought, setSought] = useState('')
  const [unusedAlone, setUnusedAlone] = useState(false)
  const uses = useUses(open)
  const files = site.files
    .map((file) => ({ file, path: names.files.get(file.id) ?? file.label }))
    .sort((a, b) => (a.path < b.path ? -1 : 1))
  const isUnused = ({ file, path }: (typeof files)[number]) =>
    uses !== null && !uses[file.id] && !isAskedForByName(path) && !mayBeProofOfOwner(path, file.sizeBytes)
  const unused = open ? files.filter(isUnused) : []
  const areMany = files.length > fewFiles
  // What cannot be seen and taken back leaves nothing out.
  const shown = areMany
    ? (unusedAlone && unused.length > 0 ? unused : files).filter(({ path }) =>
        path.toLowerCase().includes(sought.trim().toLowerCase()),
      )
    : files
  return (
    <section aria-label="Files" className="border-t border-rule">
      <div className="flex items-center gap-3 px-4">
        <h2 className="font-sans text-sm font-normal">
          <button
            type="button"
            aria-expanded={open}
            className="flex h-9 items-center gap-1.5"
            onClick={() => setOpen(!open)}
          >
            {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />} {count(files.length, 'file')}
          </button>
        </h2>
        <span className="ml-auto" />
        {store.may('manage') && (
          <Link
            to={`/sites/bring?into=${site.id}&under=${selected.id}`}
            className="link text-sm"
            aria-label={`Bring pages in, ${selected.id === site.homeId ? 'at the top level' : `under ${selected.label}`}`}
          >
            Bring pages in
          </Link>
        )}
        {store.may('write') && (
          <button type="button" className="link text-sm" onClick={() => input.current?.click()}>
            Add files
          </button>
        )}
        <input
          ref={input}
          type="file"
          multiple
          hidden
          aria-label="Files to add"
          onChange={(event) => {
            // The list is the field's own, and empty once the field is.
            bring([...(event.target.files ?? [])].map((file) => ({ path: file.name, file })))
            event.target.value = ''
            setOpen(true)
          }}
        />
      </div>
      <OnTheirWay />
      {open && (
        <label className="flex items-center gap-2 px-4 pb-1.5 text-sm text-quiet">
          <input
            type="checkbox"
            className="accent-lapis"
            defaultChecked={uploads.keepsPlace}
            onChange={(event) => {
              uploads.keepsPlace = event.target.checked
            }}
          />
          Keep where photos and films were taken
        </label>
      )}
      {open && areMany && (
        <div className="flex min-h-9 flex-wrap items-center gap-x-4 gap-y-1 px-4 pb-1.5 text-sm">
          <input
            type="search"
            aria-label="Only files with these letters"
            placeholder="Only those with…"
            className="field max-w-52"
            value={sought}
            maxLength={200}
            onChange={(event) => setSought(event.target.value)}
          />
          {unused.length > 0 && (
            <label className="flex items-center gap-2 text-quiet">
              <input
                type="checkbox"
                className="accent-lapis"
                checked={unusedAlone}
                onChange={(event) => setUnusedAlone(event.target.checked)}
              />
              only the {count(unused.length, 'file')} that nothing uses
            </label>
          )}
          {unusedAlone && unused.length > 0 && shown.length > 0 && store.may('write') && (
            <button
              type="button"
              className="link"
              onClick={() => store.ask({ kind: 'removeFiles', fileIds: shown.map(({ file }) => file.id) })}
            >
              Remove {shown.length === 1 ? 'it' : `all ${shown.length.toLocaleString('en')}`}
            </button>
          )}
        </div>
      )}
      {open && shown.length === 0 && files.length > 0 && (
        <p className="px-4 pb-2 text-sm text-quiet">No file has these letters in its path.</p>
      )}
      {open && shown.length > 0 && (
        <LongList
          label="The site’s files"
          count={shown.length}
          rowHeight={rowHeight}
          className="max-h-60 pb-1"
        >
          {(index) => {
            const one = shown[index]!
            const { file, path } = one
            return (
              <button
                type="button"
                aria-pressed={file.id === chosenId}
                className={`flex h-[30px] w-full items-center gap-4 px-4 text-left ${file.id === chosenId ? 'bg-lapis-wash' : 'hover:bg-vellum'}`}
                onClick={() => choose(file.id === chosenId ? null : file.id)}
              >
                <Path path={path} className="min-w-0 grow" />
                {isUnused(one) && <span className="shrink-0 text-sm text-ochre">not used</span>}
                <span className="w-16 shrink-0 text-right text-sm text-quiet">{size(file.sizeBytes)}</span>
              </button>
            )
          }}
        </LongList>
      )}
    </section>
  )
}
