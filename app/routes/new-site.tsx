import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { useEffect, useState } from 'react'
import { Form, redirect, useNavigation } from 'react-router'
import { canBe, languageName, languageOfLabels, tagTyped } from '#core/language'
import { guessPlanForm, type PlanForm, planForms } from '#core/plan'
import { Problem } from '#core/problems'
import { pool } from '#server/platform'
import { kitToUse, listKits } from '#server/kits'
import { createSite, listSchemes } from '#server/sites'
import { readPlanText } from '#server/contents'
import { KitChoice } from '../kits/kit-choice'
import { cardOf } from '../kits/kit-picture'
import type { NewSiteLine } from '../new-site/new-site.answer'
import { NewSiteTree } from '../new-site/new-site-tree'
import { useNewSite } from '../new-site/use-new-site'
import { checkInput, readForm, requireAccount, tellProblem } from '../owner.server'
import { Button } from '../parts/button'
import { CodeEditor } from '../parts/editor/lazy-editor'
import { FileButton, takingDropped } from '../parts/picks/files'
import { count } from '../parts/format'
import { OutsideFrame } from '../parts/outside-frame'
import { Pick } from '../parts/picks/pick'
import { planFileTypes, readPlanFile } from '../parts/picks/plan-file'
import { PlanFormatPick, readable } from '../parts/picks/plan-format-pick'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/new-site'

export const meta: Route.MetaFunction = () => [{ title: 'A new site – Rubricant' }]

interface Input {
  readonly name: string
  readonly language: string
  readonly kit: string
  readonly scheme: string
  readonly plan: string
  readonly format?: PlanForm
  readonly request: string
}

/** The kit that is chosen when nobody chooses. */
const usualKit = 'plain'

const input = Joi.object<Input>({
  kit: Joi.string().max(100).default(usualKit).empty(''),
  scheme: Joi.string().max(100).allow('').default(''),
  name: Joi.string().trim().max(200).required().messages({ 'string.empty': 'Give the site a name.' }),
  language: Joi.string().max(100).default('en').empty('')
    .custom((typed: string, helpers) => tagTyped(typed) ?? helpers.error('any.invalid'))
    .messages({ 'any.invalid': 'No language is called that. Write its name, or a tag such as en, de or pt-BR.' }),
  plan: Joi.string().allow('').max(8_000_000).default(''),
  format: Joi.string().valid(...Object.keys(planForms)).empty(''),
  // Made by the window: sent again because the answer was lost, it makes one site.
  request: Joi.string().guid({ version: 'uuidv4' }).default(() => randomUUID()),
}) // prettier-ignore

export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  const kits = (await listKits(account.id)).map((one) => ({ ...cardOf(one), scheme: one.kit.scheme }))
  return { email: account.email, kits, schemes: await listSchemes(pool(), account.id) }
}

export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return tellProblem(async () => {
    const wanted = checkInput(input, await readForm(request))
    const { name, language, format } = wanted
    const kept = (await listSchemes(pool(), account.id)).find((one) => one.name === wanted.scheme)
    const kit = await kitToUse(account.id, wanted.kit)
    if (!kit) throw new Problem('gone', { what: 'This kit' })
    const scheme = kept?.scheme ?? kit.scheme
    const plan = await readPlanText({ text: wanted.plan, format }, { name, language, scheme })
    if ('refusal' in plan)
      throw new Problem('bad-plan', { line: plan.refusal.line, why: plan.refusal.reason })
    const siteId = await createSite(
      account.id,
      { name, language, kit, scheme: kept?.scheme, plan },
      wanted.request,
    )
    return redirect(`/sites/${siteId}/plan`)
  })
}

const example = `Saltpan Chapel
  Visit
    Getting here
    Opening days
  The building
    The painted ceiling
    The bell
  Concerts
  Contact`

/** What is typed before there is a site to keep it. */
interface Typed {
  /** Names the request that makes this site, so that it is made once. */
  readonly request: string
  readonly name: string
  readonly language: string
  /** Not there in what was kept by an earlier release, as what follows. */
  readonly kit?: string
  /** Whether its author said the language. */
  readonly saysLanguage?: boolean
  readonly plan: { text: string; format?: PlanForm }
}

const keptUnder = 'rubricant new site'

function readKept(): Typed | null {
  try {
    return JSON.parse(sessionStorage.getItem(keptUnder) ?? 'null') as Typed | null
  } catch {
    return null
  }
}

function keepTyped(typed: Typed): void {
  try {
    if (typed.name === '' && typed.plan.text === '') sessionStorage.removeItem(keptUnder)
    else sessionStorage.setItem(keptUnder, JSON.stringify(typed))
  } catch {
    // No room for it: it is in the form still.
  }
}

