import { useMemo } from 'react'
import { resolveReference } from '#core/links'
import { encodePath } from '#core/markup'
import { languagesOf } from '#core/plan'
import {
  fitsPhones,
  homeFileOf,
  madeFeed,
  readSkeleton,
  type ScriptRuns,
  type SkeletonChange,
  writeSkeleton,
} from '#core/template'
import type { FileKind, SiteFile } from '#core/site'
import { useSite } from '../document/site-context'
import type { WrittenText } from '../document/use-written-text'
import { Pick } from '../parts/picks/pick'
import { WritePick } from '../parts/picks/write-pick'
import { OrderPick } from './order-pick'

/**
 * What a template's source says about the page as a whole, as a sentence. Its words are read from the
 * source, and choosing others writes them there.
 */
export function SkeletonSentence({ written }: { written: WrittenText }) {
  const { text } = written
  const { site, names } = useSite()
  const skeleton = useMemo(() => readSkeleton(text), [text])
  const write = (change: SkeletonChange) => written.write?.(writeSkeleton(text, change))
  const addressOf = (file: SiteFile) => `/${encodePath(names.files.get(file.id)!)}`
  /** The file of the site that an address leads to. */
  const fileAt = (href: string) => {
    const target = resolveReference(href, '', names, homeFileOf(site))
    return target.kind === 'file' ? site.files.find(({ id }) => id === target.id) : undefined
  }
  const nameOf = (href: string) => fileAt(href)?.label ?? href
  const ofKind = (kind: FileKind) => site.files.filter((file) => file.kind === kind)
  /** Files of a kind that are not among those an address of which is written. */
  const others = (kind: FileKind, used: readonly string[]) => {
    const ids = new Set(used.map((href) => fileAt(href)?.id))
    return ofKind(kind)
      .filter(({ id }) => !ids.has(id))
      .map((file) => ({ value: addressOf(file), words: file.label }))
  }
  const listed = (values: readonly string[], nothing: string) =>
    values.length === 0 ? nothing : values.map(nameOf).join(', ')
  if (!skeleton.isDocument) return null

  const { charset, styleSheets, scripts } = skeleton
  const { feed } = skeleton
  const hasFeed = feed !== null || site.output.feed === true
  const isOwnFeed = feed !== null && feed !== madeFeed
  const isTranslated = skeleton.translations !== null || languagesOf(site).all.length > 1
  const icons = ofKind('image').map((file) => ({ value: addressOf(file), words: file.label }))
  return (
    <>
      {skeleton.hasDoctype && !skeleton.isQuirky ? (
        'It begins with '
      ) : (
        <>
          <Lacking
            words={skeleton.hasDoctype ? 'It has a doctype of the 1990s' : 'It has no doctype'}
            onMend={() => write({ part: 'doctype' })}
          />
          , begins with{' '}
        </>
      )}
      {charset === null ? (
        <Lacking words="no charset" onMend={() => write({ part: 'charset', value: 'utf-8' })} />
      ) : /^utf-8$/i.test(charset) ? (
        'the charset UTF-8'
      ) : (
        <Lacking words={`the charset ${charset}`} onMend={() => write({ part: 'charset', value: 'utf-8' })} />
      )}
      ,{' '}
      <Pick
        label="Viewport"
        value={skeleton.viewport === null ? 'no' : 'yes'}
        options={[
          { value: 'yes', words: 'fits phones', hint: 'A page is as wide as what it is read on' },
          {
            value: 'no',
            words: 'does not fit phones',
            hint: 'Phones show it as wide as a desktop, and small',
          },
        ]}
        onPick={(fits) => write({ part: 'viewport', value: fits === 'yes' ? fitsPhones : null })}
        after=","
      />{' '}
      <Pick
        label="Description"
        value={skeleton.description === null ? 'no' : 'yes'}
        options={[
          { value: 'yes', words: 'states each page’s description', hint: 'Left out where a page has none' },
          { value: 'no', words: 'states no description' },
        ]}
        onPick={(has) => write({ part: 'description', value: has === 'yes' ? '{description}' : null })}
        after=","
      />{' '}
      <Pick
        label="Its own address"
        value={skeleton.address === null ? 'no' : 'yes'}
        options={[
          {
            value: 'yes',
            words: 'its address',
            hint:
              site.publicAddress === ''
                ? 'Left out until the site’s is said above'
                : 'So that search engines know it for one',
          },
          { value: 'no', words: 'no address' },
        ]}
        onPick={(has) => write({ part: 'address', value: has === 'yes' ? '{address}' : null })}
        after={isTranslated || hasFeed ? ',' : undefined}
      />{' '}
      {isTranslated && (
        <>
          <Pick
            label="Its address in other languages"
            value={skeleton.translations === null ? 'no' : 'yes'}
            options={[
              {
                value: 'yes',
                words: 'those in other languages',
                hint:
                  site.publicAddress === ''
                    ? 'Left out until the site’s is said above'
                    : 'So that search engines show people the one that they can read',
              },
              { value: 'no', words: 'none in other languages' },
            ]}
            onPick={(has) =>
              write({ part: 'translations', value: has === 'yes' ? '{translation.address}' : null })
            }
            after={hasFeed ? ',' : undefined}
          />{' '}
        </>
      )}
      {hasFeed && (
        <>
          <Pick
            label="The feed of what is new"
            value={feed === null ? 'no' : isOwnFeed ? 'own' : 'made'}
            options={[
              {
                value: 'made',
                words: 'the feed',
                hint: site.output.feed
                  ? 'So that feed readers find it'
                  : 'Left out until a feed is made, which is said above',
              },
              ...(isOwnFeed
                ? [{ value: 'own', words: `the feed ${nameOf(feed)}`, hint: 'One that you keep yourself' }]
                : []),
              { value: 'no', words: 'no feed', hint: 'Feed readers do not find it by themselves' },
            ]}
            onPick={(named) => {
              if (named !== 'own') write({ part: 'feed', value: named === 'made' ? madeFeed : null })
            }}
          />{' '}
        </>
      )}
      and{' '}
      <WritePick
        label="Author"
        words={skeleton.author === null ? 'no author' : `the author ${skeleton.author}`}
        value={skeleton.author ?? ''}
        hint="Left empty, no author is stated."
        onWrite={(value) => write({ part: 'author', value: value.trim() === '' ? null : value.trim() })}
        after="."
      />{' '}
      Style sheets:{' '}
      <OrderPick
        label="Style sheets, the later one having the last word"
        words={listed(styleSheets, 'none')}
        chosen={styleSheets.map((href) => ({ value: href, words: nameOf(href) }))}
        others={others('style', styleSheets)}
        none="The site has no style sheet. Drop one on the register."
        onChange={(value) => write({ part: 'styleSheets', value })}
        after=";"
      />{' '}
      scripts:{' '}
      <OrderPick
        label="Scripts, in the order in which they run"
        words={listed(
          scripts.map((one) => one.href),
          'none',
        )}
        chosen={scripts.map((script) => ({
          value: script.href,
          words: nameOf(script.href),
          beside: (
            <select
              aria-label={`When ${nameOf(script.href)} runs`}
              className="bg-paper text-sm text-quiet"
              value={script.runs}
              onChange={(event) =>
                write({
                  part: 'scripts',
                  value: scripts.map((one) =>
                    one === script ? { ...one, runs: event.target.value as ScriptRuns } : one,
                  ),
                })
              }
            >
              <option value="deferred">once the page is read</option>
              <option value="at once">as it is met</option>
              <option value="module">as a module</option>
            </select>
          ),
        }))}
        others={others(
          'script',
          scripts.map((one) => one.href),
        )}
        none="The site has no script. Drop one on the register."
        onChange={(values) =>
          write({
            part: 'scripts',
            value: values.map(
              (href) => scripts.find((one) => one.href === href) ?? { href, runs: 'deferred' },
            ),
          })
        }
        after=";"
      />{' '}
      icon:{' '}
      <Pick
        label="Icon"
        value={skeleton.icon ?? ''}
        options={[
          { value: '', words: 'none' },
          ...icons,
          ...(skeleton.icon !== null && !icons.some(({ value }) => value === skeleton.icon)
            ? [{ value: skeleton.icon, words: nameOf(skeleton.icon) }]
            : []),
        ]}
        onPick={(value) => write({ part: 'icon', value: value === '' ? null : value })}
        after="."
      />
    </>
  )
}

/** Words for what a skeleton should say and does not, with the way to have it say so. */
function Lacking({ words, onMend }: { words: string; onMend: () => void }) {
  return (
    <span className="whitespace-nowrap">
      <span className="text-rubric">{words}</span>{' '}
      <button type="button" className="link font-sans text-sm" onClick={onMend}>
        put it right
      </button>
    </span>
  )
}
