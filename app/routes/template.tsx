import { useEffect, useState } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'
import { Tabs } from 'radix-ui'
import { useSelection, useSite } from '../document/site-context'
import { useDraft } from '../document/use-draft'
import { useWrittenText } from '../document/use-written-text'
import { requireSite } from '../owner.server'
import { CodeEditor } from '../parts/code-editor'
import { WrittenTextEditor } from '../parts/written-text'
import type { Route } from './+types/template'

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId)
  return null
}

export default function TemplateView() {
  const { site } = useSite()
  const styles = site.files.filter((file) => file.kind === 'style')
  return (
    <Tabs.Root defaultValue="template" className="grid h-full min-h-0 grid-rows-[auto_auto_1fr]">
      <Skeleton />
      <Tabs.List aria-label="What is written" className="flex gap-5 border-b border-rule px-6">
        {[
          { id: 'template', title: 'Shared template' },
          ...styles.map((file) => ({ id: file.id, title: file.label })),
        ].map(({ id, title }) => (
          <Tabs.Trigger
            key={id}
            value={id}
            className="border-b-3 border-transparent pt-1 pb-1.5 text-quiet data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
          >
            {title}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Group orientation="horizontal" className="min-h-0">
        <Panel defaultSize="54%" minSize={200}>
          <Tabs.Content value="template" className="h-full min-h-0" tabIndex={-1}>
            <TemplateSource />
          </Tabs.Content>
          {styles.map((file) => (
            <Tabs.Content key={file.id} value={file.id} className="h-full min-h-0" tabIndex={-1}>
              <StyleSource fileId={file.id} />
            </Tabs.Content>
          ))}
        </Panel>
        <Separator aria-label="Width of the source" className="w-px bg-rule hover:bg-lapis" />
        <Panel minSize={200}>
          <Result />
        </Panel>
      </Group>
    </Tabs.Root>
  )
}

/** What is said once for all pages, as a sentence. */
function Skeleton() {
  return (
    <p className="px-6 pt-3 pb-2 font-serif text-[18px] leading-[1.9]">
      Pages are written in <Setting field="language" name="Language of the site" /> and the tab shows{' '}
      <Setting field="titlePattern" name="Title pattern" />. The site is called{' '}
      <Setting field="name" name="Name of the site" />.
    </p>
  )
}

function Setting({ field, name }: { field: 'language' | 'titlePattern' | 'name'; name: string }) {
  const { site, store } = useSite()
  const draft = useDraft(site[field])
  const save = () => {
    if (!draft.isChanged) return
    const value = draft.typed.trim()
    if (value === '') draft.reset()
    else store.change({ kind: 'setSetting', field, value, was: draft.was ?? '' })
  }
  return (
    <input
      aria-label={name}
      className="field-sizing-content max-w-80 min-w-8 border-b-2 border-lapis bg-transparent px-0.5 font-sans text-[15px] font-medium text-lapis focus:bg-lapis-wash focus:outline-none"
      value={draft.typed}
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

function TemplateSource() {
  const { site, store } = useSite()
  const template = site.templates[0]!
  const written = useWrittenText(
    site.id,
    template.source,
    (text, was) => savedOf(store.change({ kind: 'writeTemplate', templateId: template.id, text, was })),
    () => store.get().site.templates.find((one) => one.id === template.id)?.source ?? '',
  )
  return <WrittenTextEditor name="Source of the shared template" language="html" written={written} />
}

function StyleSource({ fileId }: { fileId: string }) {
  const { site, store } = useSite()
  const file = site.files.find((one) => one.id === fileId)!
  const written = useWrittenText(
    site.id,
    file.hash,
    (text, was) => savedOf(store.change({ kind: 'writeFile', fileId, text, was })),
    () => store.get().site.files.find((one) => one.id === fileId)?.hash ?? '',
  )
  return <WrittenTextEditor name={`Source of ${file.label}`} language="css" written={written} />
}

const savedOf = (made: { saved: Promise<boolean> } | { refusal: unknown }) =>
  'saved' in made ? made.saved : Promise.resolve(false)

/** The finished HTML of the chosen page, following every save. */
function Result() {
  const { site, names, revision } = useSite()
  const { selected } = useSelection()
  const [result, setResult] = useState<{ pageId: string; html: string } | null>(null)
  useEffect(() => {
    const abort = new AbortController()
    fetch(`/sites/${site.id}/results/${selected.id}`, { signal: abort.signal })
      .then((response) => (response.ok ? response.text() : null))
      .then((html) => html !== null && setResult({ pageId: selected.id, html }))
      .catch(() => {})
    return () => abort.abort()
  }, [site.id, selected.id, revision])
  return (
    <section
      className="grid h-full min-h-0 grid-rows-[auto_1fr] bg-vellum"
      aria-label="The page that results"
    >
      <h2 className="truncate px-4 pt-2.5 pb-1.5 font-sans text-sm font-normal text-quiet">
        The page that results:{' '}
        <span className="font-mono text-[13px] text-ink">{names.pages.get(selected.id)?.path}</span>
      </h2>
      {result?.pageId === selected.id ? (
        <CodeEditor name="HTML of the page that results" language="html" value={result.html} />
      ) : (
        <p className="px-4 py-3 text-quiet">Making the page…</p>
      )}
    </section>
  )
}
