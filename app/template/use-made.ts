import type { Output, Template } from '#core/site'
import { useSite, useWrittenTexts } from '../document/site-context'
import { fetchText } from '../document/use-text'
import { untilFetched } from '../parts/fetched'

/** Has a file made of the whole site or not, as one change; a feed is named by every template that heads pages. */
export function useMade() {
  const { site, store } = useSite()
  const texts = useWrittenTexts()

  /** What a template is to be; null where it names a feed, and where it is being typed: Checks tells of that one. */
  async function naming({ id: templateId, source: was, basedOn }: Template) {
    if (basedOn !== null || texts.get({ kind: 'template', id: templateId })) return null
    const [{ withFeedNamed }, source] = await Promise.all([
      untilFetched(() => import('./name-feed')),
      fetchText(site.id, was),
    ])
    const text = withFeedNamed(source)
    return text === null ? null : { templateId, text, was }
  }

  return async (made: 'sitemap' | 'feed', isWanted: boolean): Promise<void> => {
    const { output: was } = site
    const { [made]: _, ...others } = was
    const output: Output = isWanted ? { ...others, [made]: true } : others
    // Where texts cannot be fetched nothing else can be sent either, and what is sent is kept until it can be.
    const named =
      made === 'feed' && isWanted
        ? await Promise.all(site.templates.map((one) => naming(one).catch(() => null)))
        : []
    const templates = named.filter((one) => one !== null)
    store.change({ kind: 'setOutput', output, was, ...(templates.length > 0 && { templates }) })
  }
}
