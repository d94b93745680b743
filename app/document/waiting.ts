import type { ChangeRequest } from '#core/change'
import type { AskedChange } from './site-state'

/** Something to send; who asked hears how it went. */
export interface Waiting {
  /** Sent with it: asked for again because the answer was lost, it is made once. */
  readonly id: string
  readonly body:
    { do: 'change'; change: ChangeRequest; shown: boolean; actId?: string } | { do: 'undo' | 'redo' }
  readonly done: (saved: boolean) => void
}

/** A change whose author is asked about it; who made it hears how it went. */
export interface WaitingForAnswer extends AskedChange {
  readonly done: (saved: boolean) => void
}
