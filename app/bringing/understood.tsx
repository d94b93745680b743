import type { BringingView, BringingWishes } from '#server/bringing'
import { count } from '../parts/format'
import { Path } from '../parts/path'
import { Pick } from '../parts/picks/pick'

const marks = {
  same: { words: 'as it was', look: 'text-quiet' },
  spaces: { words: 'but for spaces', look: 'text-quiet' },
  menus: { words: 'but for menus', look: 'text-quiet' },
  otherwise: { words: 'otherwise', look: 'text-ochre' },
} as const

/** How it is brought in, as a sentence. */
export function WishesSentence({
  wishes,
  onWish,
}: {
  wishes: BringingWishes
  onWish: (part: Partial<BringingWishes>) => void
}) {
  return (
    <p className="font-serif text-[18px] leading-[1.8]">
      Names{' '}
      <Pick<BringingWishes['names']>
        label="Names"
        value={wishes.names}
        options={[
          { value: 'kept', words: 'stay as they are', hint: 'As far as folders allow; the rest forwards' },
          {
            value: 'scheme',
            words: 'follow the usual scheme',
            hint: 'Every old address forwards to the new one',
          },
        ]}
        onPick={(names) => onWish({ names })}
        after="."
      />{' '}
      What pages share{' '}
      <Pick
        label="What pages share"
        value={wishes.lifts ? 'yes' : 'no'}
        options={[
          { value: 'yes', words: 'becomes their template', hint: 'Changed once, changed on all of them' },
          { value: 'no', words: 'stays in each page', hint: 'Each page is kept whole' },
        ]}
        onPick={(value) => onWish({ lifts: value === 'yes' })}
        after="."
      />{' '}
      {wishes.lifts && (
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
          />
        </>
      )}
    </p>
  )
}

/** The plan that was found, each page with where it stood and stands. */
export function FoundPlan({ view }: { view: BringingView }) {
  return (
    <ol aria-label="The plan that was found" className="border-t border-rule">
      {view.lines.map(({ label, depth, was, path, outcome }) => (
        <li
          key={was}
          className="grid grid-cols-[minmax(0,1fr)_minmax(0,16rem)_7rem] items-center gap-4 border-b border-rule/50 leading-8"
        >
          <span className="flex min-w-0">
            {Array.from({ length: Math.min(depth, 12) }, (_, level) => (
              <span key={level} className="ml-1.5 w-4 shrink-0 border-l border-rule" />
            ))}
            <span className="truncate">{label}</span>
          </span>
          <span className="min-w-0 truncate text-sm" title={was === path ? was : `${was}, now ${path}`}>
            <Path path={path} />
            {was !== path && <span className="text-ochre"> was {was}</span>}
          </span>
          <span className={`text-sm ${marks[outcome].look}`}>{marks[outcome].words}</span>
        </li>
      ))}
    </ol>
  )
}

/** What pages were found to share. */
export function FoundTemplates({ view }: { view: BringingView }) {
  return (
    <ul>
      {view.templates.map(({ name, pages, slots, isWhole, source }) => (
        <li key={name} className="mb-3">
          <p>
            <b>{name}</b>{' '}
            <span className="text-quiet">
              {isWhole
                ? `${count(pages, 'page')} that ${pages === 1 ? 'shares' : 'share'} no frame, each kept whole`
                : `fits ${count(pages, 'page')}${slots.length > 0 ? `; further slots: ${slots.join(', ')}` : ''}`}
            </span>
          </p>
          {!isWhole && (
            <details>
              <summary className="cursor-pointer text-sm text-lapis underline underline-offset-4">
                Its source
              </summary>
              <pre
                tabIndex={0}
                aria-label={`Source of ${name}`}
                className="mt-1 max-h-72 overflow-auto bg-vellum p-3 font-mono text-[12.5px] leading-[1.5]"
              >
                {source}
              </pre>
            </details>
          )}
        </li>
      ))}
    </ul>
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
      {[...(menus ? [menus.example] : []), ...otherwise].map(({ path, was, becomes, outcome }) => (
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
          </details>
        </li>
      ))}
    </ul>
  )
}
