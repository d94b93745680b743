import { useEffect, useState } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'
import { Tabs } from 'radix-ui'
import { getTexts } from '#server/contents'
import { pool } from '#server/platform'
import type { GivenText } from '../document/use-text'
import { useSelection, useSite } from '../document/site-context'
import { useDraft, useKeptLine } from '../document/use-draft'
import { useLinkTargets } from '../document/use-link-targets'
import { useWrittenText } from '../document/use-written-text'
import { requireSite } from '../owner.server'
import { CodeEditor, fetchEditor } from '../parts/editor/lazy-editor'
import { WrittenTextEditor } from '../parts/editor/written-text'
import { VersionsDialog } from '../versions/versions-dialog'
import { loadOrLatest } from '../parts/unless-offline'
import type { Route } from './+types/template'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId)
  const { source } = site.templates[0]!
  const text = (await getTexts(pool(), [source])).get(source)
  return { given: text === undefined ? null : { hash: source, text } }
}

export const clientLoader = ({ request, serverLoader }: Route.ClientLoaderArgs) =>
  loadOrLatest(request, serverLoader)
// What the first page came with is remembered as well.
clientLoader.hydrate = true as const

fetchEditor()

export default function TemplateView({ loaderData }: Route.ComponentProps) {
  const { site } = useSite()
  const styles = site.files.filter((file) => file.kind === 'style')
  const [tab, setTab] = useState('template')
  const style = styles.find(({ id }) => id === tab)
  return (
    <Tabs.Root value={tab} onValueChange={setTab} className="grid h-full min-h-0 grid-rows-[auto_auto_1fr]">
      <Skeleton />
      <div className="flex items-center gap-5 border-b border-rule px-6">
        <Tabs.List aria-label="What is written" className="flex grow gap-5">
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
        {style ? (
          <VersionsDialog key={style.id} textKey={{ kind: 'file', id: style.id }} name={style.label} />
        ) : (
          <VersionsDialog
            key="template"
            textKey={{ kind: 'template', id: site.templates[0]!.id }}
            name="the shared template"
          />
        )}
      </div>
      <Group orientation="horizontal" className="min-h-0">
        <Panel defaultSize="54%" minSize={200}>
          <Tabs.Content value="template" className="h-full min-h-0" tabIndex={-1}>
            <TemplateSource given={loaderData?.given ?? null} />
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
  const value = draft.typed.trim()
  const change =
    draft.isChanged && value !== ''
      ? ({ kind: 'setSetting', field, value, was: draft.was ?? '' } as const)
      : null
  useKeptLine(field, change)
  const save = () => {
    if (change) store.change(change)
    else if (value === '') draft.reset()
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

function TemplateSource({ given }: { given: GivenText | null }) {
  const { site } = useSite()
  const template = site.templates[0]!
  const written = useWrittenText({ kind: 'template', id: template.id }, template.source, given)
  const links = useLinkTargets()
  return (
    <WrittenTextEditor name="Source of the shared template" language="html" written={written} links={links} />
  )
}

function StyleSource({ fileId }: { fileId: string }) {
  const { site } = useSite()
  const file = site.files.find((one) => one.id === fileId)!
  const written = useWrittenText({ kind: 'file', id: fileId }, file.hash)
  return <WrittenTextEditor name={`Source of ${file.label}`} language="css" written={written} />
}

/** The finished HTML of the chosen page, following every save. */
function Result() {
  const { site, names, revision } = useSite()
  const { selected } = useSelection()
  const [result, setResult] = useState<{ pageId: string; html: string; problem: string | null } | null>(null)
  useEffect(() => {
    const abort = new AbortController()
    fetch(`/sites/${site.id}/results/${selected.id}`, { signal: abort.signal })
      .then(async (response) => {
        const pageId = selected.id
        if (response.ok) setResult({ pageId, html: await response.text(), problem: null })
        else {
          const told = (await response.json()) as { problem: { message: string } }
          setResult({ pageId, html: '', problem: told.problem.message })
        }
      })
      // Without a connection the latest result stays; the next save asks again.
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
      {result?.pageId === selected.id && result.problem !== null ? (
        <p role="alert" className="mx-4 my-3 border-l-3 border-rubric bg-rubric-wash px-3 py-2">
          {result.problem}
        </p>
      ) : result?.pageId === selected.id ? (
        <CodeEditor name="HTML of the page that results" language="html" value={result.html} />
      ) : (
        <p className="px-4 py-3 text-quiet">Making the page…</p>
      )}
    </section>
  )
}
