import { Suspense } from 'react'
import type { Template } from '#core/site'
import type { GivenText } from '../document/use-text'
import { useSite } from '../document/site-context'
import { useSiteWords } from '../document/use-site-words'
import { useWrittenText } from '../document/use-written-text'
import { WrittenTextEditor } from '../parts/editor/written-text'
import { Pick } from '../parts/picks/pick'
import { WritePick } from '../parts/picks/write-pick'
import { VersionsDialog } from '../versions/versions-dialog'
import { lazily } from '../parts/fetched'

// It reads the source with the whole parser, which nothing else here needs.
const SkeletonSentence = lazily(() =>
  import('./skeleton-sentence').then((module) => ({ default: module.SkeletonSentence })),
)
const PartsSentence = lazily(() =>
  import('./parts-sentence').then((module) => ({ default: module.PartsSentence })),
)
const whole = 'whole'

/** One template: what it is, what its skeleton says, and its source. */
export function TemplatePane({
  template,
  given,
  reveal,
  onLead,
}: {
  template: Template
  given: GivenText | null
  reveal: { readonly line: number } | null
  /** Leads to a line of its source. */
  onLead: (line: number) => void
}) {
  const written = useWrittenText({ kind: 'template', id: template.id }, template.source, given)
  const words = useSiteWords('')
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr]">
      <div className="max-h-56 overflow-auto border-b border-rule px-6 pt-2 pb-2.5">
        <p className="font-serif text-[16px] leading-[1.7]">
          <Identity template={template} />{' '}
          <Suspense fallback={template.basedOn === null && <RoomForSentence />}>
            <SkeletonSentence written={written} /> <PartsSentence written={written} onLead={onLead} />
          </Suspense>
        </p>
        <p className="mt-1 flex flex-wrap gap-x-5 whitespace-nowrap">
          <VersionsDialog
            key={template.id}
            textKey={{ kind: 'template', id: template.id }}
            name={`the template “${template.name}”`}
          />
          <Fate template={template} />
        </p>
      </div>
      <WrittenTextEditor
        name={`Source of ${template.name}`}
        language="html"
        written={written}
        words={words}
        reveal={reveal}
        checkedAs="template"
      />
    </div>
  )
}

/** Keeps the room of what most templates say until it can be read: the source would go down under whoever writes in it. */
function RoomForSentence() {
  return (
    <span aria-hidden className="invisible">
      It begins with the charset UTF-8, fits phones, states each page’s description, no address and no author.
      Style sheets: site.css; scripts: none; icon: none. Of the plan it makes a menu of the site, the way to
      the page and the pages below. <span className="pick">Put in a menu or list</span>
    </span>
  )
}

/** Its name, and what it is based on. */
function Identity({ template }: { template: Template }) {
  const { site, store } = useSite()
  const { id: templateId, name, basedOn } = template
  const set = (field: 'name' | 'basedOn', value: string | null) =>
    void store.change({ kind: 'setTemplateField', templateId, field, value, was: template[field] })
  return (
    <>
      <WritePick
        label="Name of the template"
        words={name}
        value={name}
        check={(typed) =>
          typed.trim() === ''
            ? 'A template needs a name.'
            : site.templates.some((one) => one.id !== templateId && one.name === typed.trim())
              ? 'There is a template of this name.'
              : null
        }
        onWrite={(typed) => set('name', typed)}
      />{' '}
      is{' '}
      <Pick
        label="What it is based on"
        value={basedOn ?? whole}
        options={[
          { value: whole, words: 'a whole document' },
          ...site.templates
            .filter((one) => one.id !== templateId)
            .map((one) => ({
              value: one.id,
              words: `based on ${one.name}`,
              hint: 'It fills that one’s slots',
            })),
        ]}
        onPick={(id) => set('basedOn', id === whole ? null : id)}
        after="."
      />
    </>
  )
}

/** Where it is used when nothing else is said, or the ways to use it there and to be rid of it. */
function Fate({ template }: { template: Template }) {
  const { site, store } = useSite()
  const { templateId: was } = site
  if (was === template.id)
    return <span className="text-sm text-quiet">Pages are made with it where nothing else is said</span>
  return (
    <>
      <button
        type="button"
        className="link text-sm"
        onClick={() =>
          void store.change({ kind: 'setSetting', field: 'templateId', value: template.id, was })
        }
      >
        Use it where nothing else is said
      </button>
      <button
        type="button"
        className="link text-sm"
        onClick={() => void store.change({ kind: 'removeTemplate', templateId: template.id })}
      >
        Remove it
      </button>
    </>
  )
}
