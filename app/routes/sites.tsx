import { Form, Link, redirect } from 'react-router'
import { Problem } from '#core/problems'
import { pool } from '#server/platform'
import { deleteSite, listSites } from '#server/sites'
import { readForm, requireAccount, requireSite, tellProblem } from '../owner.server'
import { Button } from '../parts/button'
import { count, moment } from '../parts/format'
import { Refusal } from '../parts/notice'
import { OutsideFrame } from '../parts/outside-frame'
import { mayRole } from '#core/site'
import { roleWords } from '../people/role-words'
import { TakeArchive } from '../sites/take-archive'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/sites'

export const meta: Route.MetaFunction = () => [{ title: 'Your sites – Rubricant' }]

export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  const sites = await listSites(pool(), account.id)
  return {
    accountId: account.id,
    email: account.email,
    sites: sites.map((site) => ({ ...site, changed: moment(site.changedAt) })),
  }
}

export async function action({ request }: Route.ActionArgs) {
  await requireAccount(request)
  const form = await readForm(request)
  const { account, site } = await requireSite(request, form.siteId ?? '', 'remove')
  return tellProblem(async () => {
    // The name typed by hand is the question "are you sure", asked with what it is about.
    if (form.typed !== site.name) throw new Problem('not-this-name', { name: site.name })
    await deleteSite(pool(), site.id, account.id)
    return redirect('/sites')
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function Sites({ loaderData, actionData }: Route.ComponentProps) {
  const { accountId, sites, email } = loaderData
  return (
    <OutsideFrame email={email} accountId={accountId}>
      <div className="mx-auto max-w-4xl px-4 py-8 sm:px-8 sm:py-12">
        <div className="mb-6 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-4">
          <h1 className="text-[34px]">Your sites</h1>
          {sites.length > 0 && (
            <span className="flex flex-wrap items-baseline gap-x-5 gap-y-3">
              <Link to="/kits" className="link">
                Kits
              </Link>
              <TakeArchive />
              <Link to="/sites/bring" className="link">
                Bring a site in
              </Link>
              <Link to="/sites/new" className="rounded-[5px] bg-ink px-3.5 py-2 font-semibold text-paper">
                Start a new site
              </Link>
            </span>
          )}
        </div>
        {actionData && <Refusal className="mb-5">{actionData.problem}</Refusal>}
        {sites.length === 0 ? (
          <div className="border-t border-rule pt-8">
            <p className="mb-6 max-w-prose text-[17px] text-quiet">
              Nothing here yet. A site begins as a list of its pages: give it a name, type the pages as an
              indented list, and everything else follows from that.
            </p>
            <Link to="/sites/new" className="rounded-[5px] bg-ink px-3.5 py-2 font-semibold text-paper">
              Start your first site
            </Link>{' '}
            <Link to="/sites/bring" className="link ml-4">
              or bring one in that exists already
            </Link>
            <p className="mt-6 flex flex-wrap items-baseline gap-3 text-quiet">
              You took one away from another Rubricant? <TakeArchive />
            </p>
          </div>
        ) : (
          <ul className="border-t border-rule">
            {sites.map((site) => (
              <li
                key={site.id}
                className="folds relative grid grid-cols-[minmax(0,1fr)_6rem_11rem_auto_auto] items-center gap-4 border-b border-rule py-3"
              >
                <Link
                  to={`/sites/${site.id}/plan`}
                  className="truncate font-serif text-[22px] hover:text-lapis"
                >
                  {site.name}
                </Link>
                <span className="text-quiet">{count(site.pageCount, 'page')}</span>
                <span className="text-quiet">changed {site.changed}</span>
                {mayRole(site.role, 'manage') ? <TakeAway siteId={site.id} /> : <span />}
                {site.role !== 'owner' ? (
                  <span className="text-quiet">
                    {site.owner}’s · {roleWords[site.role].word}
                  </span>
                ) : (
                  <details className="sm:relative">
                    <summary className="cursor-pointer list-none text-quiet sm:px-1 hover:text-ink">
                      Remove
                    </summary>
                    <Form
                      method="post"
                      className="absolute right-0 z-10 mt-1 grid gap-3 max-sm:left-0 sm:w-80 border border-rule bg-paper p-4 shadow-[0_6px_20px_rgb(0_0_0/0.12)]"
                    >
                      <input type="hidden" name="siteId" value={site.id} />
                      <p>
                        This removes {count(site.pageCount, 'page')} here for good, with all deliveries’
                        records. What is on a host stays there.
                      </p>
                      <label>
                        Type the site’s name to remove it
                        <input
                          className="field"
                          name="typed"
                          required
                          autoComplete="off"
                          pattern={escapeForPattern(site.name)}
                        />
                      </label>
                      <div>
                        <Button type="submit" look="remove">
                          Remove this site
                        </Button>
                      </div>
                    </Form>
                  </details>
                )}
              </li>
            ))}
          </ul>
        )}
      </div>
    </OutsideFrame>
  )
}

/** Everything of a site, to be kept or brought to another server. */
function TakeAway({ siteId }: { siteId: string }) {
  return (
    <details className="sm:relative">
      <summary className="cursor-pointer list-none text-quiet sm:px-1 hover:text-ink">Take away</summary>
      <div className="absolute right-0 z-10 mt-1 grid gap-2 max-sm:left-0 sm:w-80 border border-rule bg-paper p-4 shadow-[0_6px_20px_rgb(0_0_0/0.12)]">
        <p>
          A ZIP with the plan, scheme, templates, texts, files and notes, as files that anybody can read. Any
          Rubricant makes the same site of it.
        </p>
        <a className="link" href={`/sites/${siteId}/archive.zip`} download>
          As it is now
        </a>
        <a className="link" href={`/sites/${siteId}/archive.zip?versions=true`} download>
          With its earlier versions
        </a>
        <a className="link" href={`/sites/${siteId}/site.zip`} download>
          The finished site alone
        </a>
      </div>
    </details>
  )
}

/** A text as a regular expression for itself, in the `v` mode that `pattern` uses. */
const escapeForPattern = (text: string) => text.replace(/[\\^$.*+?()[\]{}|/&\-!#%,:;<=>@`~]/g, '\\$&')
