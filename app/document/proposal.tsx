import { createContext, type ReactNode, useContext, useMemo, useState } from 'react'
import type { Scheme } from '#core/site'

/** A naming scheme that is being tried: shown beside the one in use, stored only when applied. */
interface Proposal {
  readonly scheme: Scheme | null
  readonly propose: (scheme: Scheme | null) => void
}

const ProposalContext = createContext<Proposal | null>(null)

export function ProposalProvider({ children }: { children: ReactNode }) {
  const [scheme, propose] = useState<Scheme | null>(null)
  const value = useMemo(() => ({ scheme, propose }), [scheme])
  return <ProposalContext value={value}>{children}</ProposalContext>
}

export function useProposal(): Proposal {
  const value = useContext(ProposalContext)
  if (!value) throw new Error('Used outside ProposalProvider')
  return value
}
