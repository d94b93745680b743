import { useState } from 'react'
import { type FoundPlace, readHostLetter } from '#core/delivery'

const foundWords: Readonly<Record<keyof FoundPlace, string>> = {
  protocol: 'protocol',
  host: 'host',
  port: 'port',
  account: 'account',
  password: 'password',
  folder: 'folder',
  publicAddress: 'public address',
}

/** What the host wrote, from which the fields below are filled. */
export function HostLetter({ onFound }: { onFound: (found: FoundPlace) => void }) {
  const [found, setFound] = useState<FoundPlace | null>(null)
  const names = Object.entries(foundWords)
  const said = found ? names.filter(([name]) => name in found).map(([, words]) => words) : []
  const open = found ? names.filter(([name]) => !(name in found)).map(([, words]) => words) : []
  return (
    <div className="mb-5 max-w-2xl">
      <label className="block">
        <span className="text-quiet">
          What your host wrote, or an address such as sftp://account@host/folder
        </span>
        <textarea
          className="field min-h-16 text-sm"
          rows={2}
          placeholder="Paste the letter here; the fields below are filled from it."
          spellCheck={false}
          onChange={(event) => {
            const next = readHostLetter(event.target.value)
            setFound(event.target.value.trim() === '' ? null : next)
            onFound(next)
          }}
        />
      </label>
      <span role="status" className="block min-h-5 text-sm text-quiet">
        {found && said.length === 0 && 'Nothing of a host was found in this.'}
        {said.length > 0 &&
          `Found: ${said.join(', ')}. ${open.length > 0 ? `Not said: ${open.join(', ')}.` : ''}`}
      </span>
    </div>
  )
}
