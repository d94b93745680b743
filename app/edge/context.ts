import { createContext } from 'react-router'

/** What the server knows of a request beside the request itself. */
export interface RequestContext {
  /** Random for each answer; scripts and styles of the application carry it (CSP Level 3 §2.3.1). */
  readonly nonce: string
  readonly requestId: string
  readonly remoteAddress: string
}

export const requestContext = createContext<RequestContext>({ nonce: '', requestId: '', remoteAddress: '' })
