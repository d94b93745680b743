import { type ReactNode, useEffect, useMemo, useState } from 'react'
import type { Ripple } from '#core/change'
import { explainName, namesOf, type NamingStep } from '#core/naming'
import { type Scheme } from '#core/site'
import { useProposal } from '../document/proposal'
import { useSelection, useSite } from '../document/site-context'
import { requireSite } from '../owner.server'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { Pick } from '../parts/pick'
import type { Route } from './+types/names'

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId)
  return null
}

export default function NamesView() {
  const { site } = useSite()
  const { scheme, propose } = useProposal()
  useEffect(() => () => propose(null), [propose])
  const shown = scheme ?? site.scheme
  const change = (part: Partial<Scheme>) => {
    const next = { ...shown, ...part }
    propose(JSON.stringify(next) === JSON.stringify(site.scheme) ? null : next)
  }
  return (
    <div className="grid h-full min-h-0 grid-rows-[1fr_auto]">
      <div className="min-h-0 overflow-auto px-7 pt-6 pb-6">
        <h2 className="mb-2 text-[26px]">Naming scheme</h2>
        <SchemeSentence scheme={shown} onChange={change} />
        <NameLadder scheme={shown} />
      </div>
      {scheme ? <SchemeRipple scheme={scheme} onEnd={() => propose(null)} /> : <span />}
    </div>
  )
}

type ArrangementKey = 'together' | 'sections-inside' | 'sections-beside' | 'one-folder' | 'folder-a-page'

const arrangementKey = ({ arrangement }: Scheme): ArrangementKey =>
  arrangement.kind === 'sections' ? `sections-${arrangement.sectionPage}` : arrangement.kind

const arrangementOf: Record<ArrangementKey, Scheme['arrangement']> = {
  together: { kind: 'together' },
  'sections-inside': { kind: 'sections', sectionPage: 'inside' },
  'sections-beside': { kind: 'sections', sectionPage: 'beside' },
  'one-folder': { kind: 'one-folder', folder: 'pages' },
  'folder-a-page': { kind: 'folder-a-page' },
}

/** The scheme as one sentence whose underlined words are its settings. */
function SchemeSentence({ scheme, onChange }: { scheme: Scheme; onChange: (part: Partial<Scheme>) => void }) {
  const lengths = [24, 40, 60, 80]
  return (
    <p className="font-serif text-[20px] leading-[1.95]">
      Write names in{' '}
      <Pick
        label="Letter case"
        value={scheme.letterCase}
        options={[
          { value: 'lower', words: 'lower case', hint: 'Safe on every host' },
          { value: 'as-typed', words: 'the case as typed' },
        ]}
        onPick={(letterCase) => onChange({ letterCase })}
      />
      , join words with{' '}
      <Pick
        label="Word gap"
        value={scheme.gap === '' ? 'none' : scheme.gap}
        options={[
          { value: '-', words: 'a hyphen' },
          { value: '_', words: 'an underscore' },
          { value: 'none', words: 'nothing' },
        ]}
        onPick={(gap) => onChange({ gap: gap === 'none' ? '' : gap })}
      />
      , write other letters{' '}
      <Pick
        label="Letters outside ASCII"
        value={scheme.letters}
        options={[
          { value: 'ascii', words: 'in plain ASCII', hint: 'é as e; safe on every host' },
          { value: 'kept', words: 'as they are', hint: 'Shown percent-encoded by some programs' },
        ]}
        onPick={(letters) => onChange({ letters })}
      />
      , leave out <LeaveOut scheme={scheme} onChange={onChange} />, stop at{' '}
      <Pick
        label="Longest name"
        value={String(scheme.longest)}
        options={[...new Set([...lengths, scheme.longest])]
          .sort((a, b) => a - b)
          .map((length) => ({ value: String(length), words: `${length} letters` }))}
        onPick={(longest) => onChange({ longest: Number(longest) })}
      />
      , and end files in{' '}
      <Pick
        label="Extension"
        value={scheme.extension}
        options={[
          { value: '.html', words: '.html' },
          { value: '.htm', words: '.htm' },
        ]}
        onPick={(extension) => onChange({ extension })}
      />
      . Keep{' '}
      <Pick
        label="Arrangement"
        value={arrangementKey(scheme)}
        options={[
          { value: 'together', words: 'all pages together', hint: 'visit.html, tides.html' },
          {
            value: 'sections-inside',
            words: 'each section in its own folder',
            hint: 'visit/index.html, visit/tides.html',
          },
          {
            value: 'sections-beside',
            words: 'each section’s pages in a folder beside it',
            hint: 'visit.html, visit/tides.html',
          },
          {
            value: 'one-folder',
            words: 'all but the home page in one folder',
            hint: 'pages/visit.html, pages/tides.html',
          },
          {
            value: 'folder-a-page',
            words: 'each page in a folder of its own',
            hint: 'visit/tides/index.html; addresses end in /',
          },
        ]}
        onPick={(key) => onChange({ arrangement: arrangementOf[key] })}
      />
      , and call the home file of a folder{' '}
      <Pick
        label="Home name"
        value={scheme.homeName}
        options={[...new Set(['index', 'default', scheme.homeName])].map((name) => ({
          value: name,
          words: name,
          hint: name === 'index' ? 'What nearly every server looks for' : undefined,
        }))}
        onPick={(homeName) => onChange({ homeName })}
      />
      .
    </p>
  )
}

