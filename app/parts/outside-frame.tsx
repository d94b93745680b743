import type { ReactNode } from 'react'
import { Form } from 'react-router'
import { SignedOut } from '../session/signed-out'
import { Rubric } from './brand'
import { forgetWhoSignsOut } from './forget'

/** The frame of the screens where no site is open. */
export function OutsideFrame({
  email,
  accountId,
  children,
}: {
  email: string | null
  /** Of a view in which work goes on by itself: it stays where its session ends. */
  accountId?: string
  children: ReactNode
}) {
  return (
    <div className="grid min-h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[60px_1fr]">
      <header className="flex items-center gap-6 border-b border-rule px-4 sm:px-5">
        <a href="/sites" className="text-[25px]">
          <Rubric name="Rubricant" />
        </a>
        {email && (
          // Loaded afresh: what was fetched for this account is nobody else's.
          <Form
            method="post"
            action="/sign-out"
            reloadDocument
            onSubmit={forgetWhoSignsOut}
            className="ml-auto flex min-w-0 items-center gap-4 text-sm text-quiet"
          >
            <a href="/account" className="truncate hover:text-ink" title="Your account">
              {email}
            </a>
            <button className="whitespace-nowrap hover:text-ink">Sign out</button>
          </Form>
        )}
      </header>
      <main className="min-w-0">
        {accountId !== undefined && <SignedOut accountId={accountId} />}
        {children}
      </main>
    </div>
  )
}