// The list of schemes is the same after a form that was not taken, and cannot be had while offline.
export const shouldRevalidate = () => false

/** Sends the form; what was typed is let go only once the site is there. */
export async function clientAction({ serverAction }: Route.ClientActionArgs) {
  try {
    return await sendOrSay(() => serverAction())
  } catch (answer) {
    if (answer instanceof Response && answer.status < 400) sessionStorage.removeItem(keptUnder)
    throw answer
  }
}

/** Tags that leave room beside them for what the language is called. */
const longestTag = 5

/** What a language is called, beside its tag; nothing where that is not known or not there yet. */
const calledLanguage = (typed: string): string => {
  const tag = typed.length <= longestTag ? tagTyped(typed) : null
  return tag !== null && languageName(tag) !== tag ? languageName(tag) : ''
}

/** Without sections that are called by another language, and are in it. */
const ofSite = (lines: readonly NewSiteLine[]) => lines.filter(({ language }) => language === null)

/** Labels of a plan that its language is told by. */
const mostTelling = 200

const planWords = 'Its pages, one a line, indented under each other'

export default function NewSite({ loaderData, actionData }: Route.ComponentProps) {
  const { schemes, kits } = loaderData
  const [name, setName] = useState('')
  const [language, setLanguage] = useState('en')
  const [kitId, setKitId] = useState(usualKit)
  const [schemeName, setSchemeName] = useState('')
  const [plan, setPlan] = useState<{ text: string; format?: PlanForm }>({ text: '' })
  const [fileNotes, setFileNotes] = useState<readonly string[]>([])
  const [fileProblem, setFileProblem] = useState<string | null>(null)
  // One that has been forgotten meanwhile is not there to be chosen.
  const kit = kits.find(({ id }) => id === kitId) ?? kits[0]!
  const scheme = schemes.find((one) => one.name === schemeName)?.scheme ?? kit.scheme
  const { answer } = useNewSite(name.trim() || 'Home', tagTyped(language) ?? 'en', scheme, plan)
  const busy = useNavigation().state !== 'idle'
  const refusal = answer && 'refusal' in answer ? answer.refusal : null
  const site = answer && 'lines' in answer ? answer : null
  const refused = actionData?.problem ?? null
  const problem = fileProblem ?? (refusal ? `Line ${refusal.line}: ${refusal.reason}` : refused)
  // Who makes a site in a language that their browser does not speak seldom thinks of saying so: its pages' names do.
  const [saysLanguage, setSaysLanguage] = useState(false)
  const told =
    site && plan.text.trim() !== ''
      ? languageOfLabels(
          ofSite(site.lines)
            .slice(0, mostTelling)
            .map(({ label }) => label),
        )
      : null
  useEffect(() => {
    if (told !== null && !saysLanguage) setLanguage((was) => (canBe(told, tagTyped(was) ?? was) ? was : told))
  }, [told, saysLanguage])
  const notes = [...fileNotes, ...(site && plan.text.trim() !== '' ? site.notes : [])]

  async function takeFile(chosen: File) {
    const read = await readPlanFile(chosen)
    setFileProblem('problem' in read ? read.problem : null)
    if ('problem' in read) return
    setPlan({ text: read.text, format: read.format })
    setFileNotes(read.notes)
  }
  function type(text: string) {
    // What was read or chosen stays in its format while it is typed over; an empty text has none.
    setPlan((was) => (text.trim() === '' ? { text } : { ...was, text }))
    setFileProblem(null)
    if (text.trim() === '') setFileNotes([])
  }

  // Kept with the tab at each letter, so that neither an error nor a reload loses the plan.
  const [request, setRequest] = useState('')
  useEffect(() => {
    const kept = readKept()
    // Chosen where kits are shown.
    const asked = new URLSearchParams(location.search).get('kit')
    if (asked) setKitId(asked)
    setRequest(kept?.request ?? crypto.randomUUID())
    // As whoever asks is used to reading: most write so, too.
    if (!kept) return setLanguage(navigator.language.split('-')[0] || 'en')
    setName(kept.name)
    setLanguage(kept.language)
    setSaysLanguage(kept.saysLanguage ?? true)
    setKitId(asked ?? kept.kit ?? usualKit)
    setPlan(kept.plan)
  }, [])
  useEffect(() => {
    if (request !== '') keepTyped({ request, name, language, saysLanguage, kit: kitId, plan })
  }, [request, name, language, saysLanguage, kitId, plan])

  return (
    <OutsideFrame email={loaderData.email}>
      <Form
        method="post"
        className="mx-auto flex max-w-6xl flex-col md:h-[calc(100dvh-60px)] px-4 pt-5 sm:px-8"
      >
        <h1 className="sr-only">A new site</h1>
        <input type="hidden" name="request" value={request} />
        <input type="hidden" name="plan" value={plan.text} />
        <input type="hidden" name="format" value={plan.format ?? ''} />
        <input type="hidden" name="scheme" value={schemeName} />
        <div className="mb-4 grid grid-cols-[minmax(0,1fr)_auto] items-end gap-4 sm:gap-8">
          <label className="block">
            <span className="text-quiet">The site is called</span>
            <input
              className="field font-serif !text-[28px]"
              name="name"
              value={name}
              onChange={(event) => setName(event.target.value)}
              required
              maxLength={200}
              dir="auto"
              autoFocus
            />
          </label>
          <div className="w-28 sm:w-48">
            <label htmlFor="language" className="block text-quiet">
              Its language
            </label>
            <div className="relative">
              <input
                id="language"
                className="field"
                name="language"
                value={language}
                onChange={(event) => {
                  setLanguage(event.target.value)
                  setSaysLanguage(true)
                }}
                aria-describedby="language-name"
                maxLength={35}
                spellCheck={false}
              />
              <span
                id="language-name"
                className="pointer-events-none absolute right-0 bottom-1.5 max-w-[58%] truncate text-sm text-quiet"
                aria-live="polite"
              >
                {calledLanguage(language)}
              </span>
            </div>
          </div>
        </div>
        <div className="mb-3">
          <KitChoice kits={kits} value={kit.id} onPick={setKitId} />
        </div>
        <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)] gap-8 md:grid-cols-2">
          <div className="grid min-h-0 grid-rows-[auto_1fr]">
            <div className="mb-2 flex flex-wrap items-baseline gap-x-4">
              <h2 className="mr-auto text-[17px]">{planWords}</h2>
              <span className="flex gap-4">
                {plan.text === '' && (
                  <button
                    type="button"
                    className="link text-sm whitespace-nowrap"
                    onClick={() => type(example)}
                  >
                    Try an example
                  </button>
                )}
                <FileButton
                  words="Read a file"
                  accept={planFileTypes}
                  onFile={(chosen) => void takeFile(chosen)}
                />
              </span>
            </div>
            <div
              className="area min-h-0 overflow-hidden max-md:h-72"
              {...takingDropped((dropped) => void takeFile(dropped))}
            >
              <CodeEditor
                name={planWords}
                language="plain"
                value={plan.text}
                onChange={type}
                example={'Home\n  Visit\n    Getting here\n  Contact'}
              />
            </div>
          </div>
          <div className="grid min-h-0 grid-rows-[auto_1fr]">
            <h2 className="mb-2 text-[17px]">
              What it becomes{' '}
              {site && (
                <span className="font-sans text-sm font-normal text-quiet">
                  {count(site.pageCount, 'page')}
                </span>
              )}
            </h2>
            <div
              className="min-h-0 overflow-auto border-t border-rule"
              tabIndex={0}
              role="region"
              aria-label="What it becomes"
            >
              {site && <NewSiteTree lines={site.lines} more={site.more} />}
            </div>
          </div>
        </div>
        <p className="pt-4 font-serif text-[18px]">
          The plan is written as{' '}
          <PlanFormatPick
            forms={readable}
            format={plan.format ?? guessPlanForm(plan.text)}
            onPick={(format) => setPlan({ ...plan, format })}
            after={schemes.length > 0 ? ',' : '.'}
          />{' '}
          {schemes.length > 0 && (
            <>
              and its files are named by{' '}
              <Pick
                label="Naming scheme"
                value={schemeName}
                options={[
                  { value: '', words: 'the kit’s scheme' },
                  ...schemes.map((one) => ({ value: one.name, words: one.name })),
                ]}
                onPick={setSchemeName}
                after="."
              />
            </>
          )}
        </p>
        <div className="flex items-center gap-6 py-5">
          <Button type="submit" look="go" disabled={busy}>
            {busy ? 'Making the site…' : 'Make this site'}
          </Button>
          <div className="text-sm text-quiet">
            {problem ? (
              <p role="alert" className="text-rubric">
                {problem}
              </p>
            ) : notes.length > 0 ? (
              notes.map((note) => <p key={note}>{note}</p>)
            ) : (
              <p>
                A list of addresses or files, columns of a spreadsheet or a menu in HTML are understood, too.
                Tab indents; Escape, then Tab leaves the plan. Everything can be changed later.
              </p>
            )}
          </div>
        </div>
      </Form>
    </OutsideFrame>
  )
}