const leaveOutChoices: Record<string, readonly string[]> = {
  none: [],
  articles: ['a', 'an', 'the'],
  small: ['a', 'an', 'and', 'of', 'the'],
}

function LeaveOut({ scheme, onChange }: { scheme: Scheme; onChange: (part: Partial<Scheme>) => void }) {
  const current =
    Object.entries(leaveOutChoices).find(([, words]) => words.join() === scheme.leaveOut.join())?.[0] ?? 'own'
  return (
    <Pick
      label="Words left out"
      value={current}
      options={[
        { value: 'none', words: 'no words' },
        { value: 'articles', words: 'a, an, the' },
        { value: 'small', words: 'a, an, and, of, the' },
        ...(current === 'own' ? [{ value: 'own', words: scheme.leaveOut.join(', ') }] : []),
      ]}
      onPick={(key) => leaveOutChoices[key] && onChange({ leaveOut: leaveOutChoices[key] })}
    />
  )
}

const stepWords: Record<NamingStep['rule'], string> = {
  label: 'The page is called',
  date: 'its date in front',
  number: 'its number in front',
  letters: 'letters spelled out',
  case: 'lower case',
  punctuation: 'punctuation',
  leaveOut: 'words left out',
  shortForms: 'short forms',
  gap: 'words joined',
  longest: 'cut to length',
  'nothing-left': 'nothing left, so',
  reserved: 'not a reserved name',
  'own-name': 'its author named it',
  'kept-name': 'kept from before',
  home: 'it is the home page',
  clash: 'the name was taken',
  folder: 'in its folder',
  trial: 'a trial page, for the preview only',
}

/** How the chosen page's name came about, each step with what it changed. */
function NameLadder({ scheme }: { scheme: Scheme }) {
  const { site } = useSite()
  const { selected } = useSelection()
  const steps = useMemo(() => explainName({ ...site, scheme }, selected.id), [site, scheme, selected.id])
  const words = (rule: NamingStep['rule']) =>
    rule === 'gap'
      ? `joined with ${scheme.gap === '-' ? 'a hyphen' : scheme.gap === '_' ? 'an underscore' : 'nothing'}`
      : stepWords[rule]
  return (
    <section aria-label="How this name came about">
      <h3 className="mt-6 mb-2 text-[19px]">How this name came about</h3>
      <dl className="grid grid-cols-[minmax(8rem,11rem)_1fr] gap-y-1.5 text-sm">
        {steps.map((step, index) => (
          <div key={index} className="contents">
            <dt className="text-quiet">{words(step.rule)}</dt>
            <dd className="min-w-0 font-mono text-[14px] break-words whitespace-pre-wrap">
              <Changed before={index === 0 ? null : steps[index - 1]!.text} after={step.text} />
            </dd>
          </div>
        ))}
      </dl>
    </section>
  )
}

