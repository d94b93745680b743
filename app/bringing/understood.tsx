import type { BringingView, BringingWishes } from '#server/bringing'
import { count } from '../parts/format'
import { RippleDetails } from '../parts/ripple-details'
import { rippleWords } from '../parts/ripple-words'
import { Pick } from '../parts/picks/pick'
import { PlacePick } from '../parts/picks/place-pick'
import type { Place } from '../parts/picks/place-search'
import { topLevel } from '../parts/picks/places-of'

/** How it is brought in, as a sentence. */
export function WishesSentence({
  wishes,
  places,
  same,
  onWish,
}: {
  wishes: BringingWishes
  /** Of a site that they join: the pages that they may come under; null for a new site. */
  places: readonly Place[] | null
  /** How many pages that site has already at the same addresses. */
  same: number
  onWish: (part: Partial<BringingWishes>) => void
}) {
  const isJoining = places !== null
  const under = places?.find(({ id }) => id === wishes.under)
  const placeWords = under ? `under ${under.label}` : 'at the top level'
  const hasOwnFrame = !isJoining || wishes.frame === 'own'
  return (
    <p className="font-serif text-[18px] leading-[1.8]">
      {isJoining && (
        <>
          They come{' '}
          <span className="whitespace-nowrap">
            <PlacePick
              label="They come under"
              places={() => [topLevel, ...places]}
              onChoose={(id) => onWish({ under: id ?? undefined })}
            >
              <button type="button" className="pick" aria-label={`Place: ${placeWords}`}>
                {placeWords}
              </button>
            </PlacePick>
            .
          </span>{' '}
        </>
      )}
      {!isJoining && (
        <>
          The plan follows{' '}
          <Pick<BringingWishes['planBy']>
            label="Plan"
            value={wishes.planBy}
            options={[
              {
                value: 'found',
                words: 'all that tells it',
                hint: 'Folders, then the menu that pages share, then links',
              },
              {
                value: 'folders',
                words: 'the folders',
                hint: 'What has a home file stands above what is in its folder',
              },
              {
                value: 'menu',
                words: 'the menu that pages share',
                hint: 'Lists within lists; other pages where a link leads to them',
              },
              {
                value: 'links',
                words: 'the links',
                hint: 'Below the first page that leads there, from the home page on',
              },
            ]}
            onPick={(planBy) => onWish({ planBy })}
            after="."
          />{' '}
        </>
      )}
      Names{' '}
      <Pick<BringingWishes['names']>
        label="Names"
        value={wishes.names}
        options={[
          { value: 'kept', words: 'stay as they are', hint: 'What cannot be called so any more forwards' },
          {
            value: 'scheme',
            words: isJoining ? 'follow the scheme' : 'follow the usual scheme',
            hint: 'Every old address forwards to the new one',
          },
        ]}
        onPick={(names) => onWish({ names })}
        after="."
      />{' '}
      What pages share{' '}
      {isJoining ? (
        <Pick<BringingWishes['frame']>
          label="What pages share"
          value={wishes.frame}
          options={[
            { value: 'own', words: 'becomes a template of theirs', hint: 'They look as they did' },
            {
              value: 'site',
              words: 'gives way to the template there',
              hint: 'They look like the pages of this site; what surrounded them is left out',
            },
          ]}
          onPick={(frame) => onWish({ frame })}
          after="."
        />
      ) : (
        <Pick
          label="What pages share"
          value={wishes.lifts ? 'yes' : 'no'}
          options={[
            { value: 'yes', words: 'becomes their template', hint: 'Changed once, changed on all of them' },
            { value: 'no', words: 'stays in each page', hint: 'Each page is kept whole' },
          ]}
          onPick={(value) => onWish({ lifts: value === 'yes' })}
          after="."
        />
      )}{' '}
      {wishes.lifts && hasOwnFrame && (
        <>
          Menus that follow the plan{' '}
          <Pick
            label="Menus"
            value={wishes.generates ? 'yes' : 'no'}
            options={[
              { value: 'yes', words: 'follow it from now on', hint: 'Made anew whenever the plan changes' },
              { value: 'no', words: 'stay as they are written' },
            ]}
            onPick={(value) => onWish({ generates: value === 'yes' })}
            after="."
          />{' '}
        </>
      )}
      {same > 0 && (
        <>
          {same === 1 ? 'One page is' : `${same.toLocaleString('en')} pages are`} here already;{' '}
          {same === 1 ? 'it' : 'they'}{' '}
          <Pick<BringingWishes['same']>
            label="Pages that are here already"
            value={wishes.same}
            options={[
              { value: 'leave', words: same === 1 ? 'stays as it is' : 'stay as they are' },
              {
                value: 'replace',
                words: same === 1 ? 'is replaced' : 'are replaced',
                hint: 'What was written here before stays in the history',
              },
              {
                value: 'beside',
                words: same === 1 ? 'gets the other beside it' : 'get the others beside them',
                hint: 'Under names of their own',
              },
            ]}
            onPick={(value) => onWish({ same: value })}
            after="."
          />
        </>
      )}
    </p>
  )
}

/** What would come out otherwise than it was, line by line. */
export function Otherwise({ view }: { view: BringingView }) {
  const { otherwise, menus } = view
  if (otherwise.length === 0 && !menus)
    return (
      <p className="text-quiet">
        Nothing: every page comes out as it was, but for how its links are written.
      </p>
    )
  return (
    <ul>
      {[...(menus ? [menus.example] : []), ...otherwise].map(({ path, stretches, outcome }) => (
        <li key={path} className="mb-2">
          {outcome === 'menus' && (
            <p className="text-quiet">
              Menus are written anew on {count(menus!.pages, 'page')}; this is one of them.
            </p>
          )}
          <details>
            <summary className="cursor-pointer font-mono text-sm">{path}</summary>
            <div
              className="mt-1 overflow-x-auto bg-vellum p-2 font-mono text-[12.5px] leading-[1.5] whitespace-pre"
              tabIndex={0}
              role="group"
              aria-label={`Lines of ${path}`}
            >
              {stretches.map(({ was, becomes }, nth) => (
                <div key={nth} className="border-rule not-first:mt-1.5 not-first:border-t not-first:pt-1.5">
                  {was.map((line, index) => (
                    <div key={`was ${index}`} className="text-rubric">
                      − {line}
                    </div>
                  ))}
                  {becomes.map((line, index) => (
                    <div key={`becomes ${index}`} className="text-verdigris">
                      + {line}
                    </div>
                  ))}
                </div>
              ))}
            </div>
          </details>
        </li>
      ))}
    </ul>
  )
}

/** What bringing pages in does to the site that they join. */
export function Joining({ joining }: { joining: NonNullable<BringingView['joining']> }) {
  const { ripple, pages } = joining
  if (pages === 0)
    return (
      <p role="status" className="mt-3 text-quiet">
        All of these pages are here already, so nothing would change.
      </p>
    )
  if (!ripple || ripple.movedCount + ripple.linkCount + ripple.addressCount + ripple.brokenCount === 0)
    return <p className="mt-3 text-sm text-quiet">What the site has already is not touched.</p>
  return (
    <div className="mt-3 text-sm text-quiet">
      <p>Of what the site has, {rippleWords(ripple)}.</p>
      <RippleDetails ripple={ripple} />
    </div>
  )
}
