import { languageName } from '#core/language'
import { publicAddressOf } from '#core/links'
import { datesOf } from '#core/naming'
import type { Output } from '#core/site'
import { useSite } from '../document/site-context'
import { useDraft, useKeptLine } from '../document/use-draft'
import { shownAddress } from '../parts/format'
import { LanguagePick } from '../parts/picks/language-pick'
import { Pick } from '../parts/picks/pick'
import { WritePick } from '../parts/picks/write-pick'
import { useMade } from './use-made'

/**
 * What is said once for all pages, as a sentence.
 * @param publicAddresses those of its destinations
 */
export function SiteSentence({ publicAddresses }: { publicAddresses: readonly string[] }) {
  const { site, store } = useSite()
  const { output } = site
  const write = (part: Partial<Output>) =>
    void store.change({ kind: 'setOutput', output: { ...output, ...part }, was: output })
  return (
    <p className="px-6 pt-3 pb-2 font-serif text-[18px] leading-[1.75]">
      Pages are written in{' '}
      <LanguagePick
        label="Language of the site"
        words={languageName(site.language)}
        value={site.language}
        onWrite={(value) => {
          const was = site.language
          if (value !== was) void store.change({ kind: 'setSetting', field: 'language', value, was })
        }}
      />{' '}
      and the tab shows <Setting field="titlePattern" name="Title pattern" />, for the home page{' '}
      <Setting field="homeTitlePattern" name="Home page’s title pattern" empty="the same" />. The site is
      called <Setting field="name" name="Name of the site" />, and visitors find it at{' '}
      <WritePick
        label="Address of the site"
        words={site.publicAddress === '' ? 'no address yet' : shownAddress(site.publicAddress)}
        value={site.publicAddress}
        offers={publicAddresses.filter((one) => one !== site.publicAddress)}
        hint="References of pages, feeds and sitemaps that begin with it are the site’s own: they are checked, and follow what they lead to."
        check={(typed) =>
          typed.trim() === '' || publicAddressOf(typed) !== null
            ? null
            : 'An address begins with https:// and names a host.'
        }
        onWrite={(value) => {
          const next = publicAddressOf(value) ?? ''
          const was = site.publicAddress
          if (next !== was)
            void store.change({ kind: 'setSetting', field: 'publicAddress', value: next, was })
        }}
        after="."
      />{' '}
      Lines are indented{' '}
      <Pick<Output['indent']>
        label="Indentation"
        value={output.indent}
        options={[
          { value: 'as-written', words: 'as each text is', hint: 'Nothing you write is moved' },
          { value: '2', words: 'by two spaces' },
          { value: '4', words: 'by four spaces' },
          { value: 'tab', words: 'by a tab' },
        ]}
        onPick={(indent) => write({ indent })}
        after=","
      />{' '}
      end with{' '}
      <Pick<Output['lineEnd']>
        label="Line ends"
        value={output.lineEnd}
        options={[
          { value: 'lf', words: 'a line feed', hint: 'LF: as nearly every host and editor has it' },
          { value: 'crlf', words: 'return and line feed', hint: 'CRLF: for old editors on Windows' },
        ]}
        onPick={(lineEnd) => write({ lineEnd })}
        after=","
      />{' '}
      links to a section name{' '}
      <Pick<NonNullable<Output['links']>>
        label="Links to sections"
        value={output.links ?? 'files'}
        options={[
          { value: 'files', words: 'its file', hint: 'birds/index.html: works from a disk, too' },
          { value: 'folders', words: 'its folder', hint: 'birds/: short, and the same when a host shows it' },
        ]}
        onPick={(links) => write({ links })}
        after=","
      />{' '}
      search engines are given{' '}
      <MadePick
        made="sitemap"
        label="List of pages for search engines"
        no={{ words: 'no list of pages', hint: 'They find what links lead to' }}
        yes={{
          words: 'a list of all pages',
          hint: 'sitemap.xml, named in robots.txt: all but trial and unlisted pages',
        }}
      />{' '}
      feed readers{' '}
      <MadePick
        made="feed"
        label="Feed of what is new"
        no={{ words: 'no feed', hint: 'Visitors look for what is new by themselves' }}
        yes={{
          words: 'a feed of what is new',
          hint: 'feed.xml: the newest pages of sections whose pages carry dates',
        }}
        lacking={datesOf(site).newest.length === 0 ? 'once pages carry dates' : undefined}
      />{' '}
      and comments{' '}
      <Pick
        label="Comments"
        value={output.comments ? 'yes' : 'no'}
        options={[
          { value: 'no', words: 'are left out', hint: 'Those you write yourself stay' },
          { value: 'yes', words: 'name the parts', hint: 'One before each slot and each menu' },
        ]}
        onPick={(comments) => write({ comments: comments === 'yes' })}
        after="."
      />
    </p>
  )
}

interface MadeChoice {
  readonly words: string
  readonly hint: string
}

/**
 * Whether a file is made of the whole site.
 * @param lacking what it has to wait for, beside the site's address
 */
function MadePick({
  made,
  label,
  no,
  yes,
  lacking,
}: {
  made: 'sitemap' | 'feed'
  label: string
  no: MadeChoice
  yes: MadeChoice
  lacking?: string
}) {
  const { site } = useSite()
  const { output } = site
  const set = useMade()
  const waits = site.publicAddress === '' ? 'once it has an address' : lacking
  return (
    <Pick
      label={label}
      value={output[made] ? 'yes' : 'no'}
      options={[
        { value: 'no', ...no },
        { value: 'yes', ...yes, words: waits ? `${yes.words}, ${waits}` : yes.words },
      ]}
      onPick={(wanted) => void set(made, wanted === 'yes')}
      after=","
    />
  )
}

type Field = 'titlePattern' | 'homeTitlePattern' | 'name'

/** A setting that is written in its place in the sentence. */
function Setting({ field, name, empty }: { field: Field; name: string; empty?: string }) {
  const { site, store } = useSite()
  const draft = useDraft(site[field])
  const value = draft.typed.trim()
  const isUsable = value !== '' || empty !== undefined
  const change =
    draft.isChanged && isUsable ? ({ kind: 'setSetting', field, value, was: draft.was ?? '' } as const) : null
  useKeptLine(field, change)
  const save = () => {
    if (change) store.change(change)
    else if (!isUsable) draft.reset()
  }
  return (
    <input
      aria-label={name}
      className="field-sizing-content max-w-80 min-w-8 border-b-2 border-lapis bg-transparent px-0.5 font-sans text-[15px] font-medium text-lapis placeholder:text-lapis placeholder:opacity-100 focus:bg-lapis-wash focus:outline-none"
      value={draft.typed}
      placeholder={empty}
      spellCheck={false}
      maxLength={200}
      onChange={(event) => draft.type(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') draft.reset()
      }}
    />
  )
}
