import Joi from 'joi'
import { useDeferredValue, useMemo, useState } from 'react'
import { data, Form, redirect, useNavigation } from 'react-router'
import { longestLabel } from '#core/change'
import { planSite, readOutline, walkOutline } from '#core/plan'
import { defaultScheme } from '#core/site'
import { pool } from '#server/database/pool'
import { listSchemes } from '#server/database/schemes'
import { Problem } from '#server/problem'
import { createSite } from '#server/site-create'
import { checkInput, requireAccount } from '../owner.server'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { OutsideFrame } from '../parts/outside-frame'
import { PlanTree } from '../parts/plan-tree'
import type { Route } from './+types/new-site'

export const meta: Route.MetaFunction = () => [{ title: 'A new site – Rubricant' }]

const input = Joi.object<{ name: string; language: string; plan: string; scheme: string }>({
  scheme: Joi.string().max(100).allow('').default(''),
  name: Joi.string().trim().max(200).required().messages({ 'string.empty': 'Give the site a name.' }),
  language: Joi.string().pattern(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/).default('en').empty('')
    .messages({ 'string.pattern.base': 'Write the language as a tag such as en, de or pt-BR.' }), // prettier-ignore
  plan: Joi.string().allow('').max(3_000_000).default(''),
})

export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  return { email: account.email, schemes: (await listSchemes(pool(), account.id)).map(({ name }) => name) }
}

export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  try {
    const {
      name,
      language,
      plan,
      scheme: schemeName,
    } = checkInput(input, Object.fromEntries(await request.formData()))
    const outline = readOutline(plan)
    const lines = walkOutline(outline.nodes)
    const long = lines.findIndex(({ node }) => node.label.length > longestLabel)
    if (long >= 0)
      throw new Problem(
        'long-label',
        `Page ${long + 1} of the plan has ${lines[long]!.node.label.length} characters; a label has at most ${longestLabel}. It begins “${lines[long]!.node.label.slice(0, 40)}…”.`,
        422,
      )
    if (lines.length > 50_000)
      throw new Problem(
        'long-plan',
        `The plan has ${lines.length} lines; a site is made with at most 50,000 pages at once.`,
        422,
      )
    const kept =
      schemeName === ''
        ? undefined
        : (await listSchemes(pool(), account.id)).find((one) => one.name === schemeName)
    const scheme = kept?.scheme ?? defaultScheme
    const siteId = await createSite(account.id, { name, language, scheme, plan: planSite(outline, name) })
    return redirect(`/sites/${siteId}/plan`)
  } catch (error) {
    if (error instanceof Problem)
      return data({ problem: { message: error.message } }, { status: error.status })
    throw error
  }
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

export default function NewSite({ loaderData, actionData }: Route.ComponentProps) {
  const [name, setName] = useState('')
  const [text, setText] = useState('')
  // A pasted plan of thousands of lines must not hold up the typing.
  const shown = useDeferredValue(text)
  const plan = useMemo(() => planSite(readOutline(shown), name || 'Home'), [shown, name])
  const pageCount = useMemo(() => walkOutline(plan.top).filter(({ node }) => !node.trial).length + 1, [plan])
  const busy = useNavigation().state !== 'idle'
  const problem = actionData && 'problem' in actionData ? actionData.problem : null

  return (
    <OutsideFrame email={loaderData.email}>
      <Form method="post" className="mx-auto flex h-[calc(100dvh-60px)] max-w-6xl flex-col px-8 pt-8">
        <h1 className="sr-only">A new site</h1>
        <div className="mb-6 grid grid-cols-[1fr_auto] items-end gap-8">
          <label className="block">
            <span className="text-quiet">The site is called</span>
            <input
              className="field font-serif !text-[28px]"
              name="name"
              value={name}
              onChange={(event) => setName(event.target.value)}
              required
              maxLength={200}
              autoFocus
            />
          </label>
          <label className="block w-40">
            <span className="text-quiet">Its language</span>
            <input className="field" name="language" defaultValue="en" maxLength={35} spellCheck={false} />
          </label>
        </div>
        {loaderData.schemes.length > 0 && (
          <label className="mb-4 block text-quiet">
            Names by{' '}
            <select name="scheme" className="field !w-auto text-ink">
              <option value="">the usual scheme</option>
              {loaderData.schemes.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
        )}
        <div className="grid min-h-0 grow gap-8 md:grid-cols-2">
          <div className="grid min-h-0 grid-rows-[auto_1fr]">
            <div className="mb-2 flex items-baseline justify-between">
              <label htmlFor="plan" className="font-serif text-[19px] font-medium">
                Its pages, one a line, indented under each other
              </label>
              {text === '' && (
                <button type="button" className="link text-sm" onClick={() => setText(example)}>
                  Try an example
                </button>
              )}
            </div>
            <textarea
              id="plan"
              name="plan"
              className="area h-full"
              value={text}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={indentWithTab}
              spellCheck={false}
              placeholder={'Home\n  Visit\n    Getting here\n  Contact'}
              aria-describedby="plan-hint"
            />
          </div>
          <div className="grid min-h-0 grid-rows-[auto_1fr]">
            <h2 className="mb-2 text-[19px]">
              What it becomes <span className="font-sans text-sm text-quiet">{count(pageCount, 'page')}</span>
            </h2>
            <div
              className="min-h-0 overflow-auto border-t border-rule"
              tabIndex={0}
              role="region"
              aria-label="The tree"
            >
              <PlanTree plan={plan} siteName={name} />
            </div>
          </div>
        </div>
        <div className="flex items-center gap-6 py-5">
          <Button type="submit" look="go" disabled={busy}>
            {busy ? 'Making the site…' : 'Make this site'}
          </Button>
          <div className="text-sm text-quiet" id="plan-hint">
            {problem ? (
              <p role="alert" className="text-rubric">
                {problem.message}
              </p>
            ) : plan.notes.length > 0 && text !== '' ? (
              plan.notes.map((note) => <p key={note}>{note}</p>)
            ) : (
              <p>Tab indents in the plan; Escape, then Tab leaves it. Everything can be changed later.</p>
            )}
          </div>
        </div>
      </Form>
    </OutsideFrame>
  )
}

/** Tab types an indentation; after Escape it moves on, so that nobody is caught in the field. */
let escaped = false
function indentWithTab(event: React.KeyboardEvent<HTMLTextAreaElement>) {
  if (event.key === 'Escape') {
    escaped = true
    return
  }
  const leave = escaped
  escaped = false
  if (event.key !== 'Tab' || leave || event.ctrlKey || event.altKey || event.metaKey) return
  event.preventDefault()
  const area = event.currentTarget
  const lineStart = area.value.lastIndexOf('\n', area.selectionStart - 1) + 1
  const caret = area.selectionStart
  if (event.shiftKey) {
    const indent = /^ {1,2}|^\t/.exec(area.value.slice(lineStart))?.[0].length ?? 0
    if (indent === 0) return
    area.setRangeText('', lineStart, lineStart + indent, 'preserve')
  } else {
    area.setRangeText('  ', lineStart, lineStart, 'preserve')
    area.setSelectionRange(caret + 2, caret + 2)
  }
  area.dispatchEvent(new Event('input', { bubbles: true }))
}
