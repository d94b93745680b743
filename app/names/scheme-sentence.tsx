import type { NamingStep } from '#core/naming'
import { defaultScheme, type FileKind, type Scheme } from '#core/site'
import { Pick } from '../parts/picks/pick'
import { WritePick } from '../parts/picks/write-pick'

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

const folderName = /^[A-Za-z0-9_-]{1,60}$/
const checkFolder = (typed: string) =>
  folderName.test(typed) ? null : 'Letters, digits, hyphen and underscore only.'
const wordsOf = (typed: string) => [
  ...new Set(
    typed
      .toLowerCase()
      .split(/[\s,;]+/u)
      .filter(Boolean),
  ),
]
const kinds: readonly (readonly [FileKind, string])[] = [
  ['image', 'images'],
  ['style', 'style sheets'],
  ['script', 'scripts'],
  ['document', 'documents'],
  ['other', 'other files'],
]

/** `information = info`, a line each. */
function readShortForms(typed: string): { forms: Scheme['shortForms'] } | { problem: string } {
  const forms: { word: string; short: string }[] = []
  for (const line of typed.split('\n')) {
    if (line.trim() === '') continue
    const match = /^\s*([\p{L}\p{N}]+)\s*(?:=|→|->)\s*([\p{L}\p{N}]+)\s*$/u.exec(line)
    if (!match) return { problem: `“${line.trim()}” is not of the form word = short.` }
    forms.push({ word: match[1]!.toLowerCase(), short: match[2]!.toLowerCase() })
  }
  return { forms }
}

interface Props {
  readonly scheme: Scheme
  readonly onChange: (part: Partial<Scheme>) => void
  /** The rule whose words are open, asked for from elsewhere. */
  readonly openRule: NamingStep['rule'] | null
  readonly onOpenRule: (rule: NamingStep['rule'] | null) => void
}

