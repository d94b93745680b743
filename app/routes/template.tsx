import { useState } from 'react'
import { Tabs } from 'radix-ui'
import { useSearchParams } from 'react-router'
import { getTexts } from '#server/contents'
import { pool } from '#server/platform'
import { previewBase } from '#server/preview'
import { listPublicAddresses } from '#server/sites'
import { useSite } from '../document/site-context'
import { KeepKit } from '../kits/keep-kit'
import { requireSite } from '../owner.server'
import { fetchEditor } from '../parts/editor/lazy-editor'
import { Halves } from '../parts/halves'
import { loadOrLatest, NotFetched } from '../parts/unless-offline'
import { PreviewWindow } from '../preview/preview-window'
import { NewTemplate } from '../template/new-template'
import { Result } from '../template/result'
import { SiteSentence } from '../template/site-sentence'
import { StylePane } from '../template/style-pane'
import { TemplatePane } from '../template/template-pane'
import type { Route } from './+types/template'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  const { source } = site.templates.find(({ id }) => id === site.templateId)!
  const text = (await getTexts(pool(), [source])).get(source)
  const publicAddresses = await listPublicAddresses(pool(), site.id)
  return {
    base: previewBase(request, site.id),
    publicAddresses,
    given: text === undefined ? null : { hash: source, text },
  }
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/template', args)

fetchEditor()

export default function TemplateView({ loaderData }: Route.ComponentProps) {
  const { site } = useSite()
  const { templates } = site
  const styles = site.files.filter((file) => file.kind === 'style')
  const [params] = useSearchParams()
  const [chosen, setChosen] = useState(params.get('text') ?? site.templateId)
  const style = styles.find(({ id }) => id === chosen)
  const tab = style ? chosen : (templates.find(({ id }) => id === chosen)?.id ?? site.templateId)
  const template = templates.find(({ id }) => id === tab)
  const [reveal, setReveal] = useState<{ readonly textId: string; readonly line: number } | null>(() => {
    const [textId, line] = [params.get('text'), Number(params.get('line'))]
    return textId !== null && line > 0 ? { textId, line } : null
  })
  return (
    <Tabs.Root
      value={tab}
      onValueChange={setChosen}
      className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_minmax(26rem,1fr)] overflow-y-auto max-sm:grid-rows-[auto_auto_56rem]"
    >
      <SiteSentence publicAddresses={loaderData?.publicAddresses ?? []} />
      <div className="flex items-center gap-5 border-b border-rule px-6">
        <Tabs.List aria-label="What is written" className="flex min-w-0 grow gap-5 overflow-x-auto">
          {[
            ...templates.map(({ id, name }) => ({ id, title: name })),
            ...styles.map(({ id, label }) => ({ id, title: label })),
          ].map(({ id, title }) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="border-b-3 border-transparent pt-1 pb-1.5 whitespace-nowrap text-quiet data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <NewTemplate
          from={template ?? templates.find(({ id }) => id === site.templateId)!}
          onMade={setChosen}
        />
        <KeepKit />
      </div>
      <Halves of="source" share={54} least={[200, 200]}>
        <>
          {templates.map((one) => (
            <Tabs.Content key={one.id} value={one.id} className="h-full min-h-0" tabIndex={-1}>
              <TemplatePane
                template={one}
                given={one.id === site.templateId ? (loaderData?.given ?? null) : null}
                reveal={reveal?.textId === one.id ? reveal : null}
                onLead={(line) => setReveal({ textId: one.id, line })}
              />
            </Tabs.Content>
          ))}
          {styles.map((file) => (
            <Tabs.Content key={file.id} value={file.id} className="h-full min-h-0" tabIndex={-1}>
              <StylePane file={file} reveal={reveal?.textId === file.id ? reveal : null} />
            </Tabs.Content>
          ))}
        </>
        {template ? (
          <Result
            onLead={(templateId, line) => {
              setChosen(templateId)
              setReveal({ textId: templateId, line })
            }}
          />
        ) : loaderData ? (
          <PreviewWindow base={loaderData.base} />
        ) : (
          <NotFetched />
        )}
      </Halves>
    </Tabs.Root>
  )
}
