import { createContext, type ReactNode, useContext, useMemo, useState } from 'react'
import { useLocation } from 'react-router'
import type { Scheme } from '#core/site'
import { viewOf } from '../frame/views'
import { useProposedNames } from '../names/use-proposed-names'
import { useSite } from './site-context'

/** A naming scheme that is being tried: shown beside the one in use, stored only when applied. */
interface Proposal {
  readonly scheme: Scheme | null
  readonly propose: (scheme: Scheme | null) => void
  /** Path of every page under it, by page id; null while there is none. */
  readonly paths: ReadonlyMap<string, string> | null
}

const ProposalContext = createContext<Proposal | null>(null)

export function ProposalProvider({ children }: { children: ReactNode }) {
  const { site } = useSite()
  const [scheme, propose] = useState<Scheme | null>(null)
  const inNames = viewOf(useLocation().pathname) === 'names'
  const paths = useProposedNames(site, scheme, inNames)
  const value = useMemo(() => ({ scheme, propose, paths }), [scheme, paths])
  return <ProposalContext value={value}>{children}</ProposalContext>
}

export function useProposal(): Proposal {
  const value = useContext(ProposalContext)
  if (!value) throw new Error('Used outside ProposalProvider')
  return value
}
