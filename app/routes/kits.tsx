import Joi from 'joi'
import { useState } from 'react'
import { Form, Link, useRevalidator } from 'react-router'
import { forgetKit, listKits } from '#server/kits'
import { away } from '../parts/away'
import { isJson } from '../document/post'
import { cardOf, type KitCard, KitPicture } from '../kits/kit-picture'
import { checkInput, readForm, requireAccount, tellProblem } from '../owner.server'
import { FileButton } from '../parts/picks/files'
import { Refusal } from '../parts/notice'
import { OutsideFrame } from '../parts/outside-frame'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/kits'

export const meta: Route.MetaFunction = () => [{ title: 'Kits – Rubricant' }]

const input = Joi.object<{ forget: string }>({
  forget: Joi.string().guid({ version: 'uuidv4' }).required(),
})

export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  return { email: account.email, kits: (await listKits(account.id)).map(cardOf) }
}

/** Forgets a kit of the account. */
export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return tellProblem(async () => {
    const { forget } = checkInput(input, await readForm(request))
    await forgetKit(account.id, forget)
    return null
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function Kits({ loaderData, actionData }: Route.ComponentProps) {
  const { kits, email } = loaderData
  const own = kits.filter(({ isOwn }) => isOwn)
  const { revalidate } = useRevalidator()
  const [told, setTold] = useState<{ readonly reading?: string; readonly problem?: string }>({})

  async function takeIn(file: File) {
    setTold({ reading: file.name })
    try {
      const response = await fetch('/kits/take-in', { method: 'POST', body: file })
      const answer = isJson(response)
        ? ((await response.json()) as { problem?: { message: string } })
        : { problem: { message: away } }
      setTold(answer.problem ? { problem: `${file.name}: ${answer.problem.message}` } : {})
      if (!answer.problem) await revalidate()
    } catch {
      setTold({ problem: away })
    }
  }
  return (
    <OutsideFrame email={email}>
      <div className="mx-auto max-w-5xl px-4 sm:px-8 py-10">
        <div className="mb-2 flex flex-wrap items-baseline gap-6">
          <h1 className="mr-auto text-[34px]">Kits</h1>
          <FileButton
            words="Take one in from a ZIP"
            accept=".zip,application/zip"
            onFile={(file) => void takeIn(file)}
          />
          <Link to="/sites/new" className="rounded-[5px] bg-ink px-3.5 py-2 font-semibold text-paper">
            Start a new site
          </Link>
        </div>
        <p className="mb-6 max-w-prose text-quiet">
          A kit is what a site begins with: how its files are named, its templates and its style sheets. All
          of it can be changed afterwards, and belongs to the site.
        </p>
        {actionData && <Refusal className="mb-4">{actionData.problem}</Refusal>}
        {told.reading && (
          <p role="status" className="mb-4 text-sm text-quiet">
            Reading {told.reading}…
          </p>
        )}
        {told.problem && (
          <p role="alert" className="mb-4 text-sm text-rubric">
            {told.problem}
          </p>
        )}
        <h2 className="mb-3 border-t border-rule pt-5 text-[22px]">Yours</h2>
        {own.length === 0 ? (
          <p className="mb-6 max-w-prose text-quiet">
            None yet. <i>Keep as a kit</i> in the Template view of a site keeps what that one begins with.
          </p>
        ) : (
          <Cards kits={own} />
        )}
        <h2 className="mb-3 border-t border-rule pt-5 text-[22px]">Ready to use</h2>
        <Cards kits={kits.filter(({ isOwn }) => !isOwn)} />
      </div>
    </OutsideFrame>
  )
}

function Cards({ kits }: { kits: readonly KitCard[] }) {
  return (
    <ul className="mb-8 grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-x-8 gap-y-7">
      {kits.map((kit) => (
        <li key={kit.id} className="min-w-0">
          <KitPicture kit={kit} width={240} />
          <h3 className="mt-2 text-[19px]">{kit.name}</h3>
          <p className="text-sm text-quiet">{kit.about}</p>
          <div className="mt-1 flex gap-4 text-sm">
            <Link
              className="link"
              to={`/sites/new?kit=${kit.id}`}
              aria-label={`Begin a site with ${kit.name}`}
            >
              Begin a site
            </Link>
            <a className="link" href={`/kits/${kit.id}/kit.zip`} aria-label={`${kit.name} as a ZIP`} download>
              As a ZIP
            </a>
            {kit.isOwn && (
              <Form method="post">
                <input type="hidden" name="forget" value={kit.id} />
                <button className="link" aria-label={`Forget ${kit.name}`}>
                  Forget
                </button>
              </Form>
            )}
          </div>
        </li>
      ))}
    </ul>
  )
}