/** The scheme as sentences whose underlined words are its settings. */
export function SchemeSentence({ scheme, onChange, openRule, onOpenRule }: Props) {
  const opener = (rule: NamingStep['rule']) => ({
    open: openRule === rule,
    onOpenChange: (open: boolean) => onOpenRule(open ? rule : null),
  })
  const { arrangement } = scheme
  return (
    <div className="font-serif text-[20px] leading-[1.95]">
      <p>
        Write names in{' '}
        <Pick
          label="Letter case"
          value={scheme.letterCase}
          options={[
            { value: 'lower', words: 'lower case', hint: 'Safe on every host' },
            { value: 'as-typed', words: 'the case as typed' },
          ]}
          onPick={(letterCase) => onChange({ letterCase })}
          {...opener('case')}
          after=","
        />{' '}
        join words with{' '}
        <Pick
          label="Word gap"
          value={scheme.gap === '' ? 'none' : scheme.gap}
          options={[
            { value: '-', words: 'a hyphen' },
            { value: '_', words: 'an underscore' },
            { value: 'none', words: 'nothing' },
          ]}
          onPick={(gap) => onChange({ gap: gap === 'none' ? '' : gap })}
          {...opener('gap')}
          after=","
        />{' '}
        write other letters{' '}
        <Pick
          label="Letters outside ASCII"
          value={scheme.letters}
          options={[
            { value: 'ascii', words: 'in plain ASCII', hint: 'é as e; safe on every host' },
            { value: 'kept', words: 'as they are', hint: 'Shown percent-encoded by some programs' },
          ]}
          onPick={(letters) => onChange({ letters })}
          {...opener('letters')}
          after=","
        />{' '}
        leave out{' '}
        <WritePick
          label="Words left out"
          words={
            scheme.leaveOut.length === 0
              ? 'no words'
              : scheme.leaveOut.length > 6
                ? `${scheme.leaveOut.length} words`
                : scheme.leaveOut.join(', ')
          }
          value={scheme.leaveOut.join(', ')}
          hint="Apart by commas or spaces, such as a, an, and, of, the."
          onWrite={(typed) => onChange({ leaveOut: wordsOf(typed) })}
          {...opener('leaveOut')}
          after=","
        />{' '}
        use{' '}
        <WritePick
          label="Short forms"
          words={
            scheme.shortForms.length === 0
              ? 'no short forms'
              : scheme.shortForms.length === 1
                ? `${scheme.shortForms[0]!.short} for ${scheme.shortForms[0]!.word}`
                : `${scheme.shortForms.length} short forms`
          }
          value={scheme.shortForms.map(({ word, short }) => `${word} = ${short}`).join('\n')}
          multiline
          hint="A line each, such as information = info."
          check={(typed) => {
            const read = readShortForms(typed)
            return 'problem' in read ? read.problem : null
          }}
          onWrite={(typed) => {
            const read = readShortForms(typed)
            if ('forms' in read) onChange({ shortForms: read.forms })
          }}
          {...opener('shortForms')}
          after=","
        />{' '}
        stop at{' '}
        <WritePick
          label="Longest name"
          words={`${scheme.longest} letters`}
          value={String(scheme.longest)}
          hint={`Letters without the extension, 3 to 100. All kinds of hosts keep ${defaultScheme.longest}.`}
          check={(typed) =>
            /^\d+$/.test(typed) && Number(typed) >= 3 && Number(typed) <= 100
              ? null
              : 'A number from 3 to 100.'
          }
          onWrite={(typed) => onChange({ longest: Number(typed) })}
          {...opener('longest')}
          after=","
        />{' '}
        begin with{' '}
        <Pick
          label="Numbers"
          value={scheme.numbered ? 'numbered' : 'plain'}
          options={[
            { value: 'plain', words: 'the name itself' },
            {
              value: 'numbered',
              words: 'a number in plan order',
              hint: 'A page added later renumbers those after it',
            },
          ]}
          onPick={(value) => onChange({ numbered: value === 'numbered' })}
          {...opener('number')}
          after=","
        />{' '}
        and end files in{' '}
        <Pick
          label="Extension"
          value={scheme.extension}
          options={[
            { value: '.html', words: '.html' },
            { value: '.htm', words: '.htm' },
          ]}
          onPick={(extension) => onChange({ extension })}
          after="."
        />
      </p>
      <p>
        Keep{' '}
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
          {...opener('folder')}
          after={arrangement.kind === 'one-folder' ? '' : ','}
        />
        {arrangement.kind === 'one-folder' && (
          <>
            {' '}
            called{' '}
            <WritePick
              label="Folder of the pages"
              words={arrangement.folder}
              value={arrangement.folder}
              check={checkFolder}
              onWrite={(folder) => onChange({ arrangement: { kind: 'one-folder', folder } })}
              after=","
            />
          </>
        )}{' '}
        call the home file of a folder{' '}
        <WritePick
          label="Home name"
          words={scheme.homeName}
          value={scheme.homeName}
          hint="Nearly every server looks for index."
          check={checkFolder}
          onWrite={(homeName) => onChange({ homeName })}
          {...opener('home')}
          after=","
        />{' '}
        and put{' '}
        {kinds.map(([kind, name], index) => (
          <span key={kind}>
            {index > 0 && (index === kinds.length - 1 ? ' and ' : ' ')}
            {name} in{' '}
            <WritePick
              label={`Folder for ${name}`}
              words={scheme.folders[kind] || 'the top folder'}
              value={scheme.folders[kind]}
              hint="Empty means the top folder of the site."
              check={(typed) => (typed === '' ? null : checkFolder(typed))}
              onWrite={(folder) => onChange({ folders: { ...scheme.folders, [kind]: folder } })}
              after={index === kinds.length - 1 ? '.' : index < kinds.length - 2 ? ',' : ''}
            />
          </span>
        ))}
      </p>
    </div>
  )
}