/** A text with the signs that were not there before marked. */
function Changed({ before, after }: { before: string | null; after: string }): ReactNode {
  if (before === null || before === after) return after
  return addedRuns(Array.from(before), Array.from(after)).map((run, index) =>
    run.added ? <Mark key={index}>{run.text}</Mark> : run.text,
  )
}

/** The longest common subsequence decides what stayed; labels are short, so the plain table will do. */
function addedRuns(a: readonly string[], b: readonly string[]): { text: string; added: boolean }[] {
  if (a.length * b.length > 250_000) return [{ text: b.join(''), added: false }]
  const width = b.length + 1
  const longest = new Uint16Array((a.length + 1) * width)
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      longest[i * width + j] =
        a[i] === b[j]
          ? longest[(i + 1) * width + j + 1]! + 1
          : Math.max(longest[(i + 1) * width + j]!, longest[i * width + j + 1]!)
  const runs: { text: string; added: boolean }[] = []
  const push = (text: string, added: boolean) => {
    const last = runs[runs.length - 1]
    if (last?.added === added) last.text += text
    else runs.push({ text, added })
  }
  for (let i = 0, j = 0; j < b.length;) {
    if (a[i] === b[j]) {
      push(b[j]!, false)
      i++
      j++
    } else if (i < a.length && longest[(i + 1) * width + j]! >= longest[i * width + j + 1]!) i++
    else push(b[j++]!, true)
  }
  return runs
}

const Mark = ({ children }: { children: ReactNode }) => (
  <mark className="rounded-xs bg-lapis-wash text-lapis">{children}</mark>
)

/** All that the proposed scheme would touch, and the choice. */
function SchemeRipple({ scheme, onEnd }: { scheme: Scheme; onEnd: () => void }) {
  const { site, store, revision } = useSite()
  const [ripple, setRipple] = useState<Ripple | null>(null)
  const renamed = useMemo(() => {
    const now = namesOf(site)
    const then = namesOf({ ...site, scheme, pages: site.pages.map((page) => ({ ...page, keptName: null })) })
    return [...now.pages].filter(([id, { path }]) => then.pages.get(id)?.path !== path).length
  }, [site, scheme])
  useEffect(() => {
    const abort = new AbortController()
    fetch(`/sites/${site.id}/ripple`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ kind: 'setScheme', scheme, was: site.scheme }),
      signal: abort.signal,
    })
      .then((response) => (response.ok ? response.json() : null))
      .then((found: Ripple | null) => setRipple(found))
      .catch(() => {})
    return () => abort.abort()
    // The site's scheme and texts are those of its revision.
  }, [site.id, site.scheme, scheme, revision])
  return (
    <div className="border-t border-rule bg-vellum px-7 py-3.5">
      <p className="mb-2.5">
        <b className="font-semibold">Ripple.</b> {count(renamed, 'page')} {renamed === 1 ? 'gets' : 'get'} a
        new file name
        {ripple && `, ${count(ripple.linkCount, 'link')} ${ripple.linkCount === 1 ? 'is' : 'are'} rewritten`}.
      </p>
      <div className="flex flex-wrap gap-3">
        <Button
          look="go"
          onClick={() => {
            if (!('refusal' in store.change({ kind: 'setScheme', scheme, was: site.scheme }))) onEnd()
          }}
        >
          Use this scheme
        </Button>
        <Button onClick={onEnd}>Keep the old one</Button>
      </div>
    </div>
  )
}
