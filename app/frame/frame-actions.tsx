import { createContext, useContext } from 'react'

/** What a view may ask of the frame around it. */
export interface FrameActions {
  /** Asks before pages are removed, at the foot of the register. */
  readonly askRemove: (pageIds: readonly string[]) => void
}

export const FrameActionsContext = createContext<FrameActions | null>(null)

export function useFrameActions(): FrameActions {
  const value = useContext(FrameActionsContext)
  if (!value) throw new Error('Used outside the frame')
  return value
}
