import type pg from 'pg'
import { listenClient, pool } from './pool'
import { log } from './log'

/** Something that other windows and processes want to know at once. */
export type SiteEvent =
  | { readonly siteId: string; readonly kind: 'revision'; readonly revision: number }
  /** Who takes part, or with what role, has changed. */
  | { readonly siteId: string; readonly kind: 'people' }
  /** Somebody wrote, answered or settled a note. */
  | { readonly siteId: string; readonly kind: 'notes' }
  | Presence
  | ({ readonly siteId: string; readonly kind: 'delivery'; readonly deliveryId: string } & DeliveryEvent)

/** Where somebody is in a site, told by their window as long as it is open. */
export interface Presence {
  readonly siteId: string
  readonly kind: 'presence'
  /** Of one window; an account may have several. */
  readonly window: string
  readonly accountId: string
  readonly name: string
  /** The page that it shows; null once it is closed. */
  readonly pageId: string | null
  /** Whether it has only begun to hear, and wants to be told who else is where. */
  readonly asks: boolean
}

/** How a delivery stands, light enough to be told several times a second. */
export interface DeliveryEvent {
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
  readonly fileTotal: number
  readonly byteTotal: number
  readonly fileCount: number
  readonly byteCount: number
}

type Listener = (event: SiteEvent) => void

const channel = 'rubricant_events'
const listeners = new Map<string, Set<Listener>>()
/** Called when what was missed has to be fetched: the connection that hears was away. */
const gaps = new Set<() => void>()
let listening: Promise<pg.Client> | null = null
let reconnecting: NodeJS.Timeout | null = null

const retryMs = [100, 250, 500, 1_000, 2_000]

/** Tells every process; whoever listens for the site hears it (PostgreSQL NOTIFY). */
export async function announce(event: SiteEvent): Promise<void> {
  await pool().query('SELECT pg_notify($1, $2)', [channel, JSON.stringify(event)])
}

/** Tells of what is stored already: when that fails, nothing of it is lost, and windows learn it later. */
export function announceSoon(event: SiteEvent): void {
  announce(event).catch((error: unknown) => log.warn({ err: error }, 'announcing'))
}

async function connect(): Promise<pg.Client> {
  const client = listenClient()
  let lost = false
  const lose = (error: Error | undefined) => {
    if (lost) return
    lost = true
    if (error) log.warn({ err: error }, 'event connection lost')
    listening = null
    client.end().catch(() => {})
    reconnect(0)
  }
  client.on('error', lose)
  client.on('end', () => lose(undefined))
  client.on('notification', ({ payload }) => {
    let event: SiteEvent
    try {
      event = JSON.parse(payload ?? '') as SiteEvent
    } catch (error) {
      log.warn({ err: error }, 'an event that cannot be read')
      return
    }
    for (const listener of listeners.get(event.siteId) ?? []) listener(event)
  })
  try {
    await client.connect()
    await client.query(`LISTEN ${channel}`)
  } catch (error) {
    lost = true
    client.end().catch(() => {})
    throw error
  }
  return client
}

/** Tries until it succeeds, as long as anybody listens; then everybody fetches what was missed. */
function reconnect(failures: number): void {
  if (listeners.size === 0 || reconnecting) return
  const pause = retryMs[Math.min(failures, retryMs.length - 1)]!
  reconnecting = setTimeout(() => {
    reconnecting = null
    ensureListening().then(
      () => {
        for (const tell of gaps) tell()
      },
      () => reconnect(failures + 1),
    )
  }, pause)
  reconnecting.unref()
}

function ensureListening(): Promise<pg.Client> {
  listening ??= connect().catch((error: unknown) => {
    listening = null
    throw error
  })
  return listening
}

/**
 * Hears a site's events until the returned function is called.
 * @param onGap called after events may have been missed
 */
export async function listen(siteId: string, listener: Listener, onGap: () => void): Promise<() => void> {
  const group = listeners.get(siteId) ?? new Set()
  group.add(listener)
  listeners.set(siteId, group)
  gaps.add(onGap)
  const stop = () => {
    group.delete(listener)
    gaps.delete(onGap)
    if (group.size === 0 && listeners.get(siteId) === group) listeners.delete(siteId)
  }
  try {
    await ensureListening()
  } catch (error) {
    stop()
    throw error
  }
  return stop
}

/** Ends the connection that listens. */
export async function stopListening(): Promise<void> {
  listeners.clear()
  gaps.clear()
  if (reconnecting) clearTimeout(reconnecting)
  reconnecting = null
  const client = await listening?.catch(() => null)
  listening = null
  await client?.end()
}
