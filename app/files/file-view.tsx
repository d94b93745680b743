import { isAskedForByName } from '#core/links'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { fileTitle, ownPathOf } from '#core/naming'
import { playedAs, type RecordingKind } from '#core/pictures'
import type { FileKind, SiteFile } from '#core/site'
import { useSelection, useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { count, size } from '../parts/format'
import { Path } from '../parts/path'
import { fileAddress } from './file-address'
import { useFiles } from './files-context'
import { useUses } from './use-uses'

const playedWords = { video: 'A film', audio: 'A sound' } as const
const kindWords: Readonly<Record<FileKind, string>> = {
  image: 'A picture',
  style: 'A style sheet',
  script: 'A script',
  document: 'A document',
  other: 'A file',
}

/** A chosen file on the right: what it shows, what it is called, where it is used. */
export function FileView({ file }: { file: SiteFile }) {
  const { site, names, tree, store } = useSite()
  const { select } = useSelection()
  const { uploads, choose } = useFiles()
  const replacement = useRef<HTMLInputElement>(null)
  const all = useUses()
  const uses = all && (all[file.id] ?? [])
  const path = names.files.get(file.id) ?? file.label
  const address = fileAddress(site.id, file.id)
  const recording = playedAs(file.label)
  return (
    <div className="h-full overflow-auto px-7 pt-6 pb-8">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="min-w-0 truncate text-[26px]">{fileTitle(file.label)}</h2>
        <Button look="quiet" onClick={() => choose(null)}>
          Close
        </Button>
      </div>
      <Path path={path} className="text-quiet" />
      <p className="mt-2 text-quiet">
        {recording ? playedWords[recording] : kindWords[file.kind]}, {size(file.sizeBytes)}
      </p>
      {file.kind === 'image' && (
        <Picture key={file.hash} address={address} label={fileTitle(file.label)} hash={file.hash} />
      )}
      {recording && <Recording key={file.hash} as={recording} file={file} address={address} />}
      <Name key={file.label} file={file} />
      <h3 className="mt-6 mb-1.5 text-[19px]">Where it is used</h3>
      {uses === null ? (
        <p className="text-quiet">Looking…</p>
      ) : uses.length === 0 ? (
        <p className="text-quiet">
          {isAskedForByName(path)
            ? 'Nothing here refers to it; hosts, browsers or search engines ask for it by its name.'
            : 'Nowhere: no page, template, style sheet or script refers to it.'}
        </p>
      ) : (
        <ul className="border-t border-rule">
          {uses.map((use) => (
            <li key={use.id} className="flex gap-4 border-b border-rule py-2">
              {use.kind === 'page' ? (
                <Link
                  className="link"
                  to={{ pathname: `/sites/${site.id}/pages`, search: `?page=${use.id}` }}
                  onClick={() => {
                    select(use.id)
                    choose(null)
                  }}
                >
                  {tree.byId.get(use.id)?.label}
                </Link>
              ) : use.kind === 'template' ? (
                <span>{site.templates.find(({ id }) => id === use.id)?.name}</span>
              ) : (
                <span>{site.files.find(({ id }) => id === use.id)?.label}</span>
              )}
              {use.isByName && (
                <span className="text-quiet">names it; that is not changed when this file is renamed</span>
              )}
              {use.count > 1 && <span className="text-quiet">{count(use.count, 'time')}</span>}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-6 flex flex-wrap gap-3">
        <a
          className="rounded-[5px] border border-rule px-3.5 py-2 font-medium hover:bg-vellum"
          href={address}
          download={path.slice(path.lastIndexOf('/') + 1)}
        >
          Save a copy
        </a>
        <Button onClick={() => replacement.current?.click()}>Replace it</Button>
        <input
          ref={replacement}
          type="file"
          hidden
          aria-label={`File in the place of ${file.label}`}
          onChange={(event) => {
            const [chosen] = event.target.files ?? []
            if (chosen)
              void uploads
                .shown(chosen)
                .then((made) => made && uploads.send(made, made.name, { replaces: file.id }))
            event.target.value = ''
          }}
        />
        <Button look="remove" onClick={() => store.ask({ kind: 'removeFiles', fileIds: [file.id] })}>
          Remove it
        </Button>
      </div>
    </div>
  )
}

function Recording({ as: Tag, file, address }: { as: RecordingKind; file: SiteFile; address: string }) {
  const [isPlayed, setPlayed] = useState(true)
  return isPlayed ? (
    <Tag
      controls
      preload="metadata"
      src={`${address}?${file.hash.slice(0, 8)}`}
      aria-label={`The recording ${fileTitle(file.label)}`}
      className="mt-4 max-h-96 max-w-full"
      onError={() => setPlayed(false)}
    />
  ) : (
    <p className="mt-4 text-ochre">This browser cannot play it, and those of visitors may not either.</p>
  )
}

function Picture({ address, label, hash }: { address: string; label: string; hash: string }) {
  const [dimensions, setDimensions] = useState<string | null>(null)
  return (
    <figure className="mt-4">
      <img
        // Its address stays while what is in it changes.
        src={`${address}?${hash.slice(0, 8)}`}
        alt={`The picture ${label}`}
        className="max-h-96 max-w-full border border-rule bg-white object-contain"
        onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) =>
          setDimensions(`${naturalWidth} × ${naturalHeight} pixels`)
        }
        onError={() => setDimensions('No browser can show this as a picture.')}
      />
      <figcaption className="mt-1 text-sm text-quiet">{dimensions}</figcaption>
    </figure>
  )
}

/** What it is called; its name follows by the scheme. */
function Name({ file }: { file: SiteFile }) {
  const { store } = useSite()
  const [typed, setTyped] = useState(file.label)
  const save = () => {
    if (typed.trim() === '' || typed === file.label) return setTyped(file.label)
    const made = store.change({ kind: 'renameFile', fileId: file.id, label: typed, was: file.label })
    if ('refusal' in made) setTyped(file.label)
  }
  return (
    <label className="mt-4 block max-w-md text-sm text-quiet">
      It is called
      <input
        className="field text-[15px] text-ink"
        value={typed}
        maxLength={300}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === 'Enter') save()
          if (event.key === 'Escape') setTyped(file.label)
        }}
      />
      {ownPathOf(typed) === null
        ? 'Its path follows from this by the scheme. One that begins with / is a path from the top, and stays.'
        : 'A path from the top of the site: no scheme moves it from there.'}
    </label>
  )
}
