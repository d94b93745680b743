import { type ReactNode, useMemo } from 'react'
import { explainName, type NamingStep } from '#core/naming'
import type { Scheme } from '#core/site'
import { useSelection, useSite } from '../document/site-context'
import { OwnName } from '../plan/own-name'
import { addedRuns } from './added-runs'

const stepWords: Record<NamingStep['rule'], string> = {
  label: 'The page is called',
  date: 'its date in front',
  number: 'its number in front',
  letters: 'letters spelled out',
  case: 'lower case',
  punctuation: 'punctuation',
  leaveOut: 'words left out',
  shortForms: 'short forms',
  gap: 'words joined',
  longest: 'cut to length',
  'nothing-left': 'nothing left, so',
  reserved: 'not a reserved name',
  'own-name': 'its author named it',
  'kept-name': 'kept from before',
  home: 'it is the home page',
  clash: 'the name was taken',
  folder: 'in its folder',
  trial: 'a trial page, for the preview only',
}

/** Rules that a word of the scheme's sentence sets. */
const settable: readonly NamingStep['rule'][] = [
  'letters',
  'case',
  'leaveOut',
  'shortForms',
  'gap',
  'longest',
  'number',
  'folder',
  'home',
]

interface Props {
  readonly scheme: Scheme
  readonly onOpenRule: (rule: NamingStep['rule']) => void
}

/** How the chosen page's name came about, each step with what it changed and the way to its rule. */
export function NameLadder({ scheme, onOpenRule }: Props) {
  const { site, store, names, tree } = useSite()
  const { selected } = useSelection()
  const steps = useMemo(() => explainName({ ...site, scheme }, selected.id), [site, scheme, selected.id])
  const holder = names.pages.get(selected.id)?.clash?.heldBy
  const words = (rule: NamingStep['rule']) => {
    if (rule === 'gap')
      return `joined with ${scheme.gap === '-' ? 'a hyphen' : scheme.gap === '_' ? 'an underscore' : 'nothing'}`
    if (rule === 'clash' && holder) return `taken by “${tree.byId.get(holder)?.label}”`
    return stepWords[rule]
  }
  return (
    <section aria-label="How this name came about">
      <h3 className="mt-6 mb-2 text-[19px]">How this name came about</h3>
      <dl className="grid grid-cols-[minmax(8rem,11rem)_1fr] gap-y-1.5 text-sm">
        {steps.map((step, index) => (
          <div key={index} className="contents">
            <dt className="text-quiet">
              {settable.includes(step.rule) ? (
                <button
                  type="button"
                  className="link !text-quiet hover:!text-lapis"
                  title="Change this rule"
                  onClick={() => onOpenRule(step.rule)}
                >
                  {words(step.rule)}
                </button>
              ) : (
                words(step.rule)
              )}
            </dt>
            <dd className="min-w-0 font-mono text-[14px] break-words whitespace-pre-wrap">
              <Changed before={index === 0 ? null : steps[index - 1]!.text} after={step.text} />
            </dd>
          </div>
        ))}
      </dl>
      {selected.id !== site.homeId && (
        <p className="mt-3 font-serif text-[18px]">
          The name of this page <OwnName key={selected.id} />
          {selected.keptName !== null && (
            <button
              type="button"
              className="link ml-3 font-sans text-sm"
              onClick={() => store.change({ kind: 'releaseNames', pageIds: [selected.id] })}
            >
              Give it back to the scheme
            </button>
          )}
        </p>
      )}
    </section>
  )
}

/** A text with the signs that were not there before marked. */
function Changed({ before, after }: { before: string | null; after: string }): ReactNode {
  if (before === null || before === after) return after
  return addedRuns(Array.from(before), Array.from(after)).map((run, index) =>
    run.added ? (
      <mark key={index} className="rounded-xs bg-lapis-wash text-lapis">
        {run.text}
      </mark>
    ) : (
      run.text
    ),
  )
}
